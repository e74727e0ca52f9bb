using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>
/// A marked stretch worth keeping: a mark over words of a text of its sitting, with themes, a grade and a note. A bite set aside stays in
/// the production and can be brought back.
/// </summary>
public sealed record Bite(Mark Mark, long SittingId, long TranscriptId, string Theme, bool IsAside)
{
    /// <summary>
    /// One that is not kept yet: these words of a text, by number, both included, and where they lie on the sitting's clock.
    /// </summary>
    public static Bite Of(
        long sittingId,
        long transcriptId,
        WordNumber first,
        WordNumber last,
        SittingRange range,
        string theme,
        string note,
        string owner
    ) => new(new Mark(0, MarkKind.Bite, first, last, range, owner, note, null), sittingId, transcriptId, theme, false);

    /// <summary>How good it is, as <see cref="BiteGrade"/> says.</summary>
    public int Grade { get; init; }

    /// <summary>What it is in one word, whatever it is about; may be empty.</summary>
    public string Kind { get; init; } = "";

    /// <summary>Its themes, one by one.</summary>
    public IReadOnlyList<string> Themes => BiteThemes.Of(Theme);

    /// <summary>Its mark's.</summary>
    public long Id => Mark.Id;

    /// <summary>Its first word, by number in the text that it was marked on.</summary>
    public WordNumber FirstWord => Mark.First;

    /// <summary>Its last word, which is included.</summary>
    public WordNumber LastWord => Mark.Last;

    /// <summary>Where it lies on the sitting's clock.</summary>
    public SittingRange Range => Mark.Range;

    /// <summary>What somebody said of it; may be empty.</summary>
    public string Note => Mark.Note;

    /// <summary>Who kept it.</summary>
    public string Owner => Mark.Owner;
}
