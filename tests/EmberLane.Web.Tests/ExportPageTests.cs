using System.Net;
using EmberLane.Application.Exports;
using EmberLane.Core.People;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>A production taken out whole on one server and brought in on another, and by command.</summary>
public sealed class ExportPageTests(DemoServer demo) : IClassFixture<DemoServer>, IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-export-page").FullName;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private Browser Browser => demo.Browser;

    public void Dispose() => Directory.Delete(folder, recursive: true);

    private async Task<string> ExportedAsync()
    {
        using var client = new HttpClient { BaseAddress = new Uri(demo.Server.Address) };
        using var answer = await client.GetAsync(new Uri("/?handler=Export&id=1", UriKind.Relative), Cancel);
        Assert.Equal("slack_water.ember.zip", answer.Content.Headers.ContentDisposition!.FileName);
        var file = Path.Combine(folder, "slack.zip");
        await File.WriteAllBytesAsync(file, await answer.Content.ReadAsByteArrayAsync(Cancel), Cancel);
        return file;
    }

    [Fact]
    public async Task It_comes_in_beside_the_other_with_its_files_found_by_content_its_words_its_story_and_its_undo()
    {
        var file = await ExportedAsync();
        demo.Open("/");
        Browser.Click("#bring-in summary");
        Assert.Equal("", ScreenReader.Trouble(Browser));
        Browser.Find("#export").SendKeys(file);
        Browser.Click("#bring-in .btn");
        Browser.UntilText(".top-name", "Slack Water (2)");
        await demo.IdleAsync();
        var footage = demo.Get<Footage>();
        Assert.Equal(footage.Sources(1).Select(s => (s.Name, s.Path)), footage.Sources(2).Select(s => (s.Name, s.Path)));
        Assert.All(footage.Sources(2), s => Assert.Equal(FileState.Here, s.State));
        var (one, two) = (demo.Get<Stories>().Get(1, "")!, demo.Get<Stories>().Get(demo.Get<Stories>().InHand(2)!.Value, "")!);
        Assert.Equal(
            demo.Get<Application.Rooms.Desk>().Cards(one).Values.Select(c => c.Said),
            demo.Get<Application.Rooms.Desk>().Cards(two).Values.Select(c => c.Said)
        );
        Assert.Equal(
            demo.Get<Application.Rooms.Desk>().CutOf(one).RunningTime(one.Start.Count.Rate),
            demo.Get<Application.Rooms.Desk>().CutOf(two).RunningTime(two.Start.Count.Rate)
        );
        demo.OpenStory(2);
        Assert.Equal(one.Story.Cards.Count, Browser.All("#cards .card-piece").Count);
        foreach (var room in new[] { "gather", "read", "bites", "handoff", "changes", "versions", "comments", "find?q=cable" })
        {
            demo.Open("/productions/2/" + room);
            Browser.UntilText(".top-name", "Slack Water (2)");
            Assert.DoesNotContain("went wrong", Browser.Text("main"), StringComparison.Ordinal);
        }
        Browser.UntilText("main", "cable");
        Assert.Empty(Directory.EnumerateFileSystemEntries(Path.Combine(demo.Data, "cache"), "import-*"));
        Assert.Empty(Directory.EnumerateFileSystemEntries(Path.Combine(demo.Data, "cache"), "export-*"));
    }

    [Fact]
    public void What_is_no_export_is_refused_with_a_word()
    {
        var file = Path.Combine(folder, "other.zip");
        File.WriteAllText(file, "no zip at all");
        demo.Open("/");
        Browser.Click("#bring-in summary");
        Browser.Find("#export").SendKeys(file);
        Browser.Click("#bring-in .btn");
        Browser.UntilText("[role=alert]", "That is no export of a production");
    }

    [Fact]
    public async Task By_command_it_is_brought_into_a_folder_that_was_empty_and_never_beside_a_server()
    {
        async Task<string> RunAsync(params string[] arguments)
        {
            await using var output = new StringWriter();
            Assert.Equal(0, await CommandLine.RunAsync(arguments, output, Cancel));
            return output.ToString();
        }
        var file = Path.Combine(folder, "by-command.zip");
        Assert.Contains(
            "12 files listed",
            await RunAsync("export", "slack water", "--data", demo.Data, "--out", file),
            StringComparison.Ordinal
        );
        var twice = await Assert.ThrowsAsync<ArgumentException>(() =>
            RunAsync("export", "Slack Water", "--data", demo.Data, "--out", file)
        );
        Assert.Contains("is there already", twice.Message, StringComparison.Ordinal);
        var none = await Assert.ThrowsAsync<ArgumentException>(() => RunAsync("export", "Salt", "--data", demo.Data));
        Assert.Contains("There are: Slack Water", none.Message, StringComparison.Ordinal);
        await Assert.ThrowsAsync<StoreException>(() => RunAsync("import", file, "--data", demo.Data));
        var there = Path.Combine(folder, "there");
        Assert.Contains("Slack Water is in place", await RunAsync("import", file, "--data", there), StringComparison.Ordinal);
        Assert.Contains("Slack Water", await RunAsync("find", "cable", "--data", there), StringComparison.Ordinal);
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    }

    [Fact]
    public async Task Only_who_runs_a_production_takes_it_out_and_only_owners_bring_one_in()
    {
        var data = Path.Combine(folder, "door");
        await using (var server = await RunningServer.StartAsync(data, demo: false, o => o with { Accounts = true }))
        {
            T Get<T>()
                where T : notnull => server.Services.GetRequiredService<T>();
            var production = Get<Footage>().AddProduction("Slack Water");
            using var owner = await DoorVisitor.OwnerAsync(server);
            Task<DoorVisitor> JoinAsync(string name, Role role) =>
                DoorVisitor.JoinAsync(server, Get<Application.People.Admitting>().Invite(production, role, name, 7, "Wren Adair"), name);
            using var producer = await JoinAsync("Ida Loom", Role.Producer);
            using var editor = await JoinAsync("Bo Fen", Role.Editor);
            var address = FormattableString.Invariant($"/?handler=Export&id={production}");
            Assert.Equal(HttpStatusCode.OK, await producer.StatusAsync(address));
            Assert.Equal(HttpStatusCode.NotFound, await editor.StatusAsync(address));
            Assert.Equal(HttpStatusCode.Forbidden, (await producer.AskAsync("/", "/?handler=Bring")).Status);
            Assert.Contains(Get<DoorLog>().Newest(9, productionId: production), l => l is { Event: DoorEvent.TakenOut, Who: "Ida Loom" });
            Assert.Equal("slack_water.ember.zip", ProductionMoves.FileName(Get<Productions>().All()[0]));
        }
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
    }
}
