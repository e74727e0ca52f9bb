using System.Diagnostics;
using System.Globalization;
using System.Runtime.InteropServices;
using EmberLane.Core.Signal;
using EmberLane.Core.Speech;
using EmberLane.Core.Tidy;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>
/// Pauses over 0.4 s between words, told by words and sound together, with noise 15 dB below the talk: made voices, the half that is
/// tuned on and the one that is reported, and real people beside them. Words are the true stretches of talk cut into pieces of a third of
/// a second, whose ends lie wrong by as much as a recogniser's do. And how fast 24.5 minutes and three hours are looked at.
/// </summary>
internal static class TidyBench
{
    private const int Talks = 6,
        Seconds = 300,
        Least = 40,
        Half = 1_470,
        Hours = 3;

    /// <summary>A recogniser's word ends lie wrong by this much at most; in milliseconds.</summary>
    private const int Wrong = 80;

    private static readonly RoomSound Room = new(0.2, 15);

    public static async Task RunAsync(string repository)
    {
        var made = await MadePeople.PrepareAsync(repository);
        Show("made voices, the half that is tuned on", [.. Enumerable.Range(0, Talks).Select(n => made.Talk(Seconds, 4_000 + n, Room))]);
        Show("made voices, the half that is reported", [.. Enumerable.Range(0, Talks).Select(n => made.Talk(Seconds, 5_000 + n, Room))]);
        foreach (var tuning in new[] { true, false })
        {
            var real = await RealPeople.PrepareAsync(repository, tuning);
            Show(
                $"real people, the half that is {(tuning ? "tuned on" : "reported")}",
                [.. Enumerable.Range(0, Talks).Select(n => real.Talk(Seconds, 3_000 + n, Room))]
            );
        }
        await SpeedAsync(made);
    }

    private static void Show(string what, List<(short[] Mix, IReadOnlyList<StepRange> Speech)> talks)
    {
        int found = 0,
            trueOnes = 0,
            right = 0;
        var off = new List<double>();
        foreach (var (n, (mix, speech)) in talks.Index())
        {
            var truth = speech
                .Zip(speech.Skip(1), (one, next) => new TalkPause(one.End.FromStart, next.First.FromStart))
                .Where(p => p.Length >= MediaTime.FromMilliseconds(10 * Least))
                .ToList();
            var energy = SilenceSegmenter.Energy(mix);
            var sound = new TalkSound(energy, SpeechNetwork.Chances(mix), [], MediaTime.Zero);
            var pauses = TalkPauses.Of(
                Heard(speech, new Random(n)),
                sound.Quiet,
                sound.Chances,
                sound.From,
                MediaTime.FromMilliseconds(10 * Least)
            );
            (found, trueOnes) = (found + pauses.Count, trueOnes + truth.Count);
            foreach (var pause in truth)
            {
                foreach (var other in pauses.Where(p => Same(pause, p)).Take(1))
                {
                    right++;
                    off.Add(Math.Abs((other.In - pause.In).ToMillisecondsRounded()));
                    off.Add(Math.Abs((other.Out - pause.Out).ToMillisecondsRounded()));
                }
            }
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"pauses between words, {what}: precision {(double)right / found:0.0%}, recall {(double)right / trueOnes:0.0%} of "
                    + $"{trueOnes}; "
                    + $"edges off by {Percentile.Of([.. off], 50):0} ms at the median, {Percentile.Of([.. off], 95):0} ms at the 95th"
            )
        );
    }

    private static bool Same(TalkPause one, TalkPause other)
    {
        var both = MediaTime.Min(one.Out, other.Out) - MediaTime.Max(one.In, other.In);
        return both > MediaTime.Zero && both * 2 >= MediaTime.Max(one.Length, other.Length);
    }

    internal static Talk Heard(IReadOnlyList<StepRange> speech, Random random)
    {
        const long word = 333;
        var words = new List<TalkWord>();
        foreach (var run in speech)
        {
            long from = run.First.FromStart.ToMillisecondsRounded() + random.Next(-Wrong, Wrong + 1),
                to = Math.Max(from + 60, run.End.FromStart.ToMillisecondsRounded() + random.Next(-Wrong, Wrong + 1));
            from = words.Count > 0 ? Math.Max(from, words[^1].Out.ToMillisecondsRounded()) : Math.Max(0, from);
            for (; from < to; from += word)
            {
                words.Add(new TalkWord("word", MediaTime.FromMilliseconds(from), MediaTime.FromMilliseconds(Math.Min(from + word, to)), 0));
            }
        }
        return new Talk(words);
    }

    // One person on camera: what is measured once, and what each look costs; then three hours of it.
    private static async Task SpeedAsync(MadePeople people)
    {
        var (mix, speech) = people.Talk(Half, 71, new RoomSound(0.2, 20));
        var pcm = Path.GetTempFileName();
        try
        {
            await File.WriteAllBytesAsync(pcm, MemoryMarshal.AsBytes<short>(mix).ToArray());
            var watch = Stopwatch.StartNew();
            var energy = PcmFile.Energy(pcm);
            var energies = watch.Elapsed;
            var chances = SpeechNetwork.Chances(pcm, energy);
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"24.5 min of one person: energies in {energies.TotalSeconds:0.0} s, and where somebody speaks in "
                        + $"{(watch.Elapsed - energies).TotalSeconds:0.0} s more"
                )
            );
            Look("24.5 min", Heard(speech, new Random(1)), energy, chances);
            var times = (Hours * 3600 / Half) + 1;
            var length = MediaTime.FromMilliseconds(1000L * Half);
            var words = Heard(speech, new Random(1)).Words;
            Look(
                $"{Hours} hours",
                new Talk([
                    .. Enumerable
                        .Range(0, times)
                        .SelectMany(n => words.Select(w => w with { In = w.In + (length * n), Out = w.Out + (length * n) })),
                ]),
                [.. Enumerable.Range(0, times).SelectMany(_ => energy)],
                [.. Enumerable.Range(0, times).SelectMany(_ => chances)]
            );
        }
        finally
        {
            File.Delete(pcm);
        }
    }

    private static void Look(string what, Talk talk, float[] energy, float[] chances)
    {
        var watch = Stopwatch.StartNew();
        var sound = new TalkSound(energy, chances, [], MediaTime.Zero);
        var plan = PausePlan.Of(talk, sound, PauseWish.First, _ => "", _ => false);
        var first = watch.Elapsed;
        var changed = Enumerable
            .Range(0, 7)
            .Select(n =>
            {
                var again = Stopwatch.StartNew();
                PausePlan.Of(talk, sound, PauseWish.First with { From = 600 + (100 * n), To = 300 }, _ => "", _ => false);
                return again.Elapsed.TotalMilliseconds;
            })
            .Order()
            .ToList();
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"a look at the pauses of {what}, {talk.Words.Count} words, {plan.Count} cuts: the first in "
                    + $"{first.TotalMilliseconds:0} ms, "
                    + $"for a changed setting {changed[changed.Count / 2]:0} ms at the median"
            )
        );
    }
}
