using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>Who lays a mark, and when.</summary>
public readonly record struct Signed(string Owner, DateTimeOffset? When);

/// <summary>
/// What people do with marks, as edits of the text that it is done to. Places are those among the words that are read, both ends included.
/// </summary>
public static class Marking
{
    /// <summary>A mark over these words, under a number that is the text's next one but <paramref name="later"/>.</summary>
    public static Mark Over(Transcript text, MarkKind kind, TextPlace first, TextPlace last, Signed by, string note = "", int later = 0) =>
        new(
            text.Layers.NextMark + later,
            kind,
            text.At(first).Number,
            text.At(last).Number,
            text.RangeOf(first, last),
            by.Owner,
            note,
            by.When
        );

    /// <summary>
    /// A mark over a stretch of time, between the words around it. Throws <see cref="EditRefusedException"/> in a text without words.
    /// </summary>
    public static Mark OverTime(Transcript text, MarkKind kind, SittingRange stretch, Signed by, string note = "", int later = 0) =>
        MarkPlace.Around(text, stretch) is var (first, last)
            ? new Mark(text.Layers.NextMark + later, kind, text.At(first).Number, text.At(last).Number, stretch, by.Owner, note, by.When)
            : throw new EditRefusedException("There are no words here to lay this between.");

    /// <summary>Lays marks as one change; null where there are none.</summary>
    public static TranscriptEdit? All(IReadOnlyList<Mark> marks) =>
        marks.Count == 0 ? null
        : marks is [var one] ? new PutMark(one)
        : new Together([.. marks.Select(m => new PutMark(m))]);

    /// <summary>
    /// Takes one mark away that sets something aside, spares it or is a part. Throws <see cref="EditRefusedException"/> when it is gone.
    /// </summary>
    public static TranscriptEdit TakeAway(Transcript text, long id) =>
        text.Layers.Marks.TryGetValue(id, out var mark) && (mark.Kind.Layer is not null || mark.Kind.Use is MarkUse.Spares or MarkUse.Parts)
            ? new TakeMark(mark)
            : throw new EditRefusedException("That is no longer there. Load the page again.");

    /// <summary>Sets the words aside by hand, or brings them back when all of them are aside.</summary>
    public static TranscriptEdit TurnAside(Transcript text, TextPlace first, TextPlace last, Signed by) =>
        text.Between(first, last).All(text.IsAside)
            ? BringBack(text, first, last)
            : new PutMark(Over(text, MarkKind.SetAsideByHand, first, last, by));

    /// <summary>
    /// Brings words back, whatever set them aside: each mark that lies over them is taken away, and what it holds before and behind them
    /// stays aside in its owner's name. What is off the record stays. Throws <see cref="EditRefusedException"/> when nothing else is
    /// aside.
    /// </summary>
    public static TranscriptEdit BringBack(Transcript text, TextPlace first, TextPlace last)
    {
        var edits = new List<TranscriptEdit>();
        var put = 0;
        var isHeld = false;
        foreach (var mark in text.Layers.Marks.Values.Where(m => m.Kind.Layer is not null))
        {
            if (MarkPlace.Of(mark, text) is not { } held || held.Last < first || held.First > last)
            {
                continue;
            }
            if (mark.Kind.IsHeld)
            {
                isHeld = true;
                continue;
            }
            if (mark.IsOfTime)
            {
                if (held.First >= first && held.Last <= last)
                {
                    edits.Add(new TakeMark(mark));
                }
                continue;
            }
            edits.Add(new TakeMark(mark));
            if (held.First < first)
            {
                edits.Add(new PutMark(Over(text, mark.Kind, held.First, first - 1, new Signed(mark.Owner, mark.When), mark.Note, put++)));
            }
            if (held.Last > last)
            {
                edits.Add(new PutMark(Over(text, mark.Kind, last + 1, held.Last, new Signed(mark.Owner, mark.When), mark.Note, put++)));
            }
        }
        return edits.Count == 0 ? throw new EditRefusedException(isHeld ? ReleaseMark.Needed : "None of these words is set aside.")
            : edits is [var one] ? one
            : new Together(edits);
    }

    /// <summary>
    /// Puts a flag before a word; in place of the one with <paramref name="instead"/> when that is given. A kind of null only takes that
    /// one away. Throws <see cref="EditRefusedException"/> for a kind that is no flag, and when nothing would change.
    /// </summary>
    public static TranscriptEdit Flag(Transcript text, TextPlace place, MarkKind? kind, string note, Signed by, long? instead = null)
    {
        List<TranscriptEdit> edits = [];
        if (instead is { } id)
        {
            edits.Add(
                new TakeMark(
                    text.Layers.Marks.GetValueOrDefault(id) is { StandsBefore: true } there
                        ? there
                        : throw new EditRefusedException("That flag is no longer there.")
                )
            );
        }
        if (kind is not null)
        {
            edits.Add(
                kind.Use == MarkUse.Flags
                    ? new PutMark(Over(text, kind, place, place, by, note))
                    : throw new EditRefusedException("There is no such kind of flag.")
            );
        }
        return edits.Count == 0 ? throw new EditRefusedException("There is no flag to take away.")
            : edits is [var one] ? one
            : new Together(edits);
    }

    /// <summary>
    /// Says that the doubtful ones of these words are right as they stand, with a mark over each run of them; null when none is doubtful.
    /// </summary>
    public static TranscriptEdit? Settle(Transcript text, TextPlace first, TextPlace last, Signed by)
    {
        var edits = new List<TranscriptEdit>();
        for (var i = first; i <= last; i++)
        {
            if (!text.IsDoubtful(text.At(i)))
            {
                continue;
            }
            var from = i;
            while (i < last && text.IsDoubtful(text.At(i + 1)))
            {
                i++;
            }
            edits.Add(new PutMark(Over(text, MarkKind.Settled, from, i, by, later: edits.Count)));
        }
        return edits.Count == 0 ? null : new Together(edits);
    }
}
