using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

[assembly: CollectionBehavior(DisableTestParallelization = true)]

namespace EmberLane.Web.Tests;

/// <summary>A server with the demonstration production whose background work is done, and a browser; one for each class of tests.</summary>
public sealed class DemoServer : IAsyncLifetime
{
    public string Data { get; } = Directory.CreateTempSubdirectory("ember-web").FullName;

    public RunningServer Server { get; private set; } = null!;

    public Browser Browser { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        Server = await RunningServer.StartAsync(Data, demo: true);
        await IdleAsync();
        Browser = new Browser();
    }

    public T Get<T>()
        where T : notnull => Server.Services.GetRequiredService<T>();

    public Task IdleAsync() => RunningServer.UntilAsync(() => Get<Jobs>().Of(1, 200).All(j => !j.IsOpen), "all background work");

    public void Open(string path) => Browser.Open(Server.Address + path);

    /// <summary>Opens a sitting's page and waits until it takes keys.</summary>
    public void OpenRead(int sitting)
    {
        Open(FormattableString.Invariant($"/productions/1/read/{sitting}"));
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
    }

    public async ValueTask DisposeAsync()
    {
        Browser?.Dispose();
        await Server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(Data, recursive: true);
    }
}
