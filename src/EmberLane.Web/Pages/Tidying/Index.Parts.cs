using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Import;
using EmberLane.Core.Marks;
using EmberLane.Core.Parts;
using EmberLane.Core.People;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <summary>A part of the sitting as it is listed: its mark, where it lies, and how long what is in use of it lasts.</summary>
public sealed record ListedPart(Mark Mark, TextPlace First, TextPlace Last, MediaTime Left);

/// <content>Parts of the sitting, and sending what is left of them, of a person or of all of it to the story.</content>
public sealed partial class IndexModel
{
    /// <summary>The parts, in the order in which they begin.</summary>
    public IReadOnlyList<ListedPart> ListedParts
    {
        get
        {
            var aside = AsideStretches.Of(Text);
            return
            [
                .. Text
                    .Layers.Marks.Values.Where(m => m.Kind == MarkKind.Part)
                    .Select(m => (Mark: m, Place: MarkPlace.Of(m, Text)))
                    .Where(p => p.Place is not null)
                    .Select(p => new ListedPart(
                        p.Mark,
                        p.Place!.Value.First,
                        p.Place.Value.Last,
                        Core.Stories.StoryCut.Apart(p.Mark.Range, aside).Aggregate(MediaTime.Zero, (sum, r) => sum + r.Length)
                    ))
                    .OrderBy(p => p.First)
                    .ThenBy(p => p.Last),
            ];
        }
    }

    /// <summary>
    /// How many cards what is left would be: of a part by its mark, of all where none is named; of one voice where it is named.
    /// </summary>
    public int CardsOf(long? part, int? voice) => Turns(part, voice).Count;

    /// <summary>Makes a part of the words from one moment to another.</summary>
    public IActionResult OnPostPart(long sitting, string? name, string? from, string? to) =>
        Change(
            sitting,
            Parts.Key,
            text =>
            {
                var called = TypedText.OneLine(name ?? "");
                if (called.Length is 0 or > Mark.LongestNote)
                {
                    throw new EditRefusedException($"A part needs a name of at most {Mark.LongestNote} letters.");
                }
                if (Moment(from) is not { } begins || Moment(to) is not { } ends || ends <= begins)
                {
                    throw new EditRefusedException(
                        "Type when the part begins and ends, as 1:30 and 12:05.5; the end behind the beginning."
                    );
                }
                return MarkPlace.In(text, new SittingRange(new SittingTime(begins), new SittingTime(ends))) is var (first, last)
                    ? new PutMark(Marking.Over(text, MarkKind.Part, first, last, Signed, called))
                    : throw new EditRefusedException("Nothing is said there.");
            },
            "The part is made."
        );

    /// <summary>Gives a part another name.</summary>
    public IActionResult OnPostNamePart(long sitting, long part, string? name) =>
        Change(sitting, Parts.Key, text => PartBorders.Named(text, part, TypedText.OneLine(name ?? "")), "The part has its name.");

    /// <summary>It is no part any more; its words stay as they are.</summary>
    public IActionResult OnPostNoPart(long sitting, long part) =>
        Change(sitting, Parts.Key, text => Marking.TakeAway(text, part), "It is no part any more; its words stay.");

    /// <summary>
    /// Lays what is left of a part, of a person, or of the whole sitting at the end of the story in hand, turn by turn.
    /// </summary>
    [Needs(Rights.Order)]
    public IActionResult OnPostToStory(long sitting, long? part, int? voice)
    {
        if (!ModelState.IsValid || !Load(sitting, Parts.Key))
        {
            return NotFound();
        }
        var theme =
            part is { } id && Text.Layers.Marks.GetValueOrDefault(id) is { } mark ? mark.Note
            : voice is { } by ? Text.NameOf(by)
            : Sitting.Title;
        var turns = Turns(part, voice);
        return Make(
            sitting,
            Parts.Key,
            text =>
            {
                if (turns.Count == 0)
                {
                    throw new EditRefusedException("Nothing is left of that to lay in a story.");
                }
                if (turns.Count > CleanStretch.MostCards)
                {
                    throw new EditRefusedException(
                        $"That would be {turns.Count} cards; a story takes {CleanStretch.MostCards} at a time. Send parts of it."
                    );
                }
                table.KeepAndLay(
                    Desk.StoryToChange(Production, Who),
                    [.. turns.Select(t => new LaidTakes(BiteOver(text, t.First, t.Last, Short(theme), ""), [], "", ""))],
                    Who
                );
            },
            $"{turns.Count} cards lie at the story’s end. Undo in Story takes them out in one step.",
            NewsOf.Story
        );
    }

    private IReadOnlyList<(TextPlace First, TextPlace Last)> Turns(long? part, int? voice)
    {
        var (first, last) = part is { } id
            ? ListedParts
                .Where(p => p.Mark.Id == id)
                .Select(p => (p.First, p.Last))
                .FirstOrDefault((TextPlace.First, TextPlace.BeforeFirst))
            : (TextPlace.First, Text.Last);
        return CleanStretch.Of(Text, first, last, voice);
    }

    private static string Short(string theme) => theme.Length > BiteEdit.LongestTheme ? theme[..BiteEdit.LongestTheme] : theme;

    private static MediaTime? Moment(string? typed) => ClockText.Read(typed ?? "");
}
