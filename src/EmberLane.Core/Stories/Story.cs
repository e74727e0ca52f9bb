using System.Collections.Immutable;

namespace EmberLane.Core.Stories;

/// <summary>
/// A story: its pieces in order, its title, how it is counted and where its record starts, the length that it shall have, and whether it
/// was put away.
/// </summary>
public sealed record Story(ImmutableList<Piece> Pieces)
{
    /// <summary>Its title.</summary>
    public string Title { get; init; } = "";

    /// <summary>The label of its first frame, which tells the rate and how frames are counted.</summary>
    public Timecode Start { get; init; } = new(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0);

    /// <summary>How long it shall be; zero when nobody said.</summary>
    public MediaTime Target { get; init; }

    /// <summary>Put away, to be brought back.</summary>
    public bool IsAway { get; init; }

    /// <summary>Without pieces.</summary>
    public static Story Empty { get; } = new(ImmutableList<Piece>.Empty);

    /// <summary>The cards of bites among its pieces, in order. Made anew each time.</summary>
    public IReadOnlyList<Card> Cards => [.. Pieces.OfType<Card>()];

    /// <summary>Whether it has no card of a bite.</summary>
    public bool HasNoCards => !Pieces.Any(p => p is Card);

    /// <summary>The place of a piece from 0; −1 when it is not in the story.</summary>
    public int IndexOf(Guid piece) => Pieces.FindIndex(p => p.Id == piece);

    /// <summary>
    /// The place behind a piece; the end where none is named. Throws <see cref="EditRefusedException"/> where it is gone.
    /// </summary>
    public int PlaceBehind(Guid? piece) =>
        piece is not { } behind ? Pieces.Count
        : behind == Guid.Empty ? 0
        : IndexOf(behind) is >= 0 and var at ? at + 1
        : throw new EditRefusedException("The card behind which it should lie is no longer in the story.");
}
