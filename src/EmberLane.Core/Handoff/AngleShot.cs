using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>A shot of a card by a camera plan: the stretch of the sitting, and the clips of the angle that is seen.</summary>
public sealed record AngleShot(SittingRange Range, IReadOnlyList<long> Clips)
{
    /// <summary>
    /// Frames of a card parted where its shots change, each with its clips; all frames, each once. Changes lie on the nearest frame; what
    /// no shot fills goes with the next one, and behind the last with that. Without shots it is all the frames and no clip. Linear.
    /// </summary>
    public static IReadOnlyList<(CardFrames Frames, IReadOnlyList<long> Clips)> Part(
        CardFrames frames,
        IReadOnlyList<AngleShot> shots,
        FrameRate rate
    )
    {
        var parts = new List<(CardFrames, IReadOnlyList<long>)>();
        var (at, end) = (frames.First, frames.First + frames.Count);
        IReadOnlyList<long> last = [];
        foreach (var shot in shots)
        {
            if (rate.NearestFrame(shot.Range.In.FromZero) >= end)
            {
                break;
            }
            var until = Math.Min(end, rate.NearestFrame(shot.Range.Out.FromZero));
            if (at < until)
            {
                parts.Add((new CardFrames(at, until - at), shot.Clips));
                (at, last) = (until, shot.Clips);
            }
        }
        if (at < end)
        {
            parts.Add((new CardFrames(at, end - at), last));
        }
        return parts;
    }
}
