using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Comments;
using EmberLane.Core.Handoff;
using EmberLane.Core.Marks;
using EmberLane.Core.Shown;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>A passage that somebody marked on a shown page: the bite that it is, and its note.</summary>
public sealed record ShownMark(long Bite, long Sitting, ShownPassage Passage, string Note);

/// <summary>
/// What a talk on a shown page is of, as it reads there now; the key of its line where it is of one, its words where of those.
/// </summary>
public sealed record ShownQuote(string Said, string? Line, long Sitting, WordNumber? First, WordNumber? Last);

/// <summary>Sittings and stories as they are read by who does not work on them.</summary>
public sealed class ShownReading(Footage footage, Store.Transcripts transcripts, Store.Bites bites, HandoffDesk handoff, ShownStories shown)
{
    /// <summary>A sitting, in turns, by the text that it is read by; on the sitting's clock. Null while it has none.</summary>
    public ShownText? OfSitting(Sitting sitting)
    {
        if (TextOf(sitting.Id) is not var (_, text))
        {
            return null;
        }
        var lines = new List<ShownLine>();
        foreach (var turn in Turns.Lay(text))
        {
            var units = text.Units(turn.First, turn.Last, withHidden: false, withAside: false);
            if (units.Count == 0)
            {
                continue;
            }
            lines.Add(
                new ShownLine(
                    string.Create(CultureInfo.InvariantCulture, $"turn-{units[0][0].Number.Value}"),
                    ShownKind.Talk,
                    turn.GoesOn ? "" : text.NameOf(turn.Voice),
                    units[0][0].Range.In.ToString(),
                    sitting.Id,
                    [
                        .. units.Select(u => new ShownWord(
                            text.Said(u),
                            PlaceOf(u, text),
                            (u[0].Range.In.FromZero, u.Max(w => w.Range.Out).FromZero)
                        )),
                    ]
                )
            );
        }
        return new ShownText(lines);
    }

    /// <summary>
    /// A story, piece by piece; on the clock of <paramref name="copy"/>, as far as that plays it as it is now. Throws
    /// <see cref="EditRefusedException"/> for a story that can not leave, as <see cref="HandoffDesk.Of"/> does.
    /// </summary>
    public ShownText OfStory(Production production, StoredStory story, StoredCopy? copy)
    {
        var rate = story.Start.Count.Rate;
        var pieces = handoff.Of(production, story).Pieces;
        var played = copy is null ? null : shown.FirstFrames(copy, story);
        var texts = new Dictionary<long, Transcript?>();
        return new ShownText([.. pieces.Select(p => Line(p, LineWords(p)))]);

        ShownLine Line(HandedPiece piece, IReadOnlyList<ShownWord> words) =>
            new(
                piece.Piece.Id.ToString(),
                KindOf(piece.Piece),
                piece.Who,
                new SittingTime(rate.TimeOf(piece.First)).ToString(),
                (piece.Piece as Card)?.SittingId ?? 0,
                words
            );

        IReadOnlyList<ShownWord> LineWords(HandedPiece piece)
        {
            var first = played is not null && played.TryGetValue(piece.Piece.Id, out var at) ? at : (long?)null;
            (MediaTime, MediaTime)? Heard(MediaTime from, MediaTime to) =>
                first is { } begins
                    ? (from + rate.TimeOf(begins) - rate.TimeOf(piece.First), to + rate.TimeOf(begins) - rate.TimeOf(piece.First))
                    : null;
            var begin = rate.TimeOf(piece.First);
            return piece.Words.Count > 0
                ?
                [
                    .. piece.Words.Select(w => new ShownWord(
                        w.Word.Text,
                        w.Numbers is var (one, other) ? PlaceOf(w.Sitting, one, other) : null,
                        Heard(w.Word.Range.In.FromZero, w.Word.Range.Out.FromZero)
                    )),
                ]
                : [new ShownWord(SaidOf(piece), null, piece.Frames > 0 ? Heard(begin, begin + rate.TimeOf(piece.Frames)) : null)];
        }

        ShownPlace? PlaceOf(long sitting, WordNumber first, WordNumber last)
        {
            if (!texts.TryGetValue(sitting, out var text))
            {
                texts[sitting] = text = TextOf(sitting)?.Text;
            }
            return text?.PlaceOf(first) is { } from && text.PlaceOf(last) is { } to ? new ShownPlace(first, last, from, to) : null;
        }
    }

    /// <summary>
    /// What somebody marked of a shown text, in the order in which it was marked. Grows with the bites of the production.
    /// </summary>
    public IReadOnlyList<ShownMark> Marks(long production, ShownText text, string who)
    {
        var known = new Dictionary<long, (long Id, Transcript Text)?>();
        return
        [
            .. bites
                .Of(production)
                .Where(b => b.Owner == who && !b.IsAside)
                .OrderBy(b => b.Id)
                .Select(b =>
                    Passage(text, known, b.SittingId, t => MarkPlace.Of(b.Mark, t.Text, b.TranscriptId == t.Id)) is { } passage
                        ? new ShownMark(b.Id, b.SittingId, passage, b.Note)
                        : null
                )
                .OfType<ShownMark>(),
        ];
    }

    /// <summary>
    /// Keeps a passage of a sitting of the production as a bite of <paramref name="who"/>. Throws <see cref="EditRefusedException"/> for a
    /// note that is too long.
    /// </summary>
    public void Mark(long sitting, ShownPassage passage, string note, string who)
    {
        if (
            TextOf(sitting) is not var (id, text)
            || text.PlaceOf(passage.First) is not { } from
            || text.PlaceOf(passage.Last) is not { } to
        )
        {
            throw new EditRefusedException("These words are not there any more. Load the page again.");
        }
        bites.Add(Bite.Of(sitting, id, passage.First, passage.Last, text.RangeOf(from, to), "", TypedText.OneLine(note), who));
    }

    /// <summary>
    /// What a talk is of, as a shown text has it; null where it is of something that the text does not show: a talk about words that were
    /// set aside since quotes them.
    /// </summary>
    public ShownQuote? Quote(ShownText text, Comment begun)
    {
        switch (begun.Place)
        {
            case CardPlace card when text.Line(card.Card.ToString()) is { } line:
                return new ShownQuote(
                    line.Said.Contains(begun.Quote, StringComparison.Ordinal) ? begun.Quote : line.Said,
                    line.Key,
                    0,
                    null,
                    null
                );
            case WordsPlace words:
                var passage = Passage(
                    text,
                    [],
                    words.SittingId,
                    t =>
                        words.TextId == t.Id && t.Text.PlaceOf(words.First) is { } from && t.Text.PlaceOf(words.Last) is { } to
                            ? (from, to)
                            : MarkPlace.In(t.Text, words.Range)
                );
                return passage is null ? null : new ShownQuote(passage.Said, null, words.SittingId, passage.First, passage.Last);
            default:
                return null;
        }
    }

    /// <summary>The text by which a sitting is read, and its number; null while there is none.</summary>
    public (long Id, Transcript Text)? TextOf(long sitting) =>
        footage.Sitting(sitting) is { TranscriptId: { } id } ? (id, transcripts.Get(id)) : null;

    private ShownPassage? Passage(
        ShownText text,
        Dictionary<long, (long Id, Transcript Text)?> known,
        long sitting,
        Func<(long Id, Transcript Text), (TextPlace First, TextPlace Last)?> place
    )
    {
        if (!known.TryGetValue(sitting, out var of))
        {
            known[sitting] = of = TextOf(sitting);
        }
        return of is { } there && place(there) is var (from, to) ? text.Between(sitting, from, to) : null;
    }

    private static ShownPlace PlaceOf(IReadOnlyList<RecordWord> unit, Transcript text) =>
        new(unit[0].Number, unit[^1].Number, text.PlaceOf(unit[0].Number)!.Value, text.PlaceOf(unit[^1].Number)!.Value);

    private static ShownKind KindOf(Piece piece) =>
        piece switch
        {
            Card => ShownKind.Talk,
            SectionHead => ShownKind.Heading,
            Narration => ShownKind.Narration,
            TitleCard => ShownKind.Title,
            _ => ShownKind.Picture,
        };

    private string SaidOf(HandedPiece piece) =>
        piece.Piece switch
        {
            SectionHead head => head.Name,
            TitleCard title => title.Words,
            Space { WaitsFor.Length: > 0 } space => space.WaitsFor,
            Space => "space for pictures",
            PlainMedia media => footage.Source(media.SourceId) is { } file ? Path.GetFileNameWithoutExtension(file.Name) : "pictures",
            Card => "without words",
            _ => "",
        };
}
