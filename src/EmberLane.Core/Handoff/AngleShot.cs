using EmberLane.Core.Cameras;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>A shot of a card by a camera plan: the stretch of the sitting, and the clips of the angle that is seen.</summary>
public sealed record AngleShot(SittingRange Range, IReadOnlyList<long> Clips)
{
    /// <summary>How it is framed tighter; null for the whole picture.</summary>
    public PunchIn? Closer { get; init; }

    /// <summary>A number for what is seen: the same where the same view of the same camera is.</summary>
    public long View => Closer is null ? Clips[0] : CameraSetup.CloserOf(Clips[0]);

    /// <summary>What of the picture is seen in some of its frames; null for all of it.</summary>
    public Framed? FramedIn(CardFrames frames, FrameRate rate) => Closer?.Over(Range, frames.Shown(rate));

    /// <summary>
    /// Frames of a card parted where its shots change, each with its shot; all frames, each once. Changes lie on the nearest frame; what
    /// no shot fills goes with the next one, and behind the last with that. Without shots it is all the frames and no shot. Linear.
    /// </summary>
    public static IReadOnlyList<(CardFrames Frames, AngleShot? Shot)> Part(
        CardFrames frames,
        IReadOnlyList<AngleShot> shots,
        FrameRate rate
    )
    {
        var parts = new List<(CardFrames, AngleShot?)>();
        var (at, end) = (frames.First, frames.First + frames.Count);
        AngleShot? last = null;
        foreach (var shot in shots)
        {
            if (rate.NearestFrame(shot.Range.In.FromZero) >= end)
            {
                break;
            }
            var until = Math.Min(end, rate.NearestFrame(shot.Range.Out.FromZero));
            if (at < until)
            {
                parts.Add((new CardFrames(at, until - at), shot));
                (at, last) = (until, shot);
            }
        }
        if (at < end)
        {
            parts.Add((new CardFrames(at, end - at), last));
        }
        return parts;
    }
}
