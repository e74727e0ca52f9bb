using EmberLane.Core.Signal;

namespace EmberLane.Core.Speech;

/// <summary>
/// Finds what is said in one go: the stretches of speech between pauses. A recogniser that is given one at a time can take the sound of
/// exactly this voice, in this room, as its measure.
/// </summary>
public static class VoiceActivity
{
    /// <summary>
    /// All in 10 ms steps: a pause that parts two utterances, room left before and after, the shortest that stands alone, how far it may be
    /// from its neighbour to join it, and the longest.
    /// </summary>
    private const int Pause = 20,
        Margin = 12,
        Short = 100,
        Near = 60,
        Longest = 1_000;

    /// <summary>Speech is what passes this share of the way from the quiet (10th percentile) to the loud (95th) in decibels.</summary>
    private const double Share = 0.35;

    /// <summary>
    /// Speech may be this much softer than the loudest, in decibels, also where there is hardly any pause to tell the quiet by.
    /// </summary>
    private const double Softest = 15;

    /// <summary>
    /// From energies of 10 ms steps (<see cref="SilenceSegmenter.Energy"/>) to stretches in steps, in order, apart, none longer than 10 s.
    /// Sound that never changes is one stretch cut by length; digital silence has none.
    /// </summary>
    public static IReadOnlyList<StepRange> Find(ReadOnlySpan<float> energy)
    {
        var loud = new double[energy.Length];
        for (var i = 0; i < energy.Length; i++)
        {
            loud[i] = 10 * Math.Log10(1 + energy[i]);
        }
        var spoken = new List<StepRange>();
        foreach (var stretch in Join(Speech(loud), energy.Length))
        {
            var part = energy[stretch.Within];
            spoken.AddRange(
                SilenceSegmenter
                    .Plan(part, Longest / 2, Longest)
                    .Select(p => new StepRange(stretch.First + p.First.Value, stretch.First + p.End.Value))
            );
        }
        return spoken;
    }

    /// <summary>From which loudness on a step is speech, by the loudness of all steps in decibels; at least one step.</summary>
    internal static double Threshold(double[] loud)
    {
        double quiet = Percentile.Of(loud, 10),
            most = Percentile.Of(loud, 95);
        // Where loud and quiet are the same, all of it may be speech; where there is nothing but zeros, nothing is.
        return Math.Max(Math.Min(quiet + (Share * (most - quiet)), most - Softest), 0.5);
    }

    private static List<StepRange> Speech(double[] loud)
    {
        var stretches = new List<StepRange>();
        if (loud.Length == 0)
        {
            return stretches;
        }
        var threshold = Threshold(loud);
        for (var i = 0; i < loud.Length; i++)
        {
            if (loud[i] < threshold)
            {
                continue;
            }
            if (stretches is [.., var last] && i - last.End.Value < Pause)
            {
                stretches[^1] = last with { End = new Step(i + 1) };
            }
            else
            {
                stretches.Add(StepRange.Of(i, i + 1));
            }
        }
        return stretches;
    }

    private static List<StepRange> Join(List<StepRange> speech, int length)
    {
        var joined = new List<StepRange>();
        foreach (var (first, end) in speech)
        {
            var next = StepRange.Of(Math.Max(0, first.Value - Margin), Math.Min(length, end.Value + Margin));
            if (
                joined is [.., var last]
                && (next.First <= last.End || (next.First - last.End < Near && Math.Min(next.Count, last.Count) < Short))
            )
            {
                joined[^1] = last with { End = next.End };
            }
            else
            {
                joined.Add(next);
            }
        }
        return joined;
    }
}
