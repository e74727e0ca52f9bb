using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// What a turn sounds like, in a few numbers: means and spreads of its cepstra, how fast they move, its pitch and how much of it is voiced.
/// </summary>
internal static class TurnFeatures
{
    private const int D = Mfcc.Coefficients;

    /// <summary>Numbers of a turn.</summary>
    public const int Count = (3 * D) + 2;

    /// <summary>A turn counts by its seconds, to at most so many.</summary>
    public const double MostSeconds = 6;

    /// <summary>Steps of the pitch that tell it, and across how many steps of the cepstra movement is taken.</summary>
    private const int Voiced = 6,
        Across = 4;

    private const double LowestPitch = 60,
        PitchWeight = 6,
        VoicedWeight = 2;

    public static double Seconds(StepRange turn) => Math.Min(MostSeconds, (double)turn.Count / Step.PerSecond);

    /// <summary>
    /// A row a turn, around the mean of all, each turn weighing by its seconds. Frames have mean 0 and spread 1; <paramref name="pitch"/>
    /// is that of <see cref="PitchTracker"/>, and may end early.
    /// </summary>
    public static double[][] Of(float[][] frames, IReadOnlyList<float> pitch, IReadOnlyList<StepRange> turns)
    {
        var rows = new double[turns.Count][];
        Parallel.For(0, turns.Count, i => rows[i] = Of(frames, pitch, turns[i]));
        const int pitched = 2 * D;
        var known = rows.Where(r => !double.IsNaN(r[pitched])).Select(r => r[pitched]).DefaultIfEmpty(0).Average();
        foreach (var row in rows.Where(r => double.IsNaN(r[pitched])))
        {
            row[pitched] = known;
        }
        Centre(rows, [.. turns.Select(Seconds)]);
        return rows;
    }

    /// <summary>Takes the weighted mean of all rows away from each.</summary>
    public static void Centre(double[][] rows, double[] weights)
    {
        for (var d = 0; rows.Length > 0 && d < rows[0].Length; d++)
        {
            double sum = 0,
                all = 0;
            for (var i = 0; i < rows.Length; i++)
            {
                sum += weights[i] * rows[i][d];
                all += weights[i];
            }
            foreach (var row in rows)
            {
                row[d] -= sum / all;
            }
        }
    }

    private static double[] Of(float[][] frames, IReadOnlyList<float> pitch, StepRange turn)
    {
        var row = new double[Count];
        for (var d = 0; d < D; d++)
        {
            var (mean, variance) = Spread(turn.Count, i => frames[turn.First.Value + i][d]);
            row[d] = mean;
            row[D + d] = 0.5 * Math.Log(variance + 1e-3);
            var (_, moving) = Spread(turn.Count - Across, i => frames[turn.First.Value + i + Across][d] - frames[turn.First.Value + i][d]);
            row[(2 * D) + 2 + d] = 0.5 * Math.Log(moving + 1e-2);
        }
        List<double> hertz = [];
        for (var at = turn.First.Value; at < turn.End.Value; at++)
        {
            var step = at / PitchTracker.Every;
            if (step < pitch.Count && pitch[step] > 0)
            {
                hertz.Add(pitch[step]);
            }
        }
        hertz.Sort();
        row[2 * D] =
            hertz.Count < Voiced ? double.NaN : PitchWeight * 0.5 * (Log(hertz[hertz.Count / 2]) + Log(hertz[(hertz.Count - 1) / 2]));
        row[(2 * D) + 1] = VoicedWeight * hertz.Count / turn.Count;
        return row;
    }

    private static double Log(double hertz) => Math.Log(Math.Max(LowestPitch, hertz));

    private static (double Mean, double Variance) Spread(int count, Func<int, double> value)
    {
        if (count <= 0)
        {
            return (0, 0);
        }
        double sum = 0,
            squares = 0;
        for (var i = 0; i < count; i++)
        {
            var v = value(i);
            sum += v;
            squares += v * v;
        }
        var mean = sum / count;
        return (mean, Math.Max(0, (squares / count) - (mean * mean)));
    }
}
