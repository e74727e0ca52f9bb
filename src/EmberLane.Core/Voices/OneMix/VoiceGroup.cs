namespace EmberLane.Core.Voices.OneMix;

/// <summary>Some turns taken for one voice: how they lie together, and how they move the kinds of sound.</summary>
internal sealed record VoiceGroup(double[] Mean, double[] Variance, double Seconds, float[] Moves)
{
    /// <summary>What joining two groups adds to the spread within groups.</summary>
    public static double Apart(double[] one, double weight, double[] other, double others)
    {
        double sum = 0;
        for (var d = 0; d < one.Length; d++)
        {
            sum += (one[d] - other[d]) * (one[d] - other[d]);
        }
        return weight * others / (weight + others) * sum;
    }

    public double From(VoiceGroup other) => Apart(Mean, Seconds, other.Mean, other.Seconds);

    /// <summary>How alike two groups move the kinds of sound: the cosine between their moves, −1 to 1; 0 where either has none.</summary>
    public double Alike(VoiceGroup other)
    {
        double both = 0,
            own = 0,
            others = 0;
        for (var i = 0; i < Moves.Length; i++)
        {
            both += Moves[i] * other.Moves[i];
            own += Moves[i] * Moves[i];
            others += other.Moves[i] * other.Moves[i];
        }
        return own > 0 && others > 0 ? both / Math.Sqrt(own * others) : 0;
    }
}
