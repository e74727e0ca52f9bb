using EmberLane.Core.Media;

namespace EmberLane.Core.Sync;

/// <summary>What files say of when they were recorded, by their own count of time.</summary>
public static class DayTime
{
    private static readonly MediaTime Day = MediaTime.FromMilliseconds(86_400_000);

    /// <summary>
    /// The time of day at a file's start, or null when it has no count. A label is read as a clock: one that was set to the time of day
    /// reads that, whatever its frames are.
    /// </summary>
    public static MediaTime? At(StartOfFile start) =>
        start.SinceMidnight
        ?? (
            start.Label is { } l
                ? MediaTime.FromMilliseconds(((((l.Hours * 60L) + l.Minutes) * 60) + l.Seconds) * 1000)
                    + new MediaTime(Exact.RoundDivide((Int128)l.Frames * MediaTime.UnitsPerSecond, l.Count.Rate.Nominal))
                : null
        );

    /// <summary>
    /// Where a source would lie on a reference's clock if both counts ran together, at most twelve hours either way (so over midnight too);
    /// null when one has none. Two labels of one count are told apart by whole frames.
    /// </summary>
    public static MediaTime? Offset(SourceFacts reference, SourceFacts source)
    {
        if (reference.Start.Label is { } ours && source.Start.Label is { } theirs && ours.Count == theirs.Count)
        {
            return Nearest(ours.Count.Rate.TimeOf(theirs.Frame) - ours.Count.Rate.TimeOf(ours.Frame));
        }
        return At(reference.Start) is { } zero && At(source.Start) is { } at ? Nearest(at - zero) : null;
    }

    private static MediaTime Nearest(MediaTime offset)
    {
        var half = new MediaTime(Day.Units / 2);
        return offset > half ? offset - Day
            : offset <= -half ? offset + Day
            : offset;
    }
}
