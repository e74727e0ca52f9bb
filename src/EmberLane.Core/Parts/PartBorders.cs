using EmberLane.Core.Edits;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Parts;

/// <summary>Changes of the parts of a sitting and the borders between them, each as one edit of its text.</summary>
public static class PartBorders
{
    /// <summary>
    /// The part begins with another word; the one right before it ends before that word, as it ended before the part. Throws
    /// <see cref="EditRefusedException"/> where the word lies in neither of the two.
    /// </summary>
    public static TranscriptEdit BeginAt(Transcript text, long part, TextPlace begin)
    {
        var (mark, first, last) = PartOf(text, part);
        var before = Before(text, part, first);
        var least = before is { } b ? b.First + 1 : FreeBefore(text, part, first);
        if (begin < least || begin > last || begin == first)
        {
            throw new EditRefusedException("The border can go no further that way.");
        }
        return before is { } beside
            ? new Together([
                new TakeMark(beside.Mark),
                new TakeMark(mark),
                Put(text, beside.Mark, beside.First, begin - 1, 0),
                Put(text, mark, begin, last, 1),
            ])
            : new Together([new TakeMark(mark), Put(text, mark, begin, last, 0)]);
    }

    /// <summary>
    /// The border before a part goes: the part right before it reaches to this one's end, under its own name. Throws
    /// <see cref="EditRefusedException"/> where none is right before it.
    /// </summary>
    public static TranscriptEdit JoinToBefore(Transcript text, long part)
    {
        var (mark, first, last) = PartOf(text, part);
        return Before(text, part, first) is { } before
            ? new Together([new TakeMark(before.Mark), new TakeMark(mark), Put(text, before.Mark, before.First, last, 0)])
            : throw new EditRefusedException("No part ends right before this one.");
    }

    /// <summary>
    /// The part has another name. Throws <see cref="EditRefusedException"/> for one that is none or too long, or where the part is gone.
    /// </summary>
    public static TranscriptEdit Named(Transcript text, long part, string name) =>
        name.Length is 0 or > Mark.LongestNote
            ? throw new EditRefusedException($"A part needs a name of at most {Mark.LongestNote} letters.")
        : text.Layers.Marks.GetValueOrDefault(part) is { } mark && mark.Kind == MarkKind.Part
            ? new Together([new TakeMark(mark), new PutMark(mark with { Id = text.Layers.NextMark, Note = name })])
        : throw new EditRefusedException(Gone);

    private const string Gone = "That part is no longer there. Load the page again.";

    private static PutMark Put(Transcript text, Mark mark, TextPlace first, TextPlace last, int later) =>
        new(
            mark with
            {
                Id = text.Layers.NextMark + later,
                First = text.At(first).Number,
                Last = text.At(last).Number,
                Range = text.RangeOf(first, last),
            }
        );

    private static (Mark Mark, TextPlace First, TextPlace Last) PartOf(Transcript text, long part) =>
        text.Layers.Marks.GetValueOrDefault(part) is { } mark && mark.Kind == MarkKind.Part && MarkPlace.Of(mark, text) is var (first, last)
            ? (mark, first, last)
            : throw new EditRefusedException(Gone);

    private static (Mark Mark, TextPlace First)? Before(Transcript text, long part, TextPlace first) =>
        Others(text, part).Where(p => p.Last == first - 1).Select(p => ((Mark, TextPlace)?)(p.Mark, p.First)).FirstOrDefault();

    private static TextPlace FreeBefore(Transcript text, long part, TextPlace first) =>
        Others(text, part).Where(p => p.Last < first).Select(p => p.Last + 1).DefaultIfEmpty(TextPlace.First).Max();

    private static IEnumerable<(Mark Mark, TextPlace First, TextPlace Last)> Others(Transcript text, long part) =>
        text
            .Layers.Marks.Values.Where(m => m.Kind == MarkKind.Part && m.Id != part)
            .Select(m => (Mark: m, Place: MarkPlace.Of(m, text)))
            .Where(p => p.Place is not null)
            .Select(p => (p.Mark, p.Place!.Value.First, p.Place.Value.Last));
}
