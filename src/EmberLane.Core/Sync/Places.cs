namespace EmberLane.Core.Sync;

/// <summary>Chooses the stretches of an overlap that are worth comparing to the sample.</summary>
internal static class Places
{
    /// <summary>A stretch is worth it when it adds this share of what the best one adds to the rough match.</summary>
    private const double Worth = 0.25;

    /// <summary>
    /// Up to this uncertainty, in steps, the rough lag is exact enough to say what each stretch adds; beyond it loudness has to do.
    /// </summary>
    private const int Exact = 20;

    private const int WindowSteps = GccPhat.Window / SpectralFlux.Step;

    /// <summary>
    /// The first samples of at most <paramref name="most"/> stretches of the source, in order and evenly chosen among those that are worth
    /// it: where hours of the overlap hold nothing in common, all of them lie in the part that does.
    /// </summary>
    public static List<long> Choose(SpectralFlux reference, SpectralFlux source, RoughLag lag, int most)
    {
        int first = Math.Max(0, -lag.Steps),
            last = Math.Min(source.Length, reference.Length - lag.Steps) - WindowSteps;
        if (last < first)
        {
            return [];
        }
        var scores =
            lag.Uncertainty <= Exact ? Shared(reference, source, lag.Steps, first, last) : Loud(reference, source, lag.Steps, first, last);
        var slot = Math.Max(1, WindowSteps / 4);
        var best = new List<(int At, double Score)>();
        for (var from = first; from <= last; from += slot)
        {
            var at = Enumerable.Range(from, Math.Min(slot, last - from + 1)).MaxBy(t => scores[t - first]);
            best.Add((at, scores[at - first]));
        }
        var bar = best.Max(b => b.Score) * Worth;
        var worth = best.Where(b => b.Score >= bar).ToList();
        var count = Math.Min(most, worth.Count);
        return
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => (long)worth[count == 1 ? 0 : (int)((long)i * (worth.Count - 1) / (count - 1))].At * SpectralFlux.Step),
        ];
    }

    // What each stretch adds to the rough correlation, at the lag or a step or three beside it.
    private static double[] Shared(SpectralFlux reference, SpectralFlux source, int lag, int first, int last)
    {
        var scores = new double[last - first + 1];
        foreach (var beside in new[] { -3, 0, 3 })
        {
            var sums = Running(
                first,
                last,
                t =>
                {
                    var r = t + lag + beside;
                    double sum = 0;
                    if (r >= 0 && r < reference.Length)
                    {
                        for (var band = 0; band < SpectralFlux.Bands; band++)
                        {
                            sum += reference.Changes[band][r] * source.Changes[band][t];
                        }
                    }
                    return sum;
                }
            );
            for (var i = 0; i < scores.Length; i++)
            {
                scores[i] = Math.Max(scores[i], sums[i + WindowSteps] - sums[i]);
            }
        }
        return scores;
    }

    private static double[] Loud(SpectralFlux reference, SpectralFlux source, int lag, int first, int last)
    {
        double[] ours = Running(first, last, t => t + lag >= 0 && t + lag < reference.Length ? Math.Sqrt(reference.Energy[t + lag]) : 0),
            theirs = Running(first, last, t => Math.Sqrt(source.Energy[t]));
        return
        [
            .. Enumerable.Range(0, last - first + 1).Select(i => (ours[i + WindowSteps] - ours[i]) * (theirs[i + WindowSteps] - theirs[i])),
        ];
    }

    private static double[] Running(int first, int last, Func<int, double> value)
    {
        var sums = new double[last - first + WindowSteps + 1];
        for (var i = 0; i + 1 < sums.Length; i++)
        {
            sums[i + 1] = sums[i] + value(first + i);
        }
        return sums;
    }
}
