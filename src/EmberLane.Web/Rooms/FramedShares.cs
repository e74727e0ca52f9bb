using EmberLane.Core.Timeline;

namespace EmberLane.Web.Rooms;

/// <summary>What of a picture is seen, as the pages' scripts take it.</summary>
public static class FramedShares
{
    /// <summary>
    /// Left edge, upper edge and size as shares of the picture, at the begin and at the end; null for the whole picture.
    /// </summary>
    public static IReadOnlyList<double>? Of(Framed? framed) =>
        framed is null
            ? null
            : [.. new[] { framed.From, framed.To }.SelectMany(c => new[] { c.Left, c.Top, c.Size }).Select(v => v / (double)Crop.Whole)];
}
