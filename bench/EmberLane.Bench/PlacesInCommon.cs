namespace EmberLane.Bench;

/// <summary>How far two stretches of places, both ends included, are the same: what both hold over what they span, 0–1.</summary>
internal static class PlacesInCommon
{
    public static double Of((int First, int Last) one, (int First, int Last) other)
    {
        var both = Math.Min(one.Last, other.Last) - Math.Max(one.First, other.First) + 1;
        return both <= 0 ? 0 : (double)both / (Math.Max(one.Last, other.Last) - Math.Min(one.First, other.First) + 1);
    }
}
