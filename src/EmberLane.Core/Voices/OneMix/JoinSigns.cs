namespace EmberLane.Core.Voices.OneMix;

/// <summary>The signs by which it is told whether two groups of turns, the nearest of all, are two people's.</summary>
internal static class JoinSigns
{
    /// <summary>Numbers that <see cref="Of"/> gives.</summary>
    public const int Count = 6;

    /// <summary>
    /// Logarithms of the cost of joining them, by how much it passes the join before (<paramref name="before"/>, null for the first), of
    /// both's seconds, and of how far apart they lie by how widely they spread; and how alike they move the kinds of sound (a cosine). How
    /// far they lie apart along each of the directions tells more of the people that those were learned from than of others.
    /// </summary>
    public static double[] Of(VoiceGroup one, VoiceGroup other, double? before)
    {
        var cost = one.From(other);
        double parted = 0;
        for (var d = 0; d < one.Mean.Length; d++)
        {
            var off = (one.Mean[d] - other.Mean[d]) * (one.Mean[d] - other.Mean[d]);
            parted += off / (0.3 + one.Variance[d] + other.Variance[d]);
        }
        return
        [
            Math.Log(cost + 1e-3),
            Math.Log((cost + 1e-3) / ((before ?? 0.8 * cost) + 1e-3)),
            Math.Log(Math.Min(one.Seconds, other.Seconds)),
            Math.Log(Math.Max(one.Seconds, other.Seconds)),
            Math.Log(parted + 1e-6),
            one.Alike(other),
        ];
    }
}
