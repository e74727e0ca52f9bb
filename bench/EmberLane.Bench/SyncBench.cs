using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Engines.Sync;

namespace EmberLane.Bench;

/// <summary>
/// Sync by sound against the truth: the demonstration, hard made sittings, pairs that do not belong together, and long sources.
/// </summary>
internal static class SyncBench
{
    private const int Minute = 60,
        RelatedSources = 100,
        UnrelatedPairs = 300;

    // What is compared runs on several cores itself; more pairs at once than cores would only take memory.
    private static readonly ParallelOptions AsManyAsCores = new() { MaxDegreeOfParallelism = Environment.ProcessorCount };

    private static readonly double[] Bars = [2, 4, 6, 8, 10, 12, 14, 16, 20, 22, 25, 30];

    public static async Task RunAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        Console.WriteLine(
            "sync: against the true offsets of the demonstration (a camera some metres away hears a few ms late, which sound alone can not "
                + "know)"
        );
        await DemonstrationAsync(footage);
        var talk = await MadeTalk.PrepareAsync(footage);
        var related = Related(talk, RelatedSources);
        var unrelated = Unrelated(talk, UnrelatedPairs);
        Console.WriteLine(
            $"  where the bar lies: evidence (zeros against chance), unrelated pairs at or above it of {UnrelatedPairs}, sources that "
                + $"belong at or above it of {RelatedSources}"
        );
        foreach (var bar in Bars)
        {
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"    {bar,4:0}  {unrelated.Count(u => u >= bar),5}  "
                        + $"{related.Count(r => r >= bar),4}{(bar == SoundMatch.SureFrom ? "  <- the bar" : "")}"
                )
            );
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"    highest of the unrelated {unrelated.Max():0.0}, lowest of those that belong and were matched "
                    + $"{related.Where(r => r >= SoundMatch.SureFrom).Min():0.0}"
            )
        );
        Lengths(talk);
    }

    /// <summary>Only pairs that do not belong together, a thousand of them: how high the evidence gets by chance.</summary>
    public static async Task UnrelatedAsync(string repository)
    {
        const int all = 1000,
            part = 100;
        using var footage = await DemoFootage.LayOutAsync(repository);
        var talk = await MadeTalk.PrepareAsync(footage);
        var evidence = new List<double>();
        for (var first = 0; first < all; first += part)
        {
            evidence.AddRange(Unrelated(talk, part, first));
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"unrelated: {evidence.Count} pairs, half of them the same text at another pace; highest evidence "
                        + $"{evidence.Max():0.0}, {evidence.Count(e => e >= SoundMatch.SureFrom)} at or above the bar of "
                        + $"{SoundMatch.SureFrom}"
                )
            );
        }
    }

    /// <summary>Only sources that belong together, also with reflections that are louder than the direct sound.</summary>
    public static async Task DirectAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        await DemonstrationAsync(footage);
        var talk = await MadeTalk.PrepareAsync(footage);
        Related(talk, RelatedSources);
        Related(talk, RelatedSources, loud: true);
    }

    /// <summary>Only the time that long sources take.</summary>
    public static async Task LengthsAsync(string repository)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        Lengths(await MadeTalk.PrepareAsync(footage));
    }

    private static async Task DemonstrationAsync(DemoFootage footage)
    {
        foreach (var (title, reference, _, clips) in footage.Truths())
        {
            var heard = await SoundAsync(footage, reference);
            foreach (var (file, offset, ppm) in clips.Where(c => c.File != reference))
            {
                var found = SoundMatch.Find(heard, await SoundAsync(footage, file));
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  {title,-20} {file,-28} {(found.Start.FromZero.ToSecondsInexact() - offset) * 1000,7:0.00} ms  "
                            + $"{(found.DriftPerBillion / 1000.0) - ppm,6:0.0} ppm  evidence {found.Evidence,4:0.0}  {found.Agreeing} of "
                            + $"{found.Compared} places"
                    )
                );
            }
        }
    }

    // Two mics of one sitting: each with echo, noise down to 10 dB below speech, its own band, gain and clock; overlaps of 20 s to 10 min;
    // offsets to two hours. Where reflections are loud, the source's are half to one and a fifth of the direct sound at first.
    private static List<double> Related(MadeTalk talk, int count, bool loud = false)
    {
        var results = new (double Evidence, double Offset, double Drift)[count];
        Parallel.For(
            0,
            count,
            AsManyAsCores,
            i =>
            {
                var random = new Random(77 + i);
                var noise = -40 + (30 * random.NextDouble());
                MadeMic Mic(double least, double most) =>
                    new(
                        Math.Pow(10, (random.NextDouble() * 1.5) - 1),
                        least + (random.NextDouble() * (most - least)),
                        noise,
                        1500 + (2000 * random.NextDouble()),
                        30 + (200 * random.NextDouble())
                    );
                double overlap = i % 4 == 0 ? 20 : 20 + (580 * random.NextDouble()),
                    ppm = (random.NextDouble() * 200) - 100;
                // Ten minutes each, overlapping at the one's end or the other's start.
                var late = random.Next(2) == 0;
                var from = (late ? 1 : -1) * (600 - overlap);
                var said = talk.Say((int)(1200 - overlap) + 2, 1000 + i);
                var reference = MadeTalk.Record(said, late ? 0 : -from, 600, 0, Mic(0, 0.5), i);
                var source = MadeTalk.Record(said, late ? from : 0, 600, ppm, loud ? Mic(0.5, 1.2) : Mic(0, 0.5), i + 5000);
                // Every fifth reference began up to two hours before.
                var ahead = i % 5 == 0 ? random.Next(7200 * SoundMatch.SampleRate) : 0;
                var found = SoundMatch.Find(new HeldSound(Ahead(ahead, reference, i)), new HeldSound(source));
                results[i] = (
                    found.Evidence,
                    found.Matched
                        ? Math.Abs(found.Start.FromZero.ToSecondsInexact() - from - ((double)ahead / SoundMatch.SampleRate)) * 1000
                        : double.PositiveInfinity,
                    found.Matched ? Math.Abs((found.DriftPerBillion / 1000.0) - ppm) : double.PositiveInfinity
                );
                if (results[i].Offset > 0.5 || results[i].Drift > 2)
                {
                    Console.WriteLine(
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"    outside: overlap {overlap:0} s, noise {noise:0} dB, {results[i].Offset:0.00} ms, {results[i].Drift:0.0} "
                                + $"ppm, evidence {found.Evidence:0.0}, {found.Agreeing} of {found.Compared}"
                        )
                    );
                }
            }
        );
        double[] offsets = [.. results.Select(r => r.Offset)],
            drifts = [.. results.Select(r => r.Drift)];
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  made sittings{(loud ? ", loud reflections" : "")}: {results.Count(r => r is { Offset: < 0.5, Drift: < 2 })} of {count} "
                    + $"within 0.5 ms at the start and 2 ppm; median {offsets.Order().ElementAt(count / 2):0.000} ms, "
                    + $"{drifts.Order().ElementAt(count / 2):0.00} ppm; "
                    + $"{offsets.Count(double.IsInfinity)} not matched, {offsets.Count(o => o > 50 && !double.IsInfinity(o))} placed wrong"
            )
        );
        return [.. results.Select(r => r.Evidence)];
    }

    private static float[] Ahead(int samples, float[] then, int seed)
    {
        var random = new Random(seed);
        var sound = new float[samples + then.Length];
        for (var i = 0; i < samples; i++)
        {
            sound[i] = (float)((random.NextDouble() - 0.5) * 0.001);
        }
        then.CopyTo(sound, samples);
        return sound;
    }

    // Every other pair is two takes of the same text, one a little faster; the rest are different talks. Both mics hear the same mains hum.
    private static List<double> Unrelated(MadeTalk talk, int count, int first = 0)
    {
        var evidence = new double[count];
        Parallel.For(
            0,
            count,
            AsManyAsCores,
            n =>
            {
                var i = first + n;
                var random = new Random(9000 + i);
                MadeMic Mic() =>
                    new(
                        1,
                        random.NextDouble() * 0.4,
                        -40 + (30 * random.NextDouble()),
                        1500 + (2000 * random.NextDouble()),
                        30 + (200 * random.NextDouble())
                    );
                int seconds = 60 + random.Next(120),
                    seed = 50_000 + i;
                var other =
                    i % 2 == 0
                        ? talk.Say(seconds, seed, 1.005 + (0.03 * random.NextDouble()), other: true)
                        : talk.Say(seconds, seed + 500_000, other: true);
                float[] one = MadeTalk.Record(talk.Say(seconds, seed), 0, seconds, 0, Mic(), i),
                    two = MadeTalk.Record(other, 0, seconds, 20, Mic(), i + 1);
                for (var k = 0; k < one.Length; k++)
                {
                    var hum = (float)(0.003 * Math.Sin(2 * Math.PI * 50 * k / SoundMatch.SampleRate));
                    one[k] += hum;
                    two[k] += hum;
                }
                evidence[n] = SoundMatch.Find(new HeldSound(one), new HeldSound(two)).Evidence;
            }
        );
        return [.. evidence];
    }

    private static void Lengths(MadeTalk talk)
    {
        var mic = new MadeMic(0.7, 0.3, -20, 3000, 80);
        foreach (var minutes in new[] { 10, 60, 240 })
        {
            var said = talk.Say(minutes * Minute, 3);
            string[] files = [Path.GetTempFileName(), Path.GetTempFileName()];
            try
            {
                PcmSound.Write(files[0], said);
                PcmSound.Write(files[1], MadeTalk.Record(said, 30, (minutes * Minute) - 40, 40, mic, 4));
                said = [];
                GC.Collect();
                using PcmSound one = new(files[0]),
                    two = new(files[1]);
                var took = new List<double>();
                SoundOffset found = null!;
                for (var n = 0; n < 3; n++)
                {
                    var watch = Stopwatch.StartNew();
                    found = SoundMatch.Find(one, two);
                    took.Add(watch.Elapsed.TotalSeconds);
                }
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  two sources of {minutes} min: median {took.Order().ElementAt(1):0.00} s after decoding; "
                            + $"{(found.Start.FromZero.ToSecondsInexact() - 30) * 1000:0.000} ms, "
                            + $"{(found.DriftPerBillion / 1000.0) - 40:0.00} ppm off"
                    )
                );
            }
            finally
            {
                Array.ForEach(files, File.Delete);
            }
        }
    }

    private static async Task<HeldSound> SoundAsync(DemoFootage footage, string file)
    {
        var facts = await MediaProbe.MeasureAsync(footage.Find(file), CancellationToken.None);
        await Ffmpeg.DecodeMonoAsync(
            footage.Find(file),
            facts,
            null,
            SoundMatch.SampleRate,
            footage.Work("sync.pcm"),
            CancellationToken.None
        );
        return new HeldSound(PcmFile.ReadAll(footage.Work("sync.pcm")));
    }
}
