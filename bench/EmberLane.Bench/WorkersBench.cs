using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Hands;
using EmberLane.Application.Work;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;
using EmberLane.Queue;
using EmberLane.Running;
using Microsoft.Extensions.DependencyInjection;

namespace EmberLane.Bench;

/// <summary>
/// Recognition by workers over a real queue: how it grows with their number, with a simulated recogniser that takes its time and no core;
/// and what the queue costs the real one on this machine.
/// </summary>
internal static class WorkersBench
{
    private const int PiecesEach = 8,
        Seconds = 30,
        TalkSeconds = 150;

    private static readonly TimeSpan Takes = TimeSpan.FromSeconds(3);

    private static readonly IReadOnlyList<int> Counts = [1, 2, 4, 8, 16];

    // Simulated: it waits as long as a recogniser would work, and hears nothing.
    private sealed class Waiting : IRecogniser
    {
        public PiecesTaken? Pieces => null;

        public IReadOnlyList<string>? Languages => null;

        /// <summary>How long it had nothing to do between two pieces, in milliseconds.</summary>
        public List<double> Gaps { get; } = [];

        private long ended;

        public string? WhyNot(string language = "en") => null;

        public async Task<WordList> RecogniseAsync(ToRecognise sound, CancellationToken cancel)
        {
            if (ended != 0)
            {
                Gaps.Add(Stopwatch.GetElapsedTime(ended).TotalMilliseconds);
            }
            await Task.Delay(Takes, cancel);
            ended = Stopwatch.GetTimestamp();
            return new WordList(sound.Language, []);
        }
    }

    public static async Task RunAsync(string repository)
    {
        var folder = Directory.CreateTempSubdirectory("ember-workers").FullName;
        using var queue = new QueueServer(Path.Combine(folder, "queue"));
        await queue.ReadyAsync();
        var wish = new QueueWish(queue.Address);
        await using var server = await RunningServer.StartAsync(
            Path.Combine(folder, "data"),
            demo: false,
            services => services.AddQueue(wish)
        );
        var hands = server.Services.GetRequiredService<IHands>();
        await RunningServer.UntilAsync(() => hands.Trouble is null, "the server to be at the queue");
        var pcm = Path.Combine(folder, "talk.pcm");
        await using (var talk = File.Create(pcm))
        {
            await SoundOfAsync(repository, talk);
        }
        // The first pieces of a process take longer, whoever does them: not told.
        await GrowAsync(hands, wish, pcm, folder, 1, isTold: false);
        foreach (var count in Counts)
        {
            await GrowAsync(hands, wish, pcm, folder, count, isTold: true);
        }
        await RealAsync(server, hands, wish, pcm, folder);
        Directory.Delete(folder, recursive: true);
    }

    // One of the demonstration's talks, again and again, so that there is enough of it.
    private static async Task SoundOfAsync(string repository, FileStream to)
    {
        var part = to.Name + ".part";
        using (
            var ffmpeg = Process.Start(
                "ffmpeg",
                [
                    "-v",
                    "error",
                    "-i",
                    Path.Combine(repository, "demo", "footage", "SND0614_T01.1.flac"),
                    "-ac",
                    "1",
                    "-ar",
                    "16000",
                    "-f",
                    "s16le",
                    part,
                ]
            )
        )
        {
            await ffmpeg.WaitForExitAsync();
        }
        var sound = await File.ReadAllBytesAsync(part);
        var most = Math.Max(TalkSeconds, PiecesEach * Counts[^1] * Seconds) * SilenceSegmenter.SampleRate * sizeof(short);
        while (to.Length < most)
        {
            await to.WriteAsync(sound);
        }
    }

    private static async Task GrowAsync(IHands hands, QueueWish wish, string pcm, string folder, int count, bool isTold)
    {
        using var stop = new CancellationTokenSource();
        var recognisers = Enumerable.Range(0, count).Select(_ => new Waiting()).ToList();
        var workers = recognisers
            .Select((own, n) => RunOneAsync(wish, own, folder, FormattableString.Invariant($"bench-{count}-{n}"), 1, stop.Token))
            .ToList();
        var name = FormattableString.Invariant($"bench-{count}-");
        await RunningServer.UntilAsync(
            () => hands.Workers.Count(w => w.Name.StartsWith(name, StringComparison.Ordinal)) == count,
            "the workers to be there"
        );
        var pieces = Enumerable.Range(0, PiecesEach * count).ToList();
        var watch = Stopwatch.StartNew();
        await Parallel.ForEachAsync(
            pieces,
            new ParallelOptions { MaxDegreeOfParallelism = hands.AtOnce!.Value },
            async (n, cancel) =>
            {
                var wav = Path.Combine(folder, FormattableString.Invariant($"piece{n}.wav"));
                long first = (long)n * Seconds * SilenceSegmenter.SampleRate;
                await PcmFile.WriteWavAsync(pcm, first, first + (Seconds * SilenceSegmenter.SampleRate), wav, cancel);
                await hands.DoAsync(
                    SpeechErrand.Of("waiting", new ToRecognise(wav, "Bench", "en", []), PcmFile.LengthOfWav(wav)),
                    (_, _) => { },
                    cancel
                );
                File.Delete(wav);
            }
        );
        var took = watch.Elapsed.TotalSeconds;
        var ideal = PiecesEach * Takes.TotalSeconds;
        if (isTold)
        {
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"workers: {count,2} workers, {pieces.Count} pieces of {Seconds} s, {Takes.TotalSeconds:0} s each (simulated): "
                        + $"{took:0.0} s, "
                        + $"{ideal / took:0.00} of linear, between two pieces {Median(recognisers.SelectMany(r => r.Gaps)):0} ms"
                )
            );
        }
        await stop.CancelAsync();
        await Task.WhenAll(workers);
    }

    private static double Median(IEnumerable<double> values)
    {
        var all = values.Order().ToList();
        return all[all.Count / 2];
    }

    private static async Task RealAsync(RunningServer server, IHands hands, QueueWish wish, string pcm, string folder)
    {
        var talk = pcm + ".real";
        await PcmFile.WritePartAsync(pcm, 0, (long)TalkSeconds * SilenceSegmenter.SampleRate, talk, CancellationToken.None);
        var local = server.Services.GetRequiredService<Recognisers>().Find(Recognisers.Local)!;
        using var stop = new CancellationTokenSource();
        var worker = RunOneAsync(wish, local.Recogniser, folder, "bench-real", Environment.ProcessorCount, stop.Token);
        async Task<(double Took, WordList Heard)> HeardAsync(IRecogniser by)
        {
            var watch = Stopwatch.StartNew();
            var heard = await new Transcription(by).RunAsync(
                talk,
                "Bench",
                new Dictionary<StepRange, WordList>(),
                _ => Task.CompletedTask,
                CancellationToken.None
            );
            return (watch.Elapsed.TotalSeconds, heard);
        }
        for (var round = 1; round <= 2; round++)
        {
            var here = await HeardAsync(local.Recogniser);
            var there = await HeardAsync(new HandedRecogniser(local, hands));
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"workers: the local recogniser on {Environment.ProcessorCount} cores, {TalkSeconds} s of talk: {here.Took:0.0} s in "
                        + $"process, {there.Took:0.0} s by one worker here ({there.Took / here.Took:0.00}×); "
                        + $"{(here.Heard.Words.SequenceEqual(there.Heard.Words) ? "the same words" : "OTHER WORDS")}"
                )
            );
        }
        await stop.CancelAsync();
        await worker;
    }

    private static async Task RunOneAsync(
        QueueWish wish,
        IRecogniser recogniser,
        string folder,
        string name,
        int atOnce,
        CancellationToken stop
    )
    {
        await using var worker = new Worker(
            new WorkerWish(wish, [ErrandKinds.Speech], atOnce, new PathMap([]), name, Path.Combine(folder, name)),
            new ErrandDesk(_ => recogniser),
            _ => { }
        );
        await worker.RunAsync(stop);
    }
}
