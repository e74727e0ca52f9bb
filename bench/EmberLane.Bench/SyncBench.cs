using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>How far sync by sound is from the truth on the demonstration footage.</summary>
internal static class SyncBench
{
    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        Console.WriteLine("sync: against the true offsets (a camera some metres away hears a few ms late, which sound alone can not know)");
        foreach (var (title, reference, _, clips) in footage.Truths())
        {
            var heard = await SoundAsync(footage, reference);
            foreach (var (file, offset, ppm) in clips.Where(c => c.File != reference))
            {
                var sound = await SoundAsync(footage, file);
                var watch = Stopwatch.StartNew();
                var found = SoundMatch.Find(heard, sound);
                Console.WriteLine(string.Create(CultureInfo.InvariantCulture,
                    $"  {title,-20} {file,-28} {(found.Start.FromZero.ToSecondsInexact() - offset) * 1000,7:0.00} ms  {(found.DriftPerBillion / 1000.0) - ppm,6:0.0} ppm  {found.Strength,5:0.0}x above chance  {watch.ElapsedMilliseconds} ms"));
            }
        }
    }

    private static async Task<float[]> SoundAsync(DemoFootage footage, string file)
    {
        var facts = await MediaProbe.MeasureAsync(footage.Find(file), CancellationToken.None);
        await Ffmpeg.DecodeMonoAsync(footage.Find(file), facts, null, SoundMatch.SampleRate, footage.Work("sync.pcm"), CancellationToken.None);
        return PcmFile.ReadAll(footage.Work("sync.pcm"));
    }
}
