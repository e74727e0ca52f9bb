using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// How far a file, by its source's id, may be seen and heard beyond a moment of it, because what comes then is off the record; null where
/// nothing forbids it.
/// </summary>
public delegate MediaTime? FreeBeyond(long sourceId, SourceTime from);

/// <summary>The dissolves that a story wishes, and what there is for them on each track.</summary>
internal sealed class LaidDissolves(FrameRate rate, FreeBeyond beyond)
{
    private readonly Dictionary<long, Dissolve> wished = [];

    /// <summary>A piece that begins at this frame comes in so.</summary>
    public void Wish(Dissolve? dissolve, long frame)
    {
        if (dissolve is not null)
        {
            // A piece that has no frames leaves its place to the next, which has its own way.
            wished[frame] = dissolve;
        }
        else
        {
            wished.Remove(frame);
        }
    }

    /// <summary>
    /// The items of a track with a transition before each that dissolves in. It is as long as was wished, or as the item before can be seen
    /// or heard beyond its end, or as the item itself. Linear.
    /// </summary>
    public IReadOnlyList<TimelineItem> Into(IReadOnlyList<TimelineItem> items, TrackKind kind)
    {
        if (wished.Count == 0)
        {
            return items;
        }
        var with = new List<TimelineItem>(items.Count);
        TimelineItem? before = null;
        long at = 0;
        foreach (var item in items)
        {
            if (
                before is not null
                && wished.TryGetValue(at, out var dissolve)
                && (kind == TrackKind.Picture || dissolve.IsHeard)
                && (before is Clip || item is Clip)
                && Frames(dissolve, before, item) is > 0 and var frames
            )
            {
                with.Add(new Transition(item.Group, rate.TimeOf(frames)));
            }
            with.Add(item);
            before = item;
            at += rate.NearestFrame(item.Length);
        }
        return with;
    }

    private long Frames(Dissolve dissolve, TimelineItem before, TimelineItem item) =>
        Math.Min(Math.Max(1, rate.NearestFrame(dissolve.Lasting)), Math.Min(Left(before), rate.NearestFrame(item.Length)));

    // Whole frames that an item has beyond its end.
    private long Left(TimelineItem item)
    {
        if (item is not Clip { Media: { SourceId: { } id, Facts: { } facts } media } clip)
        {
            return long.MaxValue;
        }
        var label = SourceTimecode.For(facts, media.Count);
        var left = label.Available - label.FrameAt(clip.Range.Out, 0);
        return beyond(id, clip.Range.Out) is { } free ? Math.Min(left, rate.FrameAt(free)) : left;
    }
}
