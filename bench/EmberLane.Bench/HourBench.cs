using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>Who speaks when in an hour of one mix of four made voices, as the application finds it: by the clock, and in memory.</summary>
internal static class HourBench
{
    private const int Seconds = 3600;

    public static async Task RunAsync(string repository)
    {
        var pcm = Path.GetTempFileName();
        try
        {
            await MakeAsync(repository, pcm);
            GC.Collect(2, GCCollectionMode.Aggressive, blocking: true, compacting: true);
            using var process = Process.GetCurrentProcess();
            long before = process.WorkingSet64,
                most = before;
            using var watching = new Timer(
                _ =>
                {
                    process.Refresh();
                    most = Math.Max(most, process.WorkingSet64);
                },
                null,
                0,
                50
            );
            RecognisedWord word = new(
                "word",
                new SourceRange(new SourceTime(MediaTime.Zero), new SourceTime(MediaTime.FromMilliseconds(500))),
                null
            );
            var watch = Stopwatch.StartNew();
            var given = HeardVoices.Give([word], [], pcm, null);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"voices of an hour of one mix: {given.Labels.Count} of four found in {watch.Elapsed.TotalSeconds:0.0} s, "
                        + $"{(most - before) >> 20} MiB over the {before >> 20} that the bench held before"
                )
            );
        }
        finally
        {
            File.Delete(pcm);
        }
    }

    private static async Task MakeAsync(string repository, string pcm)
    {
        var people = await MadePeople.PrepareAsync(repository);
        var sitting = people.Make(4, Seconds, 77, spoiled: false, onlyMix: true);
        await File.WriteAllBytesAsync(pcm, MemoryMarshal.AsBytes<short>(sitting.Mix).ToArray());
    }
}
