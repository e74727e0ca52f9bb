namespace EmberLane.Core.Copies;

/// <summary>
/// Which frames of a file are seen: for each frame of a copy the one that the file shows at that moment, so that nothing drifts whatever
/// the two rates are.
/// </summary>
public readonly record struct FramePick(SourceTime At, FrameRate Source, FrameRate Copy)
{
    /// <summary>A moment that a clock rounded down by less than so much (10 µs) counts as reached.</summary>
    private static readonly MediaTime Grain = new(MediaTime.UnitsPerSecond / 100_000);

    /// <summary>The frame of the file, from 0, that is seen in a frame of the copy, from 0.</summary>
    public long Of(long frame) => Math.Max(0, Source.FrameAt(At.FromZero + Copy.TimeOf(frame) + Grain));

    /// <summary>The moment half a frame before the first: a reader that drops all before it begins with the first.</summary>
    public MediaTime SeekTo => Of(0) == 0 ? MediaTime.Zero : Source.TimeOf(Of(0)) - new MediaTime(Source.TimeOf(1).Units / 2);
}
