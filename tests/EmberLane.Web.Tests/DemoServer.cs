using System.Text.RegularExpressions;
using EmberLane.Application.Work;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Tests;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

[assembly: CollectionBehavior(DisableTestParallelization = true)]
[assembly: TestCaseOrderer(typeof(ChosenOrder))]
[assembly: TestCollectionOrderer(typeof(ChosenOrder))]

namespace EmberLane.Web.Tests;

/// <summary>
/// A server with the demonstration production whose background work is done, and a browser; one for each class of tests. The production is
/// laid out once; each class works on a copy of its own.
/// </summary>
public partial class DemoServer : IAsyncLifetime
{
    private static readonly Lazy<Task<string>> Prepared = new(PrepareAsync);

    public string Data { get; } = Directory.CreateTempSubdirectory("ember-web").FullName;

    public RunningServer Server { get; private set; } = null!;

    public Browser Browser { get; private set; } = null!;

    public async ValueTask InitializeAsync()
    {
        Copy(await Prepared.Value, Data);
        Server = await RunningServer.StartAsync(Data, demo: true, Asked);
        await IdleAsync();
        Browser = new Browser();
    }

    /// <summary>What the server is asked for.</summary>
    protected virtual Options Asked(Options usual) => usual;

    private static async Task<string> PrepareAsync()
    {
        var folder = Directory.CreateTempSubdirectory("ember-prepared").FullName;
        AppDomain.CurrentDomain.ProcessExit += (_, _) => Directory.Delete(folder, recursive: true);
        await using (var server = await RunningServer.StartAsync(folder, demo: true))
        {
            await RunningServer.UntilAsync(() => IsIdle(server), "all background work");
            // Most tests mend and mark what a recogniser heard, with all its mistakes; the typed text stays beside it.
            var texts = server.Services.GetRequiredService<Texts>();
            foreach (var sitting in new long[] { 1, 2 })
            {
                texts.Choose(sitting, texts.Of(sitting)[^1].Id, "logger");
            }
        }
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        return folder;
    }

    // The database names the footage by its path, which is another one in the copy.
    private static void Copy(string from, string to)
    {
        foreach (var file in Directory.EnumerateFiles(from, "*", SearchOption.AllDirectories))
        {
            var copy = Path.Combine(to, Path.GetRelativePath(from, file));
            Directory.CreateDirectory(Path.GetDirectoryName(copy)!);
            File.Copy(file, copy);
        }
        using var connection = new Microsoft.Data.Sqlite.SqliteConnection($"Data Source={Path.Combine(to, "ember.sqlite")};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = "UPDATE source SET path = replace(path, $from, $to)";
        command.Parameters.AddWithValue("$from", from);
        command.Parameters.AddWithValue("$to", to);
        command.ExecuteNonQuery();
    }

    public T Get<T>()
        where T : notnull => Server.Services.GetRequiredService<T>();

    public Task IdleAsync() => RunningServer.UntilAsync(() => IsIdle(Server), "all background work");

    private static bool IsIdle(RunningServer server) =>
        server.Services.GetRequiredService<Upkeep>().IsIdle && server.Services.GetRequiredService<Jobs>().Of(1, 200).All(j => !j.IsOpen);

    public void Open(string path) => Browser.Open(Server.Address + path);

    /// <summary>Opens a sitting's page, as one that was never read, and waits until it takes keys.</summary>
    public void OpenRead(int sitting)
    {
        ForgetPlaces();
        Open(FormattableString.Invariant($"/productions/1/read/{sitting}"));
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
    }

    /// <summary>As in a browser in which nothing was read yet.</summary>
    public void ForgetPlaces()
    {
        Open("/settings");
        Browser.Run<object?>(
            "Object.keys(localStorage).filter((k) => k.startsWith('read-place')).forEach((k) => localStorage.removeItem(k)); return null"
        );
    }

    /// <summary>Opens the story in hand of a production, and waits until it takes keys.</summary>
    public void OpenStory(long production = 1)
    {
        Open(FormattableString.Invariant($"/productions/{production}/story"));
        Browser.Until(
            () => Browser.Run<bool>("return Boolean(window.Sortable && Sortable.get(document.getElementById('cards')))"),
            "the story"
        );
    }

    /// <summary>The text that the first sitting is read by, as it is now.</summary>
    public Transcript Crossing => Get<Store.Transcripts>().Get(Get<Footage>().Sitting(1)!.TranscriptId!.Value);

    /// <summary>The number of the first word of something that is said in the first sitting.</summary>
    public WordNumber WordOf(string said) => Crossing.At(PlaceOf(said)).Number;

    /// <summary>The place of the first word of something that is said in the first sitting.</summary>
    public TextPlace PlaceOf(string said)
    {
        var text = Crossing;
        return TextPlace.Between(TextPlace.First, text.Last).First(p => text.Said(p, p + said.Split(' ').Length - 1) == said);
    }

    /// <summary>Opens the first sitting's page at a word.</summary>
    public void OpenReadAt(WordNumber word)
    {
        // Another address first: going to a word of the page that is open would not load it again.
        Open("/settings");
        Open(FormattableString.Invariant($"/productions/1/read/1#word-{word}"));
        Browser.Until(() => Browser.Run<bool>("return document.getElementById('read')?.dataset.ready === 'true'"), "the page of turns");
    }

    /// <summary>Sends a file as a form would.</summary>
    public async Task<HttpResponseMessage> UploadAsync(string path, string name, byte[] content)
    {
        using var client = new HttpClient { BaseAddress = new Uri(Server.Address) };
        var page = await client.GetStringAsync(new Uri("/settings", UriKind.Relative), TestContext.Current.CancellationToken);
        using var file = new ByteArrayContent(content);
        using var form = new MultipartFormDataContent { { file, "file", name } };
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(path, UriKind.Relative)) { Content = form };
        request.Headers.Add("RequestVerificationToken", Token().Match(page).Groups[1].Value);
        return await client.SendAsync(request, TestContext.Current.CancellationToken);
    }

    /// <summary>Sends a form as a page's own request does; the answer is a fragment, or why it was refused.</summary>
    public async Task<HttpResponseMessage> PostAsync(string path, IEnumerable<KeyValuePair<string, string>> form)
    {
        using var client = new HttpClient { BaseAddress = new Uri(Server.Address) };
        var page = await client.GetStringAsync(new Uri("/settings", UriKind.Relative), TestContext.Current.CancellationToken);
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(path, UriKind.Relative))
        {
            Content = new FormUrlEncodedContent(form),
        };
        request.Headers.Add("RequestVerificationToken", Token().Match(page).Groups[1].Value);
        request.Headers.Add("HX-Request", "true");
        return await client.SendAsync(request, TestContext.Current.CancellationToken);
    }

    [GeneratedRegex("RequestVerificationToken\":\"([^\"]+)\"")]
    private static partial Regex Token();

    /// <summary>Selects so many words from the one at the cursor on.</summary>
    public void SelectWords(int count)
    {
        for (var i = 1; i < count; i++)
        {
            Browser.PressWithShift(Keys.ArrowRight);
        }
        Browser.UntilText("#selected-figure", FormattableString.Invariant($"{count} words"));
    }

    public async ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        Browser?.Dispose();
        await Server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(Data, recursive: true);
    }
}
