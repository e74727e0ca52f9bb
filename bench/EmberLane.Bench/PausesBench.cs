using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;

namespace EmberLane.Bench;

/// <summary>
/// Pauses over 0.4 s in talk of real people (<see cref="RealPeople"/>), sentence after sentence with true pauses between, in rooms of
/// several noises: how many of those found are true, how many true ones are found (each overlaps the other by half of the longer), and how
/// many of their edges lie within 40 ms.
/// </summary>
internal static class PausesBench
{
    private const int Talks = 6,
        Seconds = 300,
        Least = 40,
        Near = 4;

    private static readonly (string Name, RoomSound Room)[] Rooms =
    [
        ("a dry room, noise 15 dB below", new RoomSound(0.05, 15)),
        ("a room with an echo of 0.3 s, noise 15 dB below", new RoomSound(0.3, 15)),
        ("an echo of 0.2 s, noise 25 dB below", new RoomSound(0.2, 25)),
        ("an echo of 0.2 s, noise 45 dB below", new RoomSound(0.2, 45)),
    ];

    public static async Task RunAsync(string repository)
    {
        foreach (var tuning in new[] { true, false })
        {
            var people = await RealPeople.PrepareAsync(repository, tuning);
            Console.WriteLine(
                $"pauses of real people, the half that is {(tuning ? "tuned on" : "reported")}: {Talks} talks of {Seconds / 60} min"
            );
            foreach (var (name, room) in Rooms)
            {
                var talks = Enumerable.Range(0, Talks).Select(n => people.Talk(Seconds, 3_000 + n, room)).ToList();
                Show(
                    name,
                    "by the utterances' loudness",
                    talks,
                    mix => Between(VoiceActivity.SpeechByLoudness(SilenceSegmenter.Energy(mix)), mix)
                );
                Show(name, "found", talks, mix => PauseFinder.Pauses(SpeechNetwork.Chances(mix), SilenceSegmenter.Energy(mix), Least));
            }
        }
    }

    private static void Show(
        string room,
        string how,
        List<(short[] Mix, IReadOnlyList<StepRange> Speech)> talks,
        Func<short[], IReadOnlyList<StepRange>> find
    )
    {
        int found = 0,
            trueOnes = 0,
            right = 0,
            begins = 0,
            ends = 0;
        foreach (var (mix, speech) in talks)
        {
            var truth = Between(speech, mix);
            var pauses = find(mix);
            found += pauses.Count;
            trueOnes += truth.Count;
            foreach (var (pause, other) in truth.Select(t => (t, pauses.FirstOrDefault(p => Same(t, p)))).Where(p => p.Item2.Count > 0))
            {
                right++;
                begins += Math.Abs(pause.First - other.First) <= Near ? 1 : 0;
                ends += Math.Abs(pause.End - other.End) <= Near ? 1 : 0;
            }
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  {room}, {how}: precision {(double)right / found:0.0%}, recall {(double)right / trueOnes:0.0%} of {trueOnes}; "
                    + $"within 40 ms {(double)begins / right:0%} of their begins, {(double)ends / right:0%} of their ends"
            )
        );
    }

    private static bool Same(StepRange one, StepRange other)
    {
        var both = Math.Min(one.End.Value, other.End.Value) - Math.Max(one.First.Value, other.First.Value);
        return both > 0 && both * 2 >= Math.Max(one.Count, other.Count);
    }

    private static List<StepRange> Between(IReadOnlyList<StepRange> speech, short[] mix)
    {
        var between = new List<StepRange>();
        var from = 0;
        foreach (var run in speech.Append(StepRange.Of(mix.Length * Step.PerSecond / SilenceSegmenter.SampleRate, int.MaxValue)))
        {
            between.Add(StepRange.Of(from, run.First.Value));
            from = run.End.Value;
        }
        return [.. between.Where(b => b.Count >= Least)];
    }
}
