namespace EmberLane.Core.Handoff;

/// <summary>
/// One line of an edit decision list. <see cref="DissolveFrames"/> is null for a cut.
/// Outs are exclusive. <see cref="ExtraChannels"/> are audio channels from three up; comments are without their <c>* </c>.
/// Two lines of a dissolve have the same number. Source labels may count drop frame otherwise than the record.
/// </summary>
public sealed record ListedEvent(
    int Number,
    string Reel,
    EdlTrack Track,
    int? DissolveFrames,
    Timecode SourceIn,
    Timecode SourceOut,
    Timecode RecordIn,
    Timecode RecordOut,
    IReadOnlyList<int> ExtraChannels,
    IReadOnlyList<string> Comments
)
{
    /// <inheritdoc/>
    public bool Equals(ListedEvent? other) =>
        other is not null
        && (Number, Reel, Track, DissolveFrames, SourceIn, SourceOut, RecordIn, RecordOut)
            == (
                other.Number,
                other.Reel,
                other.Track,
                other.DissolveFrames,
                other.SourceIn,
                other.SourceOut,
                other.RecordIn,
                other.RecordOut
            )
        && ExtraChannels.SequenceEqual(other.ExtraChannels)
        && Comments.SequenceEqual(other.Comments);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(Number, Reel, Track, SourceIn, RecordIn);
}

/// <summary>An edit decision list: its title, how record times are counted, and its lines in order.</summary>
public sealed record EventList(string Title, TimecodeCount Count, IReadOnlyList<ListedEvent> Events)
{
    /// <summary>So many events a list numbers with three digits.</summary>
    public const int MostEvents = 999;
}
