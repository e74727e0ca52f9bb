using EmberLane.Core.Media;
using EmberLane.Core.Sync;

namespace EmberLane.Store;

/// <summary>
/// A media file of a production. It belongs to a sitting, or is loose footage. <see cref="Place"/> is null until it is placed on the
/// sitting's clock.
/// </summary>
public sealed record Source(
    long Id,
    long ProductionId,
    long? SittingId,
    string Path,
    string Name,
    long Size,
    string Fingerprint,
    SourceFacts Facts,
    Placement Placement
)
{
    /// <summary>Where it lies on the sitting's clock; null while it lies nowhere.</summary>
    public ClockMap? Place => Placement.Place;

    /// <summary>What a person wrote on it.</summary>
    public Labels Labels { get; init; } = Labels.None;

    /// <summary>Whether the file is where it was.</summary>
    public FileState State { get; init; }

    /// <summary>
    /// When the file was last changed, as the disk said when it was last known to hold this content; in seconds since 1970, 0 when that was
    /// never asked.
    /// </summary>
    public long Modified { get; init; }

    /// <summary>What is said aloud at its start; null until a person asked for it, empty when nothing was understood.</summary>
    public string? Said { get; init; }

    /// <summary>Which camera it is of, as written, else by its tags or name.</summary>
    public string Camera => Labels.CameraOf(Facts, Name);

    /// <summary>The day of the recording, as written, else as measured; may be empty.</summary>
    public string Day => Labels.DayOf(Facts);
}

/// <summary>Whether a source's file is where it was brought in from, gone, or there with other content.</summary>
public enum FileState
{
    /// <summary>Where it was, with the same content.</summary>
    Here,

    /// <summary>Not where it was.</summary>
    Missing,

    /// <summary>There, with other content.</summary>
    Replaced,
}

/// <summary>A file that was measured and is about to be brought in.</summary>
public sealed record NewSource(string Path, string Name, long Size, string Fingerprint, SourceFacts Facts, long Modified = 0);
