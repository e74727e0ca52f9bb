namespace EmberLane.Core.Sync;

/// <summary>How likely it is that what was found is chance.</summary>
internal static class Chance
{
    /// <summary>
    /// Of <paramref name="compared"/> places, whose lags would fall anywhere in reach if the sounds were unrelated,
    /// <paramref name="agreeing"/> lie on one line: the chance of that, as its number of zeros (−log10), at least 0. Two places make a
    /// line, so two count for nothing; every pair of them was tried. <paramref name="share"/> is the part of the reach that counts as on
    /// the line.
    /// </summary>
    public static double ZerosAgainst(int agreeing, int compared, double share)
    {
        if (agreeing < 3)
        {
            return 0;
        }
        var p = Math.Clamp(share, 1e-9, 1 - 1e-9);
        int n = compared - 2,
            k = agreeing - 2;
        double tail = 0,
            term = Math.Pow(1 - p, n);
        for (var i = 0; i <= n; i++)
        {
            tail += i >= k ? term : 0;
            term *= (n - i) * p / ((i + 1) * (1 - p));
        }
        var pairs = compared * (compared - 1) / 2.0;
        return Math.Max(0, -Math.Log10(Math.Max(1e-300, tail * pairs)));
    }

    /// <summary>
    /// The chance that any of <paramref name="tries"/> independent draws of a normal distribution lies <paramref name="spreads"/> from its
    /// mean, to either side: its number of zeros, at least 0.
    /// </summary>
    public static double ZerosOfHeight(double spreads, double tries)
    {
        // The upper tail by its well-known bound, which is within a few per cent from three spreads on.
        var zeros =
            spreads < 1 ? 0 : ((spreads * spreads / 2) / Math.Log(10)) + Math.Log10(spreads * Math.Sqrt(2 * Math.PI)) - Math.Log10(2);
        return Math.Max(0, zeros - Math.Log10(tries));
    }
}
