using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>
/// A stretch of a sitting in which a mic is open: its file, its channel there from 1, and on which sound track it is laid, from 0, so that
/// mics which are open together lie on different ones.
/// </summary>
public sealed record MicShot(SittingRange Range, ListedSource Source, int Channel, int Track)
{
    /// <summary>Those of a card's frames in which it is open, to the nearest; null where none is.</summary>
    public CardFrames? FramesIn(CardFrames frames, FrameRate rate)
    {
        long first = Math.Max(frames.First, rate.NearestFrame(Range.In.FromZero)),
            end = Math.Min(frames.First + frames.Count, rate.NearestFrame(Range.Out.FromZero));
        return first < end ? new CardFrames(first, end - first) : null;
    }
}
