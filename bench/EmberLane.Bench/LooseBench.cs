using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Sync;
using EmberLane.Engines.Sync;
using EmberLane.Running;
using EmberLane.Store;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// Loose files without timecode, compared with each other by sound: pairs of mics of one talk among files that belong to nothing.
/// </summary>
internal static class LooseBench
{
    private const int Seconds = 300,
        Overlapping = 200,
        LongestUtterance = 4;

    /// <summary>One file in so many has a partner that was recorded at the same time by another mic.</summary>
    private const int OnePairIn = 5;

    public static async Task RunAsync(string repository, int[]? counts = null)
    {
        using var footage = await DemoFootage.LayOutAsync(repository);
        var talk = await MadeTalk.PrepareAsync(footage);
        Heights(talk);
        foreach (var count in counts ?? [100, 300, 1000])
        {
            await CompareAsync(talk, count);
        }
    }

    // Both sides of the bar: how high pairs reach that belong together, and pairs that do not.
    private static void Heights(MadeTalk talk)
    {
        const int pairs = 60;
        var index = new OutlineIndex();
        var gate = new Lock();
        var numbers = new int[2 * pairs];
        Parallel.For(
            0,
            pairs,
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount },
            i =>
            {
                var (one, other) = Pair(talk, 40_000 + i, 20 + (i * 4));
                var (a, b) = (SoundOutline.Of(new HeldSound(one)), SoundOutline.Of(new HeldSound(other)));
                lock (gate)
                {
                    (numbers[2 * i], numbers[(2 * i) + 1]) = (index.Add(a), index.Add(b));
                }
            }
        );
        var belong = Enumerable
            .Range(0, pairs)
            .Select(i => index.Heights(numbers[2 * i], [numbers[(2 * i) + 1]], CancellationToken.None)[0])
            .Order()
            .ToList();
        var apart = Enumerable
            .Range(0, pairs)
            .SelectMany(i =>
                index.Heights(
                    numbers[2 * i],
                    [.. Enumerable.Range(i + 1, pairs - i - 1).Select(k => numbers[(2 * k) + 1])],
                    CancellationToken.None
                )
            )
            .Order()
            .ToList();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"loose: height of the outlines of {pairs} pairs that share 20 s to 4 min, noise to -10 dB: lowest {belong[0]:0.0}, a "
                    + $"tenth below {belong[pairs / 10]:0.0}, median {belong[pairs / 2]:0.0}, "
                    + $"{belong.Count(h => h < OutlineIndex.WorthALook)} below the bar of {OutlineIndex.WorthALook}; of {apart.Count} that "
                    + $"share nothing: median {apart[apart.Count / 2]:0.0}, a hundredth above {apart[apart.Count * 99 / 100]:0.0}, highest "
                    + $"{apart[^1]:0.0}, {apart.Count(h => h >= OutlineIndex.WorthALook)} at the bar or above"
            )
        );
    }

    // The utterances are few: at one pace two talks would hold the same sound now and then, and rightly be found.
    private static double Pace(int seed) => 0.8 + (0.4 * new Random(seed + 1_000_000).NextDouble());

    private static (float[] One, float[] Other) Pair(MadeTalk talk, int seed, int overlap)
    {
        var random = new Random(seed);
        MadeMic Mic() =>
            new(
                Math.Pow(10, (random.NextDouble() * 1.5) - 1),
                random.NextDouble() * 0.5,
                -40 + (30 * random.NextDouble()),
                1500 + (2000 * random.NextDouble()),
                30 + (200 * random.NextDouble())
            );
        var said = talk.Say((2 * Seconds) - overlap + 2, seed, Pace(seed), longest: LongestUtterance);
        return (
            MadeTalk.Record(said, 0, Seconds, 0, Mic(), seed),
            MadeTalk.Record(said, Seconds - overlap, Seconds, (random.NextDouble() * 200) - 100, Mic(), seed + 1)
        );
    }

    private static async Task CompareAsync(MadeTalk talk, int count)
    {
        var data = Directory.CreateTempSubdirectory("ember-loose").FullName;
        try
        {
            var day = Directory.CreateDirectory(Path.Combine(data, "day")).FullName;
            Parallel.For(
                0,
                count / OnePairIn * (OnePairIn - 1),
                new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount },
                i =>
                {
                    if (i < count / OnePairIn)
                    {
                        var (one, other) = Pair(talk, 90_000 + i, Overlapping);
                        Wave(Path.Combine(day, string.Create(CultureInfo.InvariantCulture, $"A{i:0000}.wav")), one);
                        Wave(Path.Combine(day, string.Create(CultureInfo.InvariantCulture, $"B{i:0000}.wav")), other);
                    }
                    else
                    {
                        Wave(
                            Path.Combine(day, string.Create(CultureInfo.InvariantCulture, $"A{i:0000}.wav")),
                            MadeTalk.Record(
                                talk.Say(Seconds + 2, 90_000 + i, Pace(i), longest: LongestUtterance),
                                0,
                                Seconds,
                                0,
                                new MadeMic(0.7, 0, -20, 3000, 80),
                                i
                            )
                        );
                    }
                }
            );
            await using var server = await RunningServer.StartAsync(Path.Combine(data, "data"), demo: false, null, day);
            var (footage, jobs) = (server.Services.GetRequiredService<Store.Footage>(), server.Services.GetRequiredService<Jobs>());
            var production = footage.AddProduction("Loose");
            var watch = Stopwatch.StartNew();
            await server.Services.GetRequiredService<Intake>().BringFolderInAsync(production, day, (_, _) => { }, CancellationToken.None);
            // Playing copies are not what is measured.
            foreach (var copy in jobs.OfKind(production, WorkKinds.Pictures))
            {
                jobs.End(copy.Id, "cancelled", "", "");
            }
            server.Services.GetRequiredService<Upkeep>().Ask(production);
            while (jobs.Newest(WorkKinds.Alike, production) is not { IsOpen: false })
            {
                await Task.Delay(200);
            }
            var found = server.Services.GetRequiredService<Likeness>().Of(production);
            var names = footage.Sources(production).ToDictionary(s => s.Id, s => s.Name[1..]);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"loose: {count} files of five minutes brought in and compared in {watch.Elapsed.TotalMinutes:0.0} min "
                        + $"({jobs.Newest(WorkKinds.Alike, production)!.Detail}); {found.Count(f => names[f.One] == names[f.Other])} of "
                        + $"{count / OnePairIn} pairs found, {found.Count(f => names[f.One] != names[f.Other])} wrong"
                )
            );
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(data, recursive: true);
        }
    }

    private static void Wave(string path, float[] samples)
    {
        var bytes = new byte[samples.Length * 2];
        for (var i = 0; i < samples.Length; i++)
        {
            BitConverter.TryWriteBytes(
                bytes.AsSpan(2 * i),
                (short)Math.Clamp(Math.Round(samples[i] * 32767), short.MinValue, short.MaxValue)
            );
        }
        File.WriteAllBytes(path, HostileFiles.Wave(bytes, SoundMatch.SampleRate));
    }
}
