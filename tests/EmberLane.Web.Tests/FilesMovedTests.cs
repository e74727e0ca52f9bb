using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>Files that move, go or change under the production.</summary>
public sealed class FilesMovedTests : IAsyncLifetime
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-moved").FullName,
        disk = Directory.CreateTempSubdirectory("ember-disk").FullName;
    private RunningServer server = null!;
    private long production;

    private Footage Footage => server.Services.GetRequiredService<Footage>();

    private Jobs Jobs => server.Services.GetRequiredService<Jobs>();

    public async ValueTask InitializeAsync()
    {
        Directory.CreateDirectory(Path.Combine(disk, "day 1"));
        MadeMedia.Sound(In("day 1/a.wav"), 2);
        MadeMedia.Film(In("day 1/b.mov"), "25", 2);
        server = await RunningServer.StartAsync(data, demo: false, null, disk);
        production = Footage.AddProduction("Moved");
        await server
            .Services.GetRequiredService<Intake>()
            .BringInAsync(production, "Hut", [In("day 1/a.wav"), In("day 1/b.mov")], CancellationToken.None);
        await IdleAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await server.DisposeAsync();
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
        Directory.Delete(disk, recursive: true);
    }

    private string In(string name) => Path.Combine(disk, name);

    private Task IdleAsync() => RunningServer.UntilAsync(() => Jobs.Of(production, 100).All(j => !j.IsOpen), "all work");

    private async Task LookAsync()
    {
        FilesWatch.Queue(Jobs, production);
        server.Services.GetRequiredService<News>().Tell();
        await IdleAsync();
    }

    private Source Named(string name) => Footage.Sources(production).Single(s => s.Name == name);

    [Fact]
    public async Task A_folder_that_moved_and_a_renamed_file_are_found_again_by_content_below_the_folder_that_a_person_names()
    {
        Directory.CreateDirectory(In("archive/old"));
        File.Move(In("day 1/a.wav"), In("archive/old/interview – 音.wav"));
        File.Move(In("day 1/b.mov"), In("archive/b.mov"));
        File.WriteAllText(In("archive/c.txt"), "something else");
        Assert.True(server.Services.GetRequiredService<FilesCheck>().LooksChanged(production));
        await LookAsync();
        Assert.Equal([FileState.Missing, FileState.Missing], Footage.Sources(production).Select(s => s.State));
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/gather"));
        browser.UntilText(".gather-side", "2 files are missing or replaced");
        browser.Click(".gather-side .look-line a");
        browser.UntilText("#count", "2 files");
        browser.UntilText("#files", "missing");
        browser.Empty("#find-in");
        browser.Type("#find-in", In("archive") + OpenQA.Selenium.Keys.Enter);
        Browser.Until(() => browser.All("#find-again").Count == 0, "the word on missing files to go");
        var found = Named("interview – 音.wav");
        Assert.Equal((In("archive/old/interview – 音.wav"), FileState.Here), (found.Path, found.State));
        Assert.Equal(In("archive/b.mov"), Named("b.mov").Path);
        Assert.False(server.Services.GetRequiredService<FilesCheck>().LooksChanged(production));
        Assert.NotNull(found.Place);
    }

    [Fact]
    public async Task Other_content_under_the_same_name_is_noticed_never_used_for_it_and_can_come_in_as_a_file_of_its_own()
    {
        var first = Named("a.wav");
        var length = new FileInfo(first.Path).Length;
        // The same size, so that only reading it tells.
        MadeMedia.Make("-f", "lavfi", "-i", "anoisesrc=duration=2:seed=77", "-ar", "16000", first.Path);
        Assert.Equal(length, new FileInfo(first.Path).Length);
        File.SetLastWriteTimeUtc(first.Path, DateTime.UtcNow.AddHours(1));
        await LookAsync();
        Assert.Equal(FileState.Replaced, Footage.Source(first.Id)!.State);
        var job = Jobs.Add(production, "transcribe", first.SittingId!.Value, "Transcript", "local");
        server.Services.GetRequiredService<News>().Tell();
        await RunningServer.UntilAsync(() => Jobs.Get(job)!.State == "failed", "the transcript to be refused");
        Assert.Contains("holds something else", Jobs.Get(job)!.Error, StringComparison.Ordinal);
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/gather/files?of=missing"));
        browser.UntilText("#files", "replaced by another file");
        browser.Click("#take-new");
        browser.UntilText("#said", "1 file brought in as loose footage.");
        Assert.Equal(2, Footage.Sources(production).Count(s => s.Name == "a.wav"));
        Assert.Equal(FileState.Here, Footage.Sources(production).Single(s => s.Name == "a.wav" && s.SittingId is null).State);
        Assert.Equal(FileState.Replaced, Footage.Source(first.Id)!.State);
        await IdleAsync();
    }

    [Fact]
    public async Task A_file_that_was_only_touched_is_still_itself_and_a_folder_outside_is_not_searched()
    {
        File.SetLastWriteTimeUtc(In("day 1/b.mov"), DateTime.UtcNow.AddHours(1));
        await LookAsync();
        Assert.All(Footage.Sources(production), s => Assert.Equal(FileState.Here, s.State));
        File.Delete(In("day 1/b.mov"));
        await LookAsync();
        var job = Jobs.Add(production, "find", production, "Looked for", "/etc");
        server.Services.GetRequiredService<News>().Tell();
        await RunningServer.UntilAsync(() => Jobs.Get(job)!.State == "failed", "the search to be refused");
        Assert.Contains("not a folder that footage may be read from", Jobs.Get(job)!.Error, StringComparison.Ordinal);
        var sync = Jobs.Add(production, "sync", 1, "Sync");
        server.Services.GetRequiredService<News>().Tell();
        await RunningServer.UntilAsync(() => Jobs.Get(sync)!.State == "done", "sync with a missing file");
    }
}
