using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Rooms.Drawn;

/// <summary>
/// A line of the story as it is drawn: a piece and the seam behind it. Its markup shows nothing else, so that two lines which are equal
/// look the same.
/// </summary>
public sealed record DrawnLine(DrawnPiece Piece, DrawnSeam? Seam, bool IsFoldedAway)
{
    /// <summary>The piece's id.</summary>
    public Guid Id => Piece.Id;
}

/// <summary>A piece as it is drawn, and what the player needs of it, as JSON.</summary>
public abstract record DrawnPiece(Guid Id, string Play)
{
    /// <summary>How it dissolves in, in words; empty where it is cut.</summary>
    public string ComesIn { get; init; } = "";
}

/// <summary>A card of a bite as it is drawn.</summary>
public sealed record DrawnCard(Guid Id, string Play) : DrawnPiece(Id, Play)
{
    /// <summary>The production and the sitting that it is taken from.</summary>
    public required (long Production, long Sitting) From { get; init; }

    /// <summary>The name of the production that it is taken from; empty where that is the story's own.</summary>
    public required string Elsewhere { get; init; }

    /// <summary>Who speaks, of what, and from where.</summary>
    public string About =>
        string.Join(" · ", new[] { Speaker, Theme, Elsewhere.Length > 0 ? "from " + Elsewhere : "" }.Where(t => t.Length > 0));

    /// <summary>The number of its first word in the sitting's text.</summary>
    public required WordNumber FirstWord { get; init; }

    /// <summary>The seconds of its sitting in which it begins and ends.</summary>
    public required (string In, string Out) Range { get; init; }

    /// <summary>The mark of who says most, and those of all who speak, by name.</summary>
    public required SpeakerMark Mark { get; init; }

    public required Alike<SpeakerMark> Voices { get; init; }

    public required string Speaker { get; init; }

    /// <summary>What it says; empty where all of its words are set aside.</summary>
    public required string Said { get; init; }

    public required string Theme { get; init; }

    public required bool IsBiteAside { get; init; }

    /// <summary>What is shown where the chosen angle does not roll; empty when it does.</summary>
    public required string Instead { get; init; }

    /// <summary>The picture that lies over it; empty when none does.</summary>
    public required string Over { get; init; }

    /// <summary>The lines that are missing before it and behind it.</summary>
    public required (string Before, string After) Space { get; init; }

    /// <summary>What there is to settle at joins inside it, where something is set aside: a sentence each.</summary>
    public required Alike<string> Inside { get; init; }

    public required string Length { get; init; }

    public required int OtherTakes { get; init; }

    /// <summary>The angle that was chosen for it; empty when none was.</summary>
    public required string Angle { get; init; }
}

/// <summary>A piece that is no card of a bite, as it is drawn.</summary>
public sealed record DrawnOther(Guid Id, string Play, PieceLook Look, DrawnSection? Section) : DrawnPiece(Id, Play);

/// <summary>A section's heading: whether it is folded, and how many cards it has.</summary>
public sealed record DrawnSection(bool IsFolded, int Cards);

/// <summary>A seam as it is drawn: by the card before it, how bad it is, how it looks, and what is seen of it where it lies open.</summary>
public sealed record DrawnSeam(Guid Card, int Score, SeamLook Look, Loupe? Open);
