namespace EmberLane.Core.Stories;

/// <summary>A card on a grid of frames that begins at the sitting's zero.</summary>
public readonly record struct CardFrames(long First, long Count)
{
    /// <summary>Rounded outwards, so that no part of a word is lost; at least one frame.</summary>
    public static CardFrames Of(SittingRange range, FrameRate rate)
    {
        var first = rate.FrameAt(range.In.FromZero);
        return new CardFrames(first, Math.Max(1, rate.FrameAtOrAfter(range.Out.FromZero) - first));
    }

    /// <summary>
    /// Parts of one card, in order and apart, each rounded outwards; where that leaves no whole frame out between two of them, they are
    /// one: no frame is shown twice.
    /// </summary>
    public static IReadOnlyList<CardFrames> Of(IReadOnlyList<SittingRange> pieces, FrameRate rate)
    {
        var frames = new List<CardFrames>();
        foreach (var next in pieces.Select(p => Of(p, rate)))
        {
            if (frames.Count > 0 && frames[^1] is var last && next.First <= last.First + last.Count)
            {
                frames[^1] = last with { Count = Math.Max(last.Count, next.First + next.Count - last.First) };
            }
            else
            {
                frames.Add(next);
            }
        }
        return frames;
    }

    /// <summary>The stretch of the sitting that these frames show.</summary>
    public SittingRange Shown(FrameRate rate) => new(new SittingTime(rate.TimeOf(First)), new SittingTime(rate.TimeOf(First + Count)));
}
