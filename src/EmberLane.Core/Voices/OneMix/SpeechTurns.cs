using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// Cuts runs of speech where the voice changes: where two normal distributions with all covariances describe a run better than one (Chen
/// and Gopalakrishnan, 1998, by the Bayesian information criterion). What lies between two cuts is mostly one person's.
/// </summary>
internal static class SpeechTurns
{
    private const int D = Mfcc.Coefficients,
        Products = D * (D + 1) / 2;

    /// <summary>In steps: shorter runs are not cut, neither side of a cut is shorter, and cuts are looked for so far apart.</summary>
    private const int Least = 300,
        Side = 120,
        Apart = 10;

    /// <summary>How heavily the second distribution's numbers weigh: measured, see the bench.</summary>
    private const double Weight = 1.3;

    /// <summary>Added to each variance, so that few frames do not make a shape of no width.</summary>
    private const double Widened = 1e-3;

    /// <summary>The turns of all runs, in order; frames have about mean 0 and spread 1.</summary>
    public static IReadOnlyList<StepRange> Cut(float[][] frames, IReadOnlyList<StepRange> speech)
    {
        var turns = new List<StepRange>[speech.Count];
        Parallel.For(
            0,
            speech.Count,
            i =>
            {
                turns[i] = [];
                Cut(speech[i], Sums(frames, speech[i]), speech[i].First, turns[i]);
            }
        );
        return [.. turns.SelectMany(t => t)];
    }

    private static void Cut(StepRange run, double[][] sums, Step zero, List<StepRange> turns)
    {
        if (BestCut(run, sums, zero) is { } at)
        {
            Cut(run with { End = at }, sums, zero, turns);
            Cut(run with { First = at }, sums, zero, turns);
        }
        else
        {
            turns.Add(run);
        }
    }

    private static Step? BestCut(StepRange run, double[][] sums, Step zero)
    {
        if (run.Count < Least)
        {
            return null;
        }
        var penalty = Weight * 0.5 * (D + Products) * Math.Log(run.Count);
        var whole = run.Count * LogDeterminant(sums, run, zero);
        Step? best = null;
        double most = 0;
        for (var at = First(run.First + Side, zero); at <= run.End - Side; at += Apart)
        {
            StepRange left = run with { End = at },
                right = run with { First = at };
            var gain =
                (0.5 * (whole - (left.Count * LogDeterminant(sums, left, zero)) - (right.Count * LogDeterminant(sums, right, zero))))
                - penalty;
            (best, most) = gain > most ? (at, gain) : (best, most);
        }
        return best;
    }

    // Sums are kept at every tenth step.
    private static Step First(Step from, Step zero) => zero + ((from - zero + Apart - 1) / Apart * Apart);

    // Up to every tenth step of a run and to its end: the sums of the frames and of their products.
    private static double[][] Sums(float[][] frames, StepRange run)
    {
        var sums = new double[((run.Count + Apart - 1) / Apart) + 1][];
        sums[0] = new double[D + Products];
        for (var part = 1; part < sums.Length; part++)
        {
            var sum = (double[])sums[part - 1].Clone();
            var end = Math.Min(run.End.Value, run.First.Value + (part * Apart));
            for (var step = run.First.Value + ((part - 1) * Apart); step < end; step++)
            {
                var frame = frames[step];
                for (int i = 0, k = D; i < D; i++)
                {
                    sum[i] += frame[i];
                    for (var j = 0; j <= i; j++, k++)
                    {
                        sum[k] += frame[i] * frame[j];
                    }
                }
            }
            sums[part] = sum;
        }
        return sums;
    }

    private static double LogDeterminant(double[][] sums, StepRange run, Step zero)
    {
        double[] from = sums[(run.First - zero) / Apart],
            to = sums[(run.End - zero + Apart - 1) / Apart];
        var count = run.Count;
        Span<double> mean = stackalloc double[D],
            lower = stackalloc double[Products];
        for (var i = 0; i < D; i++)
        {
            mean[i] = (to[i] - from[i]) / count;
        }
        double sum = 0;
        // Cholesky's lower triangle, row by row.
        for (int i = 0, row = 0; i < D; row += ++i)
        {
            for (int j = 0, other = 0; j <= i; other += ++j)
            {
                var value = ((to[D + row + j] - from[D + row + j]) / count) - (mean[i] * mean[j]) + (i == j ? Widened : 0);
                for (var k = 0; k < j; k++)
                {
                    value -= lower[row + k] * lower[other + k];
                }
                lower[row + j] = i == j ? Math.Sqrt(Math.Max(value, 1e-9)) : value / lower[other + j];
            }
            sum += Math.Log(lower[row + i]);
        }
        return 2 * sum;
    }
}
