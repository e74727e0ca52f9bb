namespace EmberLane.Core.Stories;

/// <summary>
/// One piece of talk in a story: a stretch of the sitting that its bite was kept of, and the angle that shows it (a source's id), or null
/// when the story chooses. The stretch is the card's own: it may be shorter or longer than the bite.
/// </summary>
public sealed record Card(Guid Id, long BiteId, long SittingId, SittingRange Range, long? Angle) : Piece(Id)
{
    /// <summary>The bites that are other takes of the same, by id with a blank between; may be empty.</summary>
    public string OtherTakes { get; init; } = "";

    /// <summary>Lines of a script that nobody says, a line each, which belong before this card; may be empty.</summary>
    public string SpaceBefore { get; init; } = "";

    /// <summary>The same behind it: those of the script's end.</summary>
    public string SpaceAfter { get; init; } = "";

    /// <summary>The stretch before its ends were mended; null where they were not.</summary>
    public SittingRange? Unmended { get; init; }

    /// <summary>The picture that is seen over its sound; null for its own.</summary>
    public OverPicture? Over { get; init; }

    internal override Card Checked() =>
        Range.Length > MediaTime.Zero ? this : throw new EditRefusedException("Nothing would be left of that card. Take it out instead.");
}

/// <summary>
/// The picture of another file over a card: the stretch of that file, and how long after the card's begin it comes. Where the card is
/// shorter the rest of it is not seen; where it is longer its own picture is.
/// </summary>
public sealed record OverPicture(long SourceId, SourceRange Range, MediaTime After);
