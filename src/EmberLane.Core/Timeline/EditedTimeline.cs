using EmberLane.Core.Media;

namespace EmberLane.Core.Timeline;

/// <summary>
/// What an edit is, whichever list it is written as or was read from: tracks that run side by side from one start, and markers. Times are
/// exact.
/// </summary>
public sealed record EditedTimeline(string Title, Timecode Start, IReadOnlyList<Track> Tracks, IReadOnlyList<Marker> Markers)
{
    /// <summary>The length of the longest track.</summary>
    public MediaTime Length => Tracks.Count == 0 ? MediaTime.Zero : Tracks.Max(t => t.Length);

    /// <summary>The tracks of a kind, in their order.</summary>
    public IEnumerable<Track> Of(TrackKind kind) => Tracks.Where(t => t.Kind == kind);
}

/// <summary>Whether a track holds pictures or sound.</summary>
public enum TrackKind
{
    /// <summary>What is seen.</summary>
    Picture,

    /// <summary>What is heard.</summary>
    Sound,
}

/// <summary>What a track is for.</summary>
public enum TrackUse
{
    /// <summary>What is seen and heard.</summary>
    Cut,

    /// <summary>Pictures that lie over those of the cut.</summary>
    Over,

    /// <summary>Bites that are kept beside a card, switched off.</summary>
    Alternates,

    /// <summary>All angles of each card, switched off.</summary>
    Angles,
}

/// <summary>
/// Items one after another from the timeline's start, without holes: where nothing is, a <see cref="Gap"/> is. A <see cref="Transition"/>
/// takes no time of its own.
/// </summary>
public sealed record Track(TrackKind Kind, string Name, IReadOnlyList<TimelineItem> Items)
{
    /// <summary>What it is for.</summary>
    public TrackUse Use { get; init; }

    /// <summary>How long its items last together.</summary>
    public MediaTime Length => Items.Aggregate(MediaTime.Zero, (sum, i) => sum + i.Length);

    /// <summary>The items with where each begins and ends.</summary>
    public IEnumerable<(TimelineItem Item, RecordRange Range)> Placed()
    {
        var at = default(RecordTime);
        foreach (var item in Items)
        {
            yield return (item, new RecordRange(at, at + item.Length));
            at += item.Length;
        }
    }
}

/// <summary>
/// Something on a track. Items of one <paramref name="Group"/> came from one card: picture and sound that belong together.
/// <paramref name="Note"/> is for a person, and may be empty.
/// </summary>
public abstract record TimelineItem(int Group, string Note)
{
    /// <summary>How long it lasts in the timeline.</summary>
    public abstract MediaTime Length { get; }
}

/// <summary>Nothing: black, or silence.</summary>
public sealed record Gap(int Group, string Note, MediaTime Lasting) : TimelineItem(Group, Note)
{
    /// <inheritdoc/>
    public override MediaTime Length => Lasting;
}

/// <summary>A stretch of a file, played at its own pace; one that is not enabled keeps its place and is neither seen nor heard.</summary>
public sealed record Clip(int Group, string Note, TimelineMedia Media, SourceRange Range, bool IsEnabled = true) : TimelineItem(Group, Note)
{
    /// <summary>The channels that are heard, from 1; null for all that the file has.</summary>
    public IReadOnlyList<int>? Open { get; init; }

    /// <summary>What of its picture is seen; null for all of it.</summary>
    public Framed? Framed { get; init; }

    /// <summary>What of its picture is seen where the edit is of a narrower shape; null where it is not.</summary>
    public NarrowView? Narrow { get; init; }

    /// <summary>The channels that are heard, from 1, rising.</summary>
    public IReadOnlyList<int> Channels => Open ?? [.. Enumerable.Range(1, Media.Channels)];

    /// <inheritdoc/>
    public override MediaTime Length => Range.Length;
}

/// <summary>The clip before dissolves into the one behind, from where that begins, for <paramref name="Lasting"/>.</summary>
public sealed record Transition(int Group, MediaTime Lasting) : TimelineItem(Group, "")
{
    /// <inheritdoc/>
    public override MediaTime Length => MediaTime.Zero;
}

/// <summary>
/// A file that clips are of: the source's id (null where it was only read of), its reel, its name, how many channels of sound are used, and
/// how its own time is counted.
/// </summary>
/// <param name="Facts">What was measured of the file; null for one that was only read of, whose ranges then count from 00:00:00:00 of
/// <paramref name="Count"/>.</param>
/// <param name="Count">How its labels count where nothing was measured.</param>
public sealed record TimelineMedia(long? SourceId, string Reel, string FileName, int Channels, SourceFacts? Facts, TimecodeCount Count);

/// <summary>A place in the timeline, or a stretch of it, that somebody named.</summary>
public sealed record Marker(RecordRange Range, string Name, string Note);
