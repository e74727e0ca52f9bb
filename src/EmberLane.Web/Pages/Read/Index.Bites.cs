using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.People;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Read;

/// <content>Bites that are kept and described while reading.</content>
public sealed partial class IndexModel
{
    /// <summary>Keeps words as a bite; with <paramref name="lay"/> a card of it lies at the end of the story in hand too.</summary>
    [Needs(Rights.Mark)]
    public IActionResult OnPostKeep(long sitting, WordNumber first, WordNumber last, string? theme, string? note, bool lay)
    {
        if (!Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (!ModelState.IsValid)
        {
            return Refused(Unreadable);
        }
        if (Transcript.PlaceOf(first) is not { } from || Transcript.PlaceOf(last) is not { } to || to < from)
        {
            return Refused("Select the words to keep first.");
        }
        var bite = Bite.Of(
            Sitting!.Id,
            Sitting.TranscriptId!.Value,
            first,
            last,
            Transcript.RangeOf(from, to),
            TypedText.OneLine(theme ?? ""),
            TypedText.OneLine(note ?? ""),
            Who
        );
        return Try(lay ? NewsOf.Story : NewsOf.Bites, () => Keep(bite, lay)) is { } refused
            ? Refused(refused)
            : BesideTurn(Reloaded(sitting).Turns.Single(t => t.First <= from && from <= t.Last));
    }

    private void Keep(Bite bite, bool lay)
    {
        if (lay)
        {
            table.KeepAndLay(Desk.StoryToChange(Production, Who), [new LaidTakes(bite, [], "", "")], Who);
        }
        else
        {
            bites.Add(bite);
        }
    }

    /// <summary>Writes the theme and the note of a bite of this sitting.</summary>
    [Needs(Rights.Mark)]
    public IActionResult OnPostTheme(long sitting, long bite, string? theme, string? note)
    {
        if (bites.Get(bite) is not { } known || known.SittingId != sitting || !Load(sitting) || Transcript is null)
        {
            return NotFound();
        }
        if (
            Try(NewsOf.Bites, () => bites.Describe(bite, TypedText.OneLine(theme ?? ""), TypedText.OneLine(note ?? ""), Who)) is { } refused
        )
        {
            return Refused(refused);
        }
        var turn = BitesFrom.FirstOrDefault(b => b.Any(x => x.Id == bite))?.Key;
        return Reloaded(sitting).Turns.FirstOrDefault(t => t.First == turn) is { } shown ? BesideTurn(shown) : NotFound();
    }

    // The answer to a change of marks, which leaves the text as it is: its turn, and the marks of all bites.
    private PartialViewResult BesideTurn(Turn turn)
    {
        Response.Headers["HX-Trigger"] = "changed, marked";
        IsBesideTurn = true;
        return Partial("_ChangedTurn", (this, turn));
    }

    private void LoadBites(Sitting sitting, long transcript)
    {
        Bites =
        [
            .. bites
                .Of(Production.Id)
                .Where(b => b.SittingId == sitting.Id && !b.IsAside)
                .Select(b =>
                    MarkPlace.Of(b.Mark, Transcript!, b.TranscriptId == transcript) is { } place
                        ? b with
                        {
                            Mark = b.Mark with { First = Transcript!.At(place.First).Number, Last = Transcript.At(place.Last).Number },
                        }
                        : null
                )
                .OfType<Bite>(),
        ];
        BitesFrom = ByTurn();
    }

    // The turns are in order, so that the one of a bite's first word is found by halving.
    private ILookup<TextPlace, Bite> ByTurn()
    {
        var firsts = Turns.Select(t => t.First).ToList();
        return Bites.ToLookup(b =>
            firsts.BinarySearch(Transcript!.PlaceOf(b.FirstWord)!.Value) is var at && at >= 0 ? firsts[at] : firsts[~at - 1]
        );
    }
}
