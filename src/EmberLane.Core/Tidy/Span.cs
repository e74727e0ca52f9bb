namespace EmberLane.Core.Tidy;

/// <summary>Words of one voice that belong together: their places, in order, at least one.</summary>
internal sealed record Span(int[] Places)
{
    public int First => Places[0];

    public int Last => Places[^1];

    /// <summary>What both hold of the words that either holds, 0–1.</summary>
    public double Common(Span other)
    {
        if (other.First > Last || First > other.Last)
        {
            return 0;
        }
        var both = Places.Intersect(other.Places).Count();
        return (double)both / (Places.Length + other.Places.Length - both);
    }
}
