namespace EmberLane.Engines.Copies;

/// <summary>
/// A stretch of a file that is heard in a copy: the track (its index among all streams), which of its channels from 0 (null: all), from
/// where on, at which of the copy's samples it begins, and how many it has; its level in tenths of a decibel, its fades in samples.
/// <see cref="Room"/> names what it was recorded in: its noise is measured together.
/// </summary>
public sealed record SoundPiece(
    string Path,
    int Track,
    int TrackChannels,
    IReadOnlyList<int>? Channels,
    MediaTime From,
    long First,
    long Count
)
{
    /// <summary>In tenths of a decibel.</summary>
    public int Level { get; init; }

    /// <summary>In samples.</summary>
    public int FadeIn { get; init; }

    /// <summary>In samples.</summary>
    public int FadeOut { get; init; }

    /// <summary>Empty for what has no room of its own, as music.</summary>
    public string Room { get; init; } = "";
}
