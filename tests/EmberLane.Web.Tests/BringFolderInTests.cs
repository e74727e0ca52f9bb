using EmberLane.Application.Work;
using EmberLane.Running;
using EmberLane.Store;
using EmberLane.Web.Commands;

namespace EmberLane.Web.Tests;

public sealed class BringFolderInTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-data").FullName;
    private readonly string day = Directory.CreateTempSubdirectory("ember-day").FullName;

    public BringFolderInTests()
    {
        Directory.CreateDirectory(In("card A/clips"));
        Directory.CreateDirectory(In("скорая \"B\""));
        MadeMedia.Film(In("card A/clips/A001.mov"), "25", 2);
        File.Copy(In("card A/clips/A001.mov"), In("card A/copy of A001.mov"));
        MadeMedia.Film(In("card A/clips/A002.mov"), "30000/1001", 2);
        MadeMedia.Sound(In("скорая \"B\"/звук 音.wav"), 3);
        File.WriteAllText(In("card A/clips/A001.xml"), "<clip/>");
        File.WriteAllText(In("card A/empty.mov"), "");
        File.WriteAllBytes(In("card A/cut.mov"), File.ReadAllBytes(In("card A/clips/A002.mov"))[..4000]);
        File.WriteAllText(In(".hidden"), "x");
        Directory.CreateSymbolicLink(In("card A/loop"), day);
    }

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
        Directory.Delete(day, recursive: true);
    }

    private string In(string name) => Path.Combine(day, name);

    [Fact]
    public async Task A_day_with_subfolders_copies_and_broken_files_comes_in_by_a_click_and_says_what_was_left_out()
    {
        await using var server = await RunningServer.StartAsync(data, demo: false, null, day);
        using var browser = new Browser();
        browser.Open(server.Address);
        browser.Type("input[name=name]", "One day" + OpenQA.Selenium.Keys.Enter);
        Browser.Until(() => browser.Driver.Url.Contains("/productions/1", StringComparison.Ordinal), "the production");
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/1/gather/new?folder={Uri.EscapeDataString(day)}"));
        browser.Click("#whole-folder");
        browser.UntilText("#days", "3 files brought in, 1 there already, 3 left out");
        browser.Click("#days summary");
        foreach (
            var (name, why) in new[] { ("A001.xml", "is not a media file"), ("empty.mov", "is empty (0 bytes)"), ("cut.mov", "cut short") }
        )
        {
            browser.UntilText(".left-out", name);
            browser.UntilText(".left-out", why);
        }
        browser.Open(server.Address + "/productions/1/gather");
        browser.UntilText(".loose", "звук 音.wav");
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/1/gather/new?folder={Uri.EscapeDataString(day)}"));
        browser.Click("#whole-folder");
        browser.UntilText("#days", "0 files brought in, 4 there already, 3 left out");
    }

    [Fact]
    public async Task Files_that_overlap_by_timecode_are_proposed_accepted_with_one_unticked_and_compared_by_sound()
    {
        foreach (
            var (name, time, noise) in new[]
            {
                ("one.mov", "09:00:00:00", 1),
                ("two.mov", "09:00:05:10", 2),
                ("three.mov", "09:00:08:00", 3),
                ("alone.mov", "15:00:00:00", 4),
            }
        )
        {
            MadeMedia.Make(
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=160x90:rate=25:duration=20",
                "-f",
                "lavfi",
                "-i",
                FormattableString.Invariant($"anoisesrc=duration=20:seed={noise}"),
                "-c:v",
                "mpeg4",
                "-c:a",
                "pcm_s16le",
                "-timecode",
                time,
                In(name)
            );
        }
        await CommandLine.RunAsync(["add", day, "--production", "Morning", "--data", data], TextWriter.Null, CancellationToken.None);
        await using var server = await RunningServer.StartAsync(data, demo: false, null, day);
        using var browser = new Browser();
        browser.Open(server.Address + "/productions/1/gather");
        browser.Click("#make-sittings");
        browser.UntilText("#proposal-1", "09:00:00–09:00:28");
        browser.UntilText("#others", "alone.mov");
        browser.Run<object?>(
            "[...document.querySelectorAll('#proposal-1 label')].find(l => l.textContent.includes('two.mov')).click(); return null"
        );
        browser.Type("#title-1", "By the slip" + OpenQA.Selenium.Keys.Enter);
        browser.UntilText("#sheet-title", "By the slip");
        browser.UntilText(".sources", "no match by sound");
        Assert.DoesNotContain("two.mov", browser.Text(".sources"), StringComparison.Ordinal);
        var footage = (Footage)server.Services.GetService(typeof(Footage))!;
        Assert.Equal(["one.mov", "three.mov"], footage.SourcesOf(footage.Sittings(1)[0].Id).Select(s => s.Name).Order());
        var grouping = (Grouping)server.Services.GetService(typeof(Grouping))!;
        Assert.Throws<ConflictException>(() =>
            grouping.Move(1, [footage.SourcesOf(footage.Sittings(1)[0].Id)[0].Id], null, "Again", "tester", onlyLoose: true)
        );
        Assert.Throws<ConflictException>(() => grouping.Move(1, [4711], null, "Never", "tester"));
        Assert.Single(footage.Sittings(1));
    }

    [Fact]
    public async Task A_day_is_added_from_the_command_line_and_once_more_changes_nothing()
    {
        using var output = new StringWriter();
        Assert.Equal(
            0,
            await CommandLine.RunAsync(["add", day, "--production", "Slack\nWater", "--data", data], output, CancellationToken.None)
        );
        Assert.Contains("Slack Water: 3 files brought in, 1 there already, 3 left out", output.ToString(), StringComparison.Ordinal);
        Assert.Contains("empty.mov", output.ToString(), StringComparison.Ordinal);
        Assert.Equal(
            0,
            await CommandLine.RunAsync(["add", day, "--production", "Slack Water", "--data", data], output, CancellationToken.None)
        );
        Assert.Contains("Slack Water: 0 files brought in, 4 there already, 3 left out", output.ToString(), StringComparison.Ordinal);
        var footage = new Footage(new Database(Path.Combine(data, "ember.sqlite")), TimeProvider.System);
        Assert.Equal(3, footage.Sources(Assert.Single(footage.Productions()).Id).Count);
    }

    [Fact]
    public async Task A_folder_that_is_not_there_is_refused_with_a_sentence()
    {
        Assert.Contains(
            "no such folder",
            (
                await Assert.ThrowsAsync<ArgumentException>(() =>
                    CommandLine.RunAsync(["add", In("no"), "--production", "P", "--data", data], TextWriter.Null, CancellationToken.None)
                )
            ).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task A_folder_outside_the_allowed_ones_or_gone_fails_with_the_reason_and_all_failed_work_is_tried_again_at_once()
    {
        await using var server = await RunningServer.StartAsync(data, demo: false);
        var jobs = (Jobs)server.Services.GetService(typeof(Jobs))!;
        var production = ((Footage)server.Services.GetService(typeof(Footage))!).AddProduction("P");
        var later = Path.Combine(data, "footage", "later");
        long[] ids =
        [
            jobs.Add(production, WorkKinds.Folder, 1, "Files of a", day),
            jobs.Add(production, WorkKinds.Folder, 2, "Files of later", later),
        ];
        await RunningServer.UntilAsync(() => ids.All(i => jobs.Get(i)!.State == "failed"), "both to fail");
        Assert.Contains("not a folder that footage may be read from", jobs.Get(ids[0])!.Error, StringComparison.Ordinal);
        Directory.CreateDirectory(later);
        MadeMedia.Sound(Path.Combine(later, "a.wav"), 1);
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/work"));
        browser.UntilText("#all-again", "Try all 2 failed again");
        browser.Click("#all-again");
        browser.Click("#work-ended > summary");
        browser.UntilText("#work-list", "1 file brought in");
        await RunningServer.UntilAsync(() => jobs.Get(ids[0])!.State == "failed", "the other to fail again");
        Browser.Until(() => browser.All("#all-again").Count == 0, "the button to go, since one is left");
    }
}
