using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Copies;

/// <summary>What is heard, from where in it on.</summary>
public abstract record HeardFrom
{
    /// <summary>The same so much later.</summary>
    public abstract HeardFrom Later(MediaTime by);

    /// <summary>How much later another begins in the same sound; null where it is another sound.</summary>
    public abstract MediaTime? Apart(HeardFrom other);
}

/// <summary>The sound of a sitting as it is heard everywhere.</summary>
public sealed record FromSitting(long SittingId, SittingTime At) : HeardFrom
{
    /// <inheritdoc/>
    public override HeardFrom Later(MediaTime by) => this with { At = At + by };

    /// <inheritdoc/>
    public override MediaTime? Apart(HeardFrom other) => other is FromSitting next && next.SittingId == SittingId ? next.At - At : null;
}

/// <summary>Some channels of a file, from 1; null for all that its first track has.</summary>
public sealed record FromFile(long SourceId, IReadOnlyList<int>? Channels, SourceTime At) : HeardFrom
{
    /// <inheritdoc/>
    public override HeardFrom Later(MediaTime by) => this with { At = At + by };

    /// <inheritdoc/>
    public override MediaTime? Apart(HeardFrom other) =>
        other is FromFile next
        && next.SourceId == SourceId
        && (next.Channels is null ? Channels is null : Channels is { } own && next.Channels.SequenceEqual(own))
            ? next.At - At
            : null;
}

/// <summary>A narration as a machine reads it.</summary>
public sealed record FromNarration(Narration Narration, MediaTime At) : HeardFrom
{
    /// <inheritdoc/>
    public override HeardFrom Later(MediaTime by) => this with { At = At + by };

    /// <inheritdoc/>
    public override MediaTime? Apart(HeardFrom other) =>
        other is FromNarration next && next.Narration.Id == Narration.Id ? next.At - At : null;
}

/// <summary>
/// Frames of a copy in which something is heard, its level in tenths of a decibel, and how long it comes in and goes out.
/// </summary>
public sealed record HeardStretch(FrameSpan Frames, HeardFrom From)
{
    /// <summary>In tenths of a decibel.</summary>
    public int Level { get; init; }

    /// <summary>How long it comes in.</summary>
    public MediaTime FadeIn { get; init; }

    /// <summary>How long it goes out.</summary>
    public MediaTime FadeOut { get; init; }
}

/// <summary>Frames of a copy in which a file is seen from a moment of it on; black where there is none.</summary>
public sealed record SeenStretch(FrameSpan Frames, long? SourceId, SourceTime At)
{
    /// <summary>What of its picture is seen; null for all of it.</summary>
    public Framed? Framed { get; init; }

    /// <summary>What goes under it where it dissolves in; null where it does not.</summary>
    public Leaving? Leaving { get; init; }
}

/// <summary>
/// What goes as something comes, in the same frames: <paramref name="From"/> frames of <paramref name="Of"/> that the dissolve lasts lie
/// before the first of them.
/// </summary>
public sealed record Leaving(SeenStretch Seen, long From, long Of)
{
    /// <summary>How much of what comes is seen in a frame, counted from the first, in thousandths.</summary>
    public PerMille Share(long frame) => PerMille.Of((2 * (From + frame)) + 1, 2 * Of);
}

/// <summary>From a moment of a copy on, this person speaks.</summary>
public readonly record struct SpeakerRun(MediaTime From, string Who);
