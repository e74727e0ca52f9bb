namespace EmberLane.Web.Rooms;

/// <summary>Lists that come in parts as one scrolls.</summary>
internal static class LongList
{
    /// <summary>
    /// So many rows that all parts of which a page shows some are there in whole: a row that comes back has its place. At least one part.
    /// </summary>
    public static int Whole(int rows, int part) => Math.Max(1, (int)Exact.CeilingDivide(Math.Min(rows, 1_000_000), part)) * part;
}
