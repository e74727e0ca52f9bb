using EmberLane.Core.Signal;

namespace EmberLane.Core.Speech;

/// <summary>
/// Finds pauses in a sound: where nobody speaks. A network that hears speech decides what is speech; loudness, against the room's own
/// quiet around there, adds soft ends that the network loses in noise, and says to the step where a pause begins and ends.
/// </summary>
public static class PauseFinder
{
    /// <summary>From so likely on somebody speaks, and down to so likely goes on.</summary>
    private const float Begins = 0.4f,
        GoesOn = 0.2f;

    /// <summary>What is loud but nowhere even so likely speech is a noise of the room.</summary>
    private const float Noise = 0.03f;

    /// <summary>
    /// In decibels: what stands so far above the room's quiet is speech, if it is no softer than so far below the loud of the talk; and
    /// what is this little below it is, wherever people talk without a pause to tell the quiet by. An edge lies where it falls lower.
    /// </summary>
    private const double Clear = 3.5,
        Softer = 15,
        Below = 6,
        EdgeBelow = 0.5;

    /// <summary>
    /// In steps: loudness is the mean of so many; a closure between two sounds of a word; how far an edge is moved at most; and the room's
    /// quiet is told for so many by as many before and behind them too.
    /// </summary>
    private const int Mean = 3,
        Closure = 10,
        Reach = 40,
        Around = 3_000;

    /// <summary>
    /// The pauses of at least <paramref name="least"/> steps, in order, from how likely somebody speaks in each step
    /// (<c>SpeechNetwork</c>) and the steps' energies (<see cref="SilenceSegmenter.Energy"/>), both of one length. Where nobody speaks at
    /// all, all of it is one pause.
    /// </summary>
    public static IReadOnlyList<StepRange> Pauses(ReadOnlySpan<float> chances, ReadOnlySpan<float> energy, int least)
    {
        var loud = Loudness(energy);
        var likely = Likely(chances);
        var bars = Bars(loud, likely);
        var speech = (bool[])likely.Clone();
        foreach (var run in StepRuns.Of(loud.Length, i => loud[i] > bars[i]).Runs)
        {
            if (Any(chances[run.Within]))
            {
                speech.AsSpan()[run.Within].Fill(true);
            }
        }
        var pauses = new List<StepRange>();
        var from = 0;
        foreach (var run in StepRuns.Of(speech.Length, i => speech[i]).Joined(Closure).Runs)
        {
            var (first, end) = Edges(run, loud, bars);
            pauses.Add(StepRange.Of(from, first));
            from = end;
        }
        pauses.Add(StepRange.Of(from, loud.Length));
        return [.. pauses.Where(p => p.Count >= least)];
    }

    private static bool[] Likely(ReadOnlySpan<float> chances)
    {
        var likely = new bool[chances.Length];
        var speaking = false;
        for (var i = 0; i < likely.Length; i++)
        {
            likely[i] = speaking = chances[i] >= (speaking ? GoesOn : Begins);
        }
        return likely;
    }

    private static bool Any(ReadOnlySpan<float> chances)
    {
        foreach (var chance in chances)
        {
            if (chance > Noise)
            {
                return true;
            }
        }
        return false;
    }

    private static double[] Loudness(ReadOnlySpan<float> energy)
    {
        var loud = new double[energy.Length];
        for (var i = 0; i < loud.Length; i++)
        {
            double sum = 0;
            for (var k = Math.Max(0, i - (Mean / 2)); k <= Math.Min(loud.Length - 1, i + (Mean / 2)); k++)
            {
                sum += energy[k];
            }
            loud[i] = 10 * Math.Log10(1 + (sum / Mean));
        }
        return loud;
    }

    // What a step must pass to be speech, by the quiet and the talk of the minute and a half around it.
    private static double[] Bars(double[] loud, bool[] likely)
    {
        var bars = new double[loud.Length];
        double? talk = Talk(0, loud.Length);
        for (var from = 0; from < loud.Length; from += Around)
        {
            int first = Math.Max(0, from - Around),
                end = Math.Min(loud.Length, from + (2 * Around));
            var quiet = Percentile.Of(loud[first..end], 10);
            var said = Talk(first, end) ?? talk ?? double.PositiveInfinity;
            var bar = double.IsFinite(said) ? Math.Min(Math.Max(quiet + Clear, said - Softer), said - Below) : quiet + Clear;
            Array.Fill(bars, bar, from, Math.Min(Around, loud.Length - from));
        }
        return bars;

        double? Talk(int first, int end)
        {
            double[] spoken = [.. Enumerable.Range(first, end - first).Where(i => likely[i]).Select(i => loud[i])];
            return spoken.Length == 0 ? null : Percentile.Of(spoken, 80);
        }
    }

    private static (int First, int End) Edges(StepRange run, double[] loud, double[] bars)
    {
        int first = run.First.Value,
            end = run.End.Value;
        while (first < run.First.Value + Reach && first < end && loud[first] < bars[first] - EdgeBelow)
        {
            first++;
        }
        while (end > run.End.Value - Reach && end > first && loud[end - 1] < bars[end - 1] - EdgeBelow)
        {
            end--;
        }
        // What the network hears and loudness does not stays as the network has it.
        return first < end ? (first, end) : (run.First.Value, run.End.Value);
    }
}
