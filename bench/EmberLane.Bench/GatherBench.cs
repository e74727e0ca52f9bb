using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// A day of 300 files brought in; the chart of a long sitting; and the memory that sync of two one-hour files takes, decoding and all.
/// </summary>
internal static class GatherBench
{
    private const int Files = 300,
        Hours = 4,
        Times = 5;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("ember-bench").FullName;
        try
        {
            await DayAsync(folder);
            await ChartAsync(folder);
            await MemoryAsync(folder);
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(folder, recursive: true);
        }
    }

    private static async Task DayAsync(string folder)
    {
        var day = Directory.CreateDirectory(Path.Combine(folder, "day")).FullName;
        var made = Path.Combine(folder, "made.mov");
        await Tool.ReadAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-y",
                "-f",
                "lavfi",
                "-i",
                "testsrc2=size=640x360:rate=25:duration=20",
                "-f",
                "lavfi",
                "-i",
                "anoisesrc=duration=20",
                "-c:v",
                "mpeg4",
                "-c:a",
                "pcm_s16le",
                made,
            ],
            TimeSpan.FromMinutes(2),
            CancellationToken.None
        );
        var bytes = await File.ReadAllBytesAsync(made);
        for (var n = 0; n < Files; n++)
        {
            // Bytes behind the last atom make each a file of its own content.
            var path = Path.Combine(day, string.Create(CultureInfo.InvariantCulture, $"A{n:000}C001.mov"));
            await File.WriteAllBytesAsync(path, [.. bytes, .. "\0\0\0\x10free"u8, .. BitConverter.GetBytes((long)n)]);
            File.SetLastWriteTimeUtc(path, DateTime.UtcNow.AddHours(-1));
        }
        await using var server = await RunningServer.StartAsync(Path.Combine(folder, "data-day"), demo: false, null, day);
        var production = server.Services.GetRequiredService<Store.Footage>().AddProduction("Day");
        var watch = Stopwatch.StartNew();
        var (taken, _, left) = await server
            .Services.GetRequiredService<Intake>()
            .BringFolderInAsync(production, day, (_, _) => { }, CancellationToken.None);
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"gather: {taken} files measured and brought in, {left.Count} left out, in {watch.Elapsed.TotalSeconds:0.0} s on "
                    + $"{Environment.ProcessorCount} cores, with playing copies being made beside it"
            )
        );
    }

    private static async Task ChartAsync(string folder)
    {
        var data = Path.Combine(folder, "data-chart");
        string page;
        await using (var first = await RunningServer.StartAsync(data, demo: false))
        {
            var footage = first.Services.GetRequiredService<Store.Footage>();
            var cache = first.Services.GetRequiredService<MediaCache>();
            var length = MediaTime.FromMilliseconds(Hours * 3_600_000L);
            var production = footage.AddProduction("Long");
            var picture = new PictureFacts("h264", "yuv420p", 1920, 1080, FrameRate.R25, false);
            NewSource Made(string name, PictureFacts? p, int channels) =>
                new(
                    "/nowhere/" + name,
                    name,
                    1,
                    name,
                    new SourceFacts(
                        "mov",
                        length,
                        p,
                        [new SoundTrack(0, "pcm_s16le", 48_000, channels)],
                        StartOfFile.Unknown,
                        null,
                        null,
                        null
                    )
                );
            var sitting = footage
                .BringIn(
                    production,
                    "Long sitting",
                    [Made("rec.wav", null, 8), .. Enumerable.Range(0, 4).Select(n => Made($"{(char)('A' + n)}001C001.mov", picture, 2))]
                )!
                .Value;
            var random = new Random(3);
            foreach (var source in footage.SourcesOf(sitting))
            {
                footage.Place(
                    source.Id,
                    Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(source.Id * 1000)), 20_000), "same sound")
                );
                var peaks = new byte[Hours * 3600 * Core.Sync.Peaks.PerSecond];
                random.NextBytes(peaks);
                await cache.MakeAsync(cache.Peaks(source), path => File.WriteAllBytesAsync(path, peaks));
            }
            page = FormattableString.Invariant($"/productions/{production}/gather?sitting={sitting}");
        }
        using var server = ServerProcess.Start(data);
        await server.ReadyAsync();
        using var browser = new Browser();
        var shown = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            browser.Open("about:blank");
            var watch = Stopwatch.StartNew();
            browser.Open(server.Address + page);
            Browser.Until(
                () =>
                    browser.Run<bool>(
                        "return document.readyState === 'complete' && document.querySelectorAll('.wave-in-bar').length === 5"
                    ),
                "the chart"
            );
            shown.Add(watch.Elapsed.TotalMilliseconds);
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  chart of {Hours} hours, 4 cameras and 8 channels, shown in the browser: first {shown[0]:0} ms, median "
                    + $"{shown.Order().ElementAt(Times / 2):0} ms"
            )
        );
    }

    private static async Task MemoryAsync(string folder)
    {
        string[] files = [Path.Combine(folder, "one.wav"), Path.Combine(folder, "two.wav")];
        // An hour in which no second is like another, and the same hour heard by a duller mic from half a minute on.
        const string talk =
            "aevalsrc='0.3*sin(2*PI*(180+120*sin(t*7.3)+60*sin(t*0.37))*t)*max(0,sin(t*3.1)*sin(t*0.71+sin(t*0.013)*9))':s=48000:d=3600";
        await Tool.ReadAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-y",
                "-f",
                "lavfi",
                "-i",
                talk,
                "-f",
                "lavfi",
                "-i",
                "anoisesrc=d=3600:a=0.05:seed=9:r=48000",
                "-filter_complex",
                "amix=inputs=2:normalize=0",
                "-c:a",
                "pcm_s16le",
                files[0],
            ],
            TimeSpan.FromMinutes(10),
            CancellationToken.None
        );
        await Tool.ReadAsync(
            "ffmpeg",
            ["-v", "error", "-y", "-ss", "30", "-i", files[0], "-af", "lowpass=f=3000,volume=0.5", "-c:a", "pcm_s16le", files[1]],
            TimeSpan.FromMinutes(10),
            CancellationToken.None
        );
        using var process = Process.Start(
            new ProcessStartInfo("dotnet", [Path.Combine(AppContext.BaseDirectory, "EmberLane.Web.dll"), "sync", .. files])
            {
                RedirectStandardOutput = true,
            }
        )!;
        long most = 0;
        var ended = process.WaitForExitAsync();
        while (!ended.IsCompleted)
        {
            process.Refresh();
            most = Math.Max(most, process.HasExited ? 0 : process.PeakWorkingSet64);
            await Task.WhenAny(ended, Task.Delay(50));
        }
        var said = (await process.StandardOutput.ReadToEndAsync()).Split('\n')[1];
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  sync of two one-hour files from the command line: {most / 1_048_576.0:0} MiB at most; "
                    + $"{said[(said.IndexOf(": ", StringComparison.Ordinal) + 2)..]}"
            )
        );
    }
}
