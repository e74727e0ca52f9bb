namespace EmberLane.Core.Sync;

/// <summary>
/// All stretches laid over one another along a line: what they share adds up, and what is chance does not. This finds a line that no single
/// stretch shows.
/// </summary>
internal static class Stack
{
    /// <summary>No stretch counts for more than this, so that a hum in one can not decide.</summary>
    private const float Most = 6;

    /// <summary>A stretch agrees when it stands this high on the line.</summary>
    private const double AgreesFrom = 2.5;

    /// <summary>
    /// The line along which the sum is highest, among those whose slope lies within <paramref name="steepest"/> of level and which begin
    /// and end in reach; how high it is in spreads of chance; out of how many lines; how many stretches agree, and how many of those lie
    /// apart, so that they share no sound. Lags are relative to the expected line. Needs three stretches.
    /// </summary>
    public static (LagLine Line, double Height, double Tries, int Agreeing, int Apart) Highest(
        IReadOnlyList<StretchLags> stretches,
        double steepest
    )
    {
        double first = stretches.Min(s => s.At),
            last = stretches.Max(s => s.At),
            middle = (first + last) / 2,
            half = Math.Max(1, (last - first) / 2);
        var tilt = (int)Math.Ceiling(steepest * half);
        var reach = stretches.Min(s => s.Reach) - tilt - 1;
        var best = (Height: 0.0, Lag: 0, Tilt: 0);
        var sums = new float[Math.Max(0, (2 * reach) + 1)];
        for (var t = -tilt; t <= tilt; t++)
        {
            Array.Clear(sums);
            foreach (var stretch in stretches)
            {
                var shift = (int)Math.Round(t * (stretch.At - middle) / half);
                for (var k = 0; k < sums.Length; k++)
                {
                    sums[k] += Math.Clamp(stretch[k - reach + shift], -Most, Most);
                }
            }
            for (var k = 0; k < sums.Length; k++)
            {
                if (Math.Abs(sums[k]) > best.Height)
                {
                    best = (Math.Abs(sums[k]), k - reach, t);
                }
            }
        }
        var line = Sharpen(stretches, new LagLine(best.Lag - (best.Tilt * middle / half), best.Tilt / half), first, last);
        var sign = Math.Sign(stretches.Sum(s => s.Between(line.At(s.At))));
        var agreeing = stretches.Where(s => sign * s.Between(line.At(s.At)) >= AgreesFrom).Select(s => s.At).Order().ToList();
        return (line, best.Height / Math.Sqrt(stretches.Count), (double)sums.Length * ((2 * tilt) + 1), agreeing.Count, Apart(agreeing));
    }

    /// <summary>How many of these stretches, by their middles in order, share no sound with one another.</summary>
    public static int Apart(List<double> places)
    {
        var count = 0;
        var free = double.NegativeInfinity;
        foreach (var at in places)
        {
            if (at >= free)
            {
                count++;
                free = at + GccPhat.Window;
            }
        }
        return count;
    }

    // Moves the line's two ends until the sum gets no higher, down to thousandths of a sample.
    private static LagLine Sharpen(IReadOnlyList<StretchLags> stretches, LagLine line, double first, double last)
    {
        double left = line.At(first),
            right = line.At(last),
            span = Math.Max(1, last - first);
        double Sum(double a, double b) =>
            Math.Abs(stretches.Sum(s => Math.Clamp(s.Between(a + ((b - a) * (s.At - first) / span)), -4 * Most, 4 * Most)));
        (double A, double B)[] moves = [(1, 0), (-1, 0), (0, 1), (0, -1), (1, 1), (-1, -1), (1, -1), (-1, 1)];
        var height = Sum(left, right);
        for (var step = 0.5; step > 0.001; step /= 2)
        {
            for (var moved = true; moved;)
            {
                moved = false;
                foreach (var (a, b) in moves)
                {
                    var tried = Sum(left + (a * step), right + (b * step));
                    if (tried > height)
                    {
                        (left, right, height, moved) = (left + (a * step), right + (b * step), tried, true);
                    }
                }
            }
        }
        var slope = (right - left) / span;
        return new LagLine(left - (slope * first), slope);
    }
}
