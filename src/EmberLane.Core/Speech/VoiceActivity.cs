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
    public static IReadOnlyList<(int First, int End)> Find(ReadOnlySpan<float> energy)
    {
        var loud = new double[energy.Length];
        for (var i = 0; i < energy.Length; i++)
        {
            loud[i] = 10 * Math.Log10(1 + energy[i]);
        }
        var spoken = new List<(int First, int End)>();
        foreach (var stretch in Join(Speech(loud), energy.Length))
        {
            var part = energy[stretch.First..stretch.End];
            spoken.AddRange(
                SilenceSegmenter.Plan(part, Longest / 2, Longest).Select(p => (stretch.First + p.First, stretch.First + p.End))
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

    private static List<(int First, int End)> Speech(double[] loud)
    {
        var stretches = new List<(int First, int End)>();
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
            if (stretches is [.., var last] && i - last.End < Pause)
            {
                stretches[^1] = (last.First, i + 1);
            }
            else
            {
                stretches.Add((i, i + 1));
            }
        }
        return stretches;
    }

    private static List<(int First, int End)> Join(List<(int First, int End)> speech, int length)
    {
        var joined = new List<(int First, int End)>();
        foreach (var (first, end) in speech)
        {
            var next = (First: Math.Max(0, first - Margin), End: Math.Min(length, end + Margin));
            if (
                joined is [.., var last]
                && (
                    next.First <= last.End
                    || (next.First - last.End < Near && Math.Min(next.End - next.First, last.End - last.First) < Short)
                )
            )
            {
                joined[^1] = (last.First, next.End);
            }
            else
            {
                joined.Add(next);
            }
        }
        return joined;
    }
}
