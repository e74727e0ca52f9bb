using EmberLane.Core.Marks;

namespace EmberLane.Core.Bites;

/// <summary>
/// A marked stretch worth keeping: a mark over words of a text of its sitting, with a theme. A bite set aside stays in the production and
/// can be brought back.
/// </summary>
public sealed record Bite(Mark Mark, long SittingId, long TranscriptId, string Theme, bool IsAside)
{
    /// <summary>
    /// One that is not kept yet: these words of a text, by number, both included, and where they lie on the sitting's clock.
    /// </summary>
    public static Bite Of(
        long sittingId,
        long transcriptId,
        int first,
        int last,
        SittingRange range,
        string theme,
        string note,
        string owner
    ) => new(new Mark(0, MarkKind.Bite, first, last, range, owner, note, null), sittingId, transcriptId, theme, false);

    public long Id => Mark.Id;

    public int FirstWord => Mark.First;

    public int LastWord => Mark.Last;

    public SittingRange Range => Mark.Range;

    public string Note => Mark.Note;

    public string Owner => Mark.Owner;
}
