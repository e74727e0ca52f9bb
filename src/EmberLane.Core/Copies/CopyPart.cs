namespace EmberLane.Core.Copies;

/// <summary>A stretch of a sitting that is heard or seen in a copy.</summary>
public sealed record CopyPart(long Sitting, SittingRange Range)
{
    /// <summary>A frame of any rate: how far a copy, which ends on whole frames, may reach beyond a word's edge.</summary>
    private static readonly MediaTime Edge = MediaTime.FromMilliseconds(42);

    /// <summary>Whether more than an edge of a stretch is in it.</summary>
    public bool Holds(SittingRange stretch) =>
        (Range.Out < stretch.Out ? Range.Out : stretch.Out) - (Range.In > stretch.In ? Range.In : stretch.In) > Edge;
}
