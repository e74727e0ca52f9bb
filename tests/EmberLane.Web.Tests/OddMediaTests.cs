using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;
using OpenQA.Selenium;

namespace EmberLane.Web.Tests;

/// <summary>Files as devices and people really deliver them.</summary>
public sealed class OddMediaTests : IDisposable
{
    private readonly string data = Directory.CreateTempSubdirectory("ember-odd").FullName,
        disk = Directory.CreateTempSubdirectory("ember-odd-disk").FullName;

    public void Dispose()
    {
        Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
        Directory.Delete(data, recursive: true);
        Directory.Delete(disk, recursive: true);
    }

    private string In(string name) => Path.Combine(disk, name);

    private static readonly string Boom = Path.Combine(RunningServer.Repository, "demo", "footage", "SND0614_T01.3.flac");

    private static async Task IdleAsync(RunningServer server, long production)
    {
        var jobs = server.Services.GetRequiredService<Jobs>();
        await RunningServer.UntilAsync(() => jobs.Of(production, 100).All(j => !j.IsOpen), "all work");
        Assert.DoesNotContain(jobs.Of(production, 100), j => j.State == "failed");
    }

    [Fact]
    public async Task Phone_footage_of_uneven_rate_is_placed_by_sound_played_and_warned_of()
    {
        // A phone drops to half its rate in the dark: 30 a second, then 15.
        MadeMedia.Make(
            "-f",
            "lavfi",
            "-i",
            "testsrc2=size=160x90:rate=30:duration=60",
            "-ss",
            "5",
            "-t",
            "60",
            "-i",
            Boom,
            "-map",
            "0:v",
            "-map",
            "1:a",
            "-vf",
            "select='lt(t,20)+not(mod(n,2))'",
            "-fps_mode",
            "vfr",
            "-c:v",
            "libx264",
            "-pix_fmt",
            "yuv420p",
            "-c:a",
            "aac",
            "-metadata",
            "creation_time=2026-09-14T07:42:10Z",
            "-metadata",
            "org.example.make=Made-up",
            "-movflags",
            "use_metadata_tags",
            In("phone.mp4")
        );
        MadeMedia.Make("-i", Boom, "-t", "80", "-c:a", "pcm_s16le", In("rec.wav"));
        await using var server = await RunningServer.StartAsync(data, demo: false, null, disk);
        var footage = server.Services.GetRequiredService<Footage>();
        var production = footage.AddProduction("Phone");
        var sitting = (
            await server
                .Services.GetRequiredService<Intake>()
                .BringInAsync(production, "By the water", [In("rec.wav"), In("phone.mp4")], CancellationToken.None)
        )
            .SittingId!
            .Value;
        await IdleAsync(server, production);
        var phone = footage.SourcesOf(sitting).Single(s => s.Name == "phone.mp4");
        Assert.True(phone.Facts.Picture!.RateVaries);
        Assert.Equal(("2026-09-14", "Made-up"), (phone.Day, phone.Camera));
        Assert.InRange(phone.Place!.Value.Start.FromZero.ToSecondsInexact(), 4.9, 5.1);
        // The playing copy keeps the moments of the frames: it is as long as the sound says.
        var copy = await MediaProbe.MeasureAsync(server.Services.GetRequiredService<MediaCache>().Playing(phone), CancellationToken.None);
        Assert.InRange(copy.Duration.ToSecondsInexact(), 59.7, 60.3);
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/gather?sitting={sitting}"));
        browser.UntilText(".sources", "uneven");
    }

    [Fact]
    public async Task A_recorder_file_of_sixteen_channels_gives_sixteen_mics_named_by_the_recorder()
    {
        var names = Enumerable
            .Range(1, 16)
            .Select(n =>
                n <= 3 ? $"Lav {n}"
                : n == 4 ? "Boom"
                : ""
            )
            .ToList();
        var path = In("sixteen.wav");
        MadeMedia.Make(
            "-i",
            Boom,
            "-t",
            "20",
            "-af",
            "pan=16c|"
                + string.Join(
                    '|',
                    Enumerable
                        .Range(0, 16)
                        .Select(c => $"c{c}={(c < 4 ? 1 - (0.2 * c) : 0).ToString(System.Globalization.CultureInfo.InvariantCulture)}*c0")
                ),
            "-c:a",
            "pcm_s16le",
            path
        );
        AppendNotes(
            path,
            $"<BWFXML><SCENE>7</SCENE><TAKE>2</TAKE><TRACK_LIST>"
                + $"{string.Concat(names.Select((n, i) =>
                    $"<TRACK><INTERLEAVE_INDEX>{i + 1}</INTERLEAVE_INDEX><NAME>{n}</NAME></TRACK>"))}</TRACK_LIST></BWFXML>"
        );
        await using var server = await RunningServer.StartAsync(data, demo: false, null, disk);
        var footage = server.Services.GetRequiredService<Footage>();
        var production = footage.AddProduction("Sixteen");
        var sitting = (
            await server.Services.GetRequiredService<Intake>().BringInAsync(production, "Many mics", [path], CancellationToken.None)
        )
            .SittingId!
            .Value;
        await IdleAsync(server, production);
        var source = Assert.Single(footage.SourcesOf(sitting));
        Assert.Equal(("7", "2", 16), (source.Labels.SceneOf(source.Facts), source.Labels.TakeOf(source.Facts), source.Facts.Channels));
        var mics = server.Services.GetRequiredService<SittingMics>().Of(footage.Sitting(sitting)!);
        Assert.Equal([MicKind.Lav, MicKind.Lav, MicKind.Lav, MicKind.Boom], mics.All.Take(4).Select(m => m.Kind));
        Assert.All(mics.All.Skip(4), m => Assert.Equal((MicKind.Unused, "hardly any sound on it"), (m.Kind, m.Why)));
        Assert.Equal(3, mics.All.Count(m => m.Heard));
    }

    [Fact]
    public async Task A_file_that_is_still_being_written_is_left_out_with_a_word_and_taken_when_it_is_finished()
    {
        await using var server = await RunningServer.StartAsync(data, demo: false, null, disk);
        var production = server.Services.GetRequiredService<Footage>().AddProduction("Growing");
        var intake = server.Services.GetRequiredService<Intake>();
        MadeMedia.Sound(In("whole.wav"), 2);
        var whole = await File.ReadAllBytesAsync(In("whole.wav"), TestContext.Current.CancellationToken);
        File.Delete(In("whole.wav"));
        using var stop = new CancellationTokenSource();
        var writing = Task.Run(
            async () =>
            {
                await using var file = File.Create(In("growing.wav"));
                await file.WriteAsync(whole);
                while (!stop.IsCancellationRequested)
                {
                    await file.WriteAsync(new byte[64]);
                    await file.FlushAsync();
                    await Task.Delay(20);
                }
            },
            TestContext.Current.CancellationToken
        );
        await RunningServer.UntilAsync(
            () => File.Exists(In("growing.wav")) && new FileInfo(In("growing.wav")).Length > whole.Length,
            "the file to grow"
        );
        var first = await intake.BringInAsync(production, null, [In("growing.wav")], CancellationToken.None);
        Assert.Equal(0, first.Taken);
        Assert.Contains("still being written", Assert.Single(first.LeftOut).Reason, StringComparison.Ordinal);
        await stop.CancelAsync();
        await writing;
        Assert.Equal(1, (await intake.BringInAsync(production, null, [In("growing.wav")], CancellationToken.None)).Taken);
        await IdleAsync(server, production);
    }

    [Fact]
    public async Task A_day_is_uploaded_as_a_folder_and_measured_in_the_background()
    {
        Directory.CreateDirectory(In("day/card"));
        for (var n = 0; n < 9; n++)
        {
            MadeMedia.Make(
                "-f",
                "lavfi",
                "-i",
                FormattableString.Invariant($"anoisesrc=duration=1:seed={n}"),
                "-ar",
                "8000",
                In(FormattableString.Invariant($"day/card/take {n}.wav"))
            );
        }
        await File.WriteAllTextAsync(In("day/notes.txt"), "not media", TestContext.Current.CancellationToken);
        await using var server = await RunningServer.StartAsync(data, demo: false);
        var production = server.Services.GetRequiredService<Footage>().AddProduction("Uploaded");
        using var browser = new Browser();
        browser.Open(FormattableString.Invariant($"{server.Address}/productions/{production}/gather/new"));
        browser.Type("#upload-folder", In("day"));
        browser.Click("[data-upload] .btn");
        browser.UntilText("#outcome", "10 files are here and are being measured");
        browser.UntilText("#days", "9 files brought in, 1 left out");
        Assert.Equal(9, server.Services.GetRequiredService<Footage>().Sources(production).Count);
        await IdleAsync(server, production);
    }

    [Fact]
    public void Notes_in_broken_and_hostile_wave_files_are_read_as_none()
    {
        var path = In("a.wav");
        MadeMedia.Sound(path, 1);
        var whole = File.ReadAllBytes(path);
        foreach (
            var (head, bytes) in new (string, byte[])[]
            {
                ("no length", [.. whole, .. "iXML"u8]),
                ("a length beyond the end", [.. whole, .. "iXML"u8, 255, 255, 255, 127]),
                ("an empty chunk", [.. whole, .. "iXML"u8, 0, 0, 0, 0]),
                ("no XML", [.. whole, .. "iXML"u8, 4, 0, 0, 0, .. "\xff\xfe<a"u8]),
                ("a length that turns round", [.. whole[..16], 255, 255, 255, 255, .. whole[20..]]),
            }
        )
        {
            File.WriteAllBytes(path, bytes);
            Assert.True(WaveChunks.Notes(path) == RecorderNotes.None, head);
        }
        AppendNotes(path, "<BWFXML/>");
        File.WriteAllBytes(path, "RIFF"u8.ToArray());
        Assert.Equal(RecorderNotes.None, WaveChunks.Notes(path));
    }

    private static void AppendNotes(string path, string xml)
    {
        var text = System.Text.Encoding.UTF8.GetBytes(xml);
        File.WriteAllBytes(path, [.. File.ReadAllBytes(path), .. "iXML"u8, .. BitConverter.GetBytes(text.Length), .. text]);
    }
}
