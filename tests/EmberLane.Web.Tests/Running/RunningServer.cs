using System.Net;
using System.Net.Sockets;
using EmberLane.Web;
using Microsoft.AspNetCore.Builder;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Running;

/// <summary>The real server on a free port of this machine, in this process, with a data folder of its own.</summary>
public sealed class RunningServer : IAsyncDisposable
{
    private readonly WebApplication app;

    private RunningServer(WebApplication app, Options options) => (this.app, Options) = (app, options);

    public Options Options { get; }

    public string Address => FormattableString.Invariant($"http://127.0.0.1:{Options.Port}");

    public IServiceProvider Services => app.Services;

    public static string Repository { get; } = FindRepository();

    public static Task<RunningServer> StartAsync(
        string data,
        bool demo,
        Action<IServiceCollection>? adjust = null,
        params string[] footage
    ) => StartAsync(data, demo, o => o, adjust, footage);

    /// <summary>As above, with what <paramref name="asked"/> makes of its options.</summary>
    public static async Task<RunningServer> StartAsync(
        string data,
        bool demo,
        Func<Options, Options> asked,
        Action<IServiceCollection>? adjust = null,
        params string[] footage
    )
    {
        var options = asked(
            new Options
            {
                Data = data,
                Port = FreePort(),
                Footage = footage,
                Demo = demo ? Path.Combine(Repository, "demo") : null,
                ScriptFolder = Path.Combine(Repository, "demo", "footage"),
            }
        );
        var app = Server.Build(options, adjust);
        if (options.Demo is { } folder)
        {
            await app
                .Services.GetRequiredService<EmberLane.Application.Demo.DemoProduction>()
                .PrepareAsync(folder, TextWriter.Null, CancellationToken.None);
        }
        await app.StartAsync();
        return new RunningServer(app, options);
    }

    /// <summary>Waits until a condition holds, asking often; throws <see cref="TimeoutException"/> that says what was waited for.</summary>
    public static async Task UntilAsync(Func<bool> holds, string what, int seconds = 120)
    {
        var limit = Patience.Of(seconds);
        var end = DateTime.UtcNow + limit;
        while (!holds())
        {
            if (DateTime.UtcNow > end)
            {
                throw new TimeoutException($"Waited {limit.TotalSeconds:0} s for: {what}.");
            }
            await Task.Delay(50);
        }
    }

    public async ValueTask DisposeAsync()
    {
        using var limit = new CancellationTokenSource(TimeSpan.FromSeconds(10));
        await app.StopAsync(limit.Token);
        await app.DisposeAsync();
    }

    internal static int FreePort()
    {
        using var listener = new TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }

    private static string FindRepository()
    {
        var folder = new DirectoryInfo(AppContext.BaseDirectory);
        while (folder is not null && !File.Exists(Path.Combine(folder.FullName, "EmberLane.slnx")))
        {
            folder = folder.Parent;
        }
        return folder?.FullName ?? throw new InvalidOperationException("The tests and the bench run inside the repository.");
    }
}
