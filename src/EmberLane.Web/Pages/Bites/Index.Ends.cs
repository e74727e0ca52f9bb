using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Bites;

/// <summary>A word of a bite, behind the first of which it can be made two.</summary>
public sealed record BiteWord(WordNumber Number, string Text);

/// <summary>Another try at what a bite says: where it is and what is said there.</summary>
public sealed record OtherTry(SittingTime At, WordNumber First, WordNumber Last, string Said);

/// <summary>The bite whose ends are open: its words, what is said right before and behind it, and other tries at it.</summary>
public sealed record OpenBite(long Id, string Before, IReadOnlyList<BiteWord> Words, string Behind, IReadOnlyList<OtherTry> Others);

/// <content>Ends moved, a bite made two, and other tries beside it.</content>
public sealed partial class IndexModel
{
    /// <summary>So many words before and behind are shown.</summary>
    private const int Around = 8;

    /// <summary>
    /// Moves an end of a bite: by words, or by ear by steps of <see cref="BiteEnds.Step"/>; back where negative. The answer says which end
    /// to hear.
    /// </summary>
    public IActionResult OnPostMove(long bite, string? end, int words, int steps)
    {
        if (end is not ("begin" or "stop") || words is < -100 or > 100 || steps is < -500 or > 500 || !IsHere(bite))
        {
            return NotFound();
        }
        var moved = Changed(() => moves.Move(bite, end == "begin" ? BiteEnd.Begin : BiteEnd.Stop, words, steps, Who));
        if (moved is PartialViewResult)
        {
            Response.Headers["HX-Trigger"] = "changed";
            Response.Headers["HX-Trigger-After-Settle"] = JsonSerializer.Serialize(
                new Dictionary<string, object> { ["ends-moved"] = new { bite, end } }
            );
        }
        return moved;
    }

    /// <summary>Makes two of a bite, the second from a word on.</summary>
    public IActionResult OnPostSplit(long bite, WordNumber at) =>
        !ModelState.IsValid ? Refused("The request names a word by something that is no number. Load the page again and repeat it.")
        : IsHere(bite) ? Told(() => bites.Split(bite, at, Who), "Two bites now.")
        : NotFound();

    private void LoadOpen(long id)
    {
        if (id == 0 || !IsHere(id) || bites.Get(id) is not { } kept)
        {
            return;
        }
        var textId = moves.TextOf(kept);
        var text = transcripts.Get(textId);
        if (MarkPlace.Of(kept.Mark, text, kept.TranscriptId == textId) is not var (first, last))
        {
            return;
        }
        Open = new OpenBite(
            id,
            text.SaidAround(first, last, Around).Before,
            [.. text.Between(first, last).Where(w => !text.IsHidden(w)).Select(w => new BiteWord(w.Number, text.TextOf(w)))],
            text.SaidAround(first, last, Around).After,
            [.. OthersOf(kept, first, last)]
        );
    }

    // Tries of which one lies over half of the bite, or the bite over half of it.
    private IEnumerable<OtherTry> OthersOf(Bite kept, TextPlace first, TextPlace last)
    {
        if (SittingHere(kept.SittingId) is not { TranscriptId: not null } sitting)
        {
            yield break;
        }
        var found = findings.Of(sitting);
        foreach (var retake in found.Retakes)
        {
            if (!retake.Attempts.Any(IsThis))
            {
                continue;
            }
            foreach (var other in retake.Attempts.Where(a => !IsThis(a)))
            {
                var (from, to) = (found.Text.FirstOf(other.First), found.Text.LastOf(other.Last));
                yield return new OtherTry(
                    found.Text.Text.At(from).Range.In,
                    found.Text.Text.At(from).Number,
                    found.Text.Text.At(to).Number,
                    found.Text.Text.Said(from, to)
                );
            }
        }

        bool IsThis(Core.Tidy.Attempt attempt)
        {
            int from = found.Text.FirstOf(attempt.First).Value,
                to = found.Text.LastOf(attempt.Last).Value,
                both = Math.Min(to, last.Value) - Math.Max(from, first.Value) + 1;
            return both * 2 > Math.Min(to - from + 1, last.Value - first.Value + 1);
        }
    }
}
