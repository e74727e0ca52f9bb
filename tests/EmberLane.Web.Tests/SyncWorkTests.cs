using EmberLane.Application.Gathering;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Web.Tests;

/// <summary>Whole sittings of files that were cut from one recording, so that the truth is known.</summary>
public sealed class SyncWorkTests : IDisposable
{
    private static readonly string Boom = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.3.flac"),
        Lav = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.1.flac"),
        Other = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.2.flac");

    private readonly string data = Directory.CreateTempSubdirectory("ember-syncwork").FullName;

    private string In(string name)
    {
        Directory.CreateDirectory(Path.Combine(data, "footage"));
        return Path.Combine(data, "footage", name);
    }

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
    }

    private void Camera(string name, string from, string length, string timecode) =>
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            $"testsrc2=size=160x90:rate=25:duration={length}",
            "-ss",
            from,
            "-t",
            length,
            "-i",
            Boom,
            "-map",
            "0:v",
            "-map",
            "1:a",
            "-c:v",
            "mpeg4",
            "-c:a",
            "pcm_s16le",
            "-timecode",
            timecode,
            In(name)
        );

    private async Task<(RunningServer Server, long Sitting)> SyncedAsync(params string[] names)
    {
        var server = await RunningServer.StartAsync(data, demo: false);
        var production = server.Services.GetRequiredService<Footage>().AddProduction("Made");
        var result = await server
            .Services.GetRequiredService<Intake>()
            .BringInAsync(production, "Crossing", [.. names.Select(In)], CancellationToken.None);
        Assert.Empty(result.LeftOut);
        var jobs = server.Services.GetRequiredService<Jobs>();
        await RunningServer.UntilAsync(() => jobs.Of(production, 100).All(j => !j.IsOpen), "all work");
        Assert.DoesNotContain(jobs.Of(production, 100), j => j.State == "failed");
        return (server, result.SittingId!.Value);
    }

    [Fact]
    public async Task A_camera_that_began_after_the_recorder_stopped_is_placed_by_way_of_another_and_a_mute_one_by_timecode()
    {
        // The recorder ran from 07:42:00 to 07:43:05 and the wide camera all the time; the close one began at 07:43:12.
        MadeMedia.Make(
            "-i",
            Lav,
            "-i",
            Other,
            "-filter_complex",
            "amix=inputs=2",
            "-t",
            "65",
            "-c:a",
            "pcm_s16le",
            "-write_bext",
            "1",
            "-metadata",
            "time_reference=1330560000",
            In("rec.wav")
        );
        Camera("A001C001.mov", "2", "125", "07:42:02:00");
        Camera("B001C001.mov", "72", "50", "07:43:14:00");
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=160x90:rate=25:duration=20",
            "-c:v",
            "mpeg4",
            "-timecode",
            "07:42:30:00",
            In("C001C001.mov")
        );
        var (server, sitting) = await SyncedAsync("rec.wav", "A001C001.mov", "B001C001.mov", "C001C001.mov");
        await using var running = server;
        var sources = server.Services.GetRequiredService<Footage>().SourcesOf(sitting).ToDictionary(s => s.Name);
        Assert.InRange(sources["A001C001.mov"].Place!.Value.Start.FromZero.ToSecondsInexact(), 1.98, 2.03);
        Assert.EndsWith("timecode agrees", sources["A001C001.mov"].Placement.Evidence, StringComparison.Ordinal);
        Assert.InRange(sources["B001C001.mov"].Place!.Value.Start.FromZero.ToSecondsInexact(), 71.98, 72.03);
        Assert.Contains(
            "by way of A001C001.mov; timecode is off by +2.0",
            sources["B001C001.mov"].Placement.Evidence,
            StringComparison.Ordinal
        );
        // One timecode was found wrong, so that of the mute camera is not believed.
        Assert.Null(sources["C001C001.mov"].Place);
        Assert.Contains("that of B001C001.mov is wrong", sources["C001C001.mov"].Placement.Evidence, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_mute_camera_lies_where_its_timecode_says_when_sound_has_shown_another_right_and_its_bar_is_dashed()
    {
        MadeMedia.Make(
            "-i",
            Lav,
            "-i",
            Other,
            "-filter_complex",
            "amix=inputs=2",
            "-t",
            "65",
            "-c:a",
            "pcm_s16le",
            "-write_bext",
            "1",
            "-metadata",
            "time_reference=1330560000",
            In("rec.wav")
        );
        Camera("A001C001.mov", "2", "60", "07:42:02:00");
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=160x90:rate=25:duration=20",
            "-c:v",
            "mpeg4",
            "-timecode",
            "07:42:30:12",
            In("C001C001.mov")
        );
        var (server, sitting) = await SyncedAsync("rec.wav", "A001C001.mov", "C001C001.mov");
        await using var running = server;
        var mute = server.Services.GetRequiredService<Footage>().SourcesOf(sitting).Single(s => s.Name == "C001C001.mov");
        Assert.Equal(
            (30_480, "by timecode, which is right for A001C001.mov", false),
            (mute.Place!.Value.Start.FromZero.ToMillisecondsRounded(), mute.Placement.Evidence, mute.Placement.IsSure)
        );
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/1/gather?sitting={sitting}"));
        Assert.Single(browser.All(".bar-unsure"));
        browser.UntilText(".chart-legend", "not confirmed by sound");
    }

    [Fact]
    public async Task Where_the_recorder_has_no_timecode_a_mute_camera_is_laid_beside_one_that_sound_placed()
    {
        MadeMedia.Make("-i", Lav, "-i", Other, "-filter_complex", "amix=inputs=2", "-t", "65", "-c:a", "pcm_s16le", In("rec.wav"));
        Camera("A001C001.mov", "2", "60", "07:42:02:00");
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=160x90:rate=25:duration=20",
            "-c:v",
            "mpeg4",
            "-timecode",
            "07:42:30:12",
            In("C001C001.mov")
        );
        var (server, sitting) = await SyncedAsync("rec.wav", "A001C001.mov", "C001C001.mov");
        await using var running = server;
        var mute = server.Services.GetRequiredService<Footage>().SourcesOf(sitting).Single(s => s.Name == "C001C001.mov");
        Assert.Equal("by timecode alone; not checked", mute.Placement.Evidence);
        Assert.InRange(mute.Place!.Value.Start.FromZero.ToMillisecondsRounded(), 30_470, 30_490);
        Assert.False(mute.Placement.IsSure);
    }

    [Fact]
    public async Task Loose_files_without_timecode_are_proposed_together_after_they_were_compared_by_sound()
    {
        MadeMedia.Make("-i", Lav, "-t", "60", "-c:a", "pcm_s16le", In("rec.wav"));
        MadeMedia.Make("-ss", "10", "-t", "40", "-i", Boom, "-c:a", "pcm_s16le", In("phone.wav"));
        MadeMedia.Make(
            "-i",
            Path.Combine(RunningServer.Repository, "demo", "footage", "SND0615_T03.2.flac"),
            "-t",
            "60",
            "-c:a",
            "pcm_s16le",
            In("other day.wav")
        );
        await using var server = await RunningServer.StartAsync(data, demo: false);
        var production = server.Services.GetRequiredService<Footage>().AddProduction("Made");
        await server
            .Services.GetRequiredService<Intake>()
            .BringInAsync(production, null, [In("rec.wav"), In("phone.wav"), In("other day.wav")], CancellationToken.None);
        using var browser = new Browser();
        browser.Open(server.Address + "/productions/1/gather/sittings");
        // Nobody asks for it: it goes on by itself until all are compared.
        browser.UntilText("#compare", "3 files compared with each other, 1 pair closely, 1 alike");
        browser.UntilText("#proposal-1 .reasons", "same sound at");
        Assert.Equal(
            ["phone.wav", "rec.wav"],
            browser
                .Texts("#proposal-1 label")
                .Where(l => l.Contains(".wav", StringComparison.Ordinal))
                .Select(l => l.Split(" sound")[0].Trim())
        );
        browser.Type("#title-1", "By sound" + OpenQA.Selenium.Keys.Enter);
        browser.UntilText("#sheet-title", "By sound");
        Assert.Equal(3, server.Services.GetRequiredService<Likeness>().Compared(production).Count);
        Assert.Single(server.Services.GetRequiredService<Likeness>().Of(production));
    }
}
