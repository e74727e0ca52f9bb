namespace EmberLane.Core.Voices.OneMix;

/// <summary>The signs by which it is told whether two groups of turns, the nearest of all, are two people's.</summary>
internal static class JoinSigns
{
    private const int Telling = 6;

    /// <summary>Numbers that <see cref="Of"/> gives.</summary>
    public const int Count = 5 + Telling;

    /// <summary>
    /// Logarithms of the cost of joining them, by how much it passes the join before (<paramref name="before"/>, null for the first), of
    /// both's seconds, of how far apart they lie by how widely they spread, and of how far along each of the most telling directions.
    /// </summary>
    public static double[] Of(VoiceGroup one, VoiceGroup other, double? before)
    {
        var cost = one.From(other);
        var signs = new double[Count];
        double parted = 0;
        for (var d = 0; d < one.Mean.Length; d++)
        {
            var off = (one.Mean[d] - other.Mean[d]) * (one.Mean[d] - other.Mean[d]);
            parted += off / (0.3 + one.Variance[d] + other.Variance[d]);
            if (d < Telling)
            {
                signs[5 + d] = Math.Log(off + 0.02);
            }
        }
        signs[0] = Math.Log(cost + 1e-3);
        signs[1] = Math.Log((cost + 1e-3) / ((before ?? 0.8 * cost) + 1e-3));
        signs[2] = Math.Log(Math.Min(one.Seconds, other.Seconds));
        signs[3] = Math.Log(Math.Max(one.Seconds, other.Seconds));
        signs[4] = Math.Log(parted + 1e-6);
        return signs;
    }
}
