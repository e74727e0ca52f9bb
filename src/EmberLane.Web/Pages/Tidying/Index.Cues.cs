using EmberLane.Application.Work;
using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <content>The look at spoken cues: what was said to find a place later, and doing what it asks for.</content>
public sealed partial class IndexModel
{
    /// <summary>What a cue can do: in words, shortly, and on the button that does it.</summary>
    public static IReadOnlyList<(CueUse Use, string Says, string Shortly, string Does)> CueUses { get; } =
    [
        (CueUse.KeepsBefore, "keeps what was said before it", "keeps before it", "Keep as bite"),
        (CueUse.KeepsAfter, "keeps what is said after it", "keeps after it", "Keep as bite"),
        (CueUse.SetsAsideBefore, "sets aside what was said before it", "sets aside before it", "Set aside, off the record"),
        (CueUse.BeginsPart, "begins a part", "begins a part", "Begin a part here"),
    ];

    public static (string Says, string Shortly, string Does) InWords(CueUse use) =>
        CueUses.Where(u => u.Use == use).Select(u => (u.Says, u.Shortly, u.Does)).Single();

    /// <summary>The cues that are looked for in this production.</summary>
    public IReadOnlyList<SpokenCue> ProductionCues => wishes.Cues(Production.Id);

    /// <summary>What a cue acts on, by words of the talk; null where there is nothing.</summary>
    public (int First, int Last)? ReachOf(SaidCue cue) => CueReach.Of(Talk, cue, Found.Cues);

    /// <summary>Whether the phrase is a word that people say all the time: then it is asked back.</summary>
    public static bool IsCommon(SaidCue cue) => SpokenCues.IsCommon(cue.Cue.Phrase);

    /// <summary>
    /// Does what the cue at these words asks for. <paramref name="sure"/>: the person has seen that its phrase is a common word.
    /// </summary>
    public IActionResult OnPostCue(long sitting, WordNumber first, WordNumber last, bool sure)
    {
        if (!ModelState.IsValid || !Load(sitting, Cues.Key))
        {
            return NotFound();
        }
        var cue = Found.Cues.FirstOrDefault(c => NumberOf(c.First) == first && LastNumberOf(c.Last) == last);
        if (cue is null)
        {
            return Refused("That cue is not there any more. Look again.");
        }
        if (IsCommon(cue) && !sure)
        {
            return Refused($"“{cue.Cue.Phrase}” is a word that people say all the time. Tick that it is a cue here, then do it.");
        }
        if (ReachOf(cue) is not { } reach)
        {
            return Refused("Nothing was said there that the cue could speak of.");
        }
        var settled = "It is done, and the cue is settled.";
        if (cue.Cue.Use is CueUse.KeepsBefore or CueUse.KeepsAfter)
        {
            return Make(
                sitting,
                Cues.Key,
                id =>
                    bites.Add(
                        BiteOver(id, Found.Text.FirstOf(reach.First), Found.Text.LastOf(reach.Last), "", Said(cue.First, cue.Last)),
                        text => new PutMark(OverWords(text, MarkKind.LeftCue, cue.First, cue.Last, "", 0))
                    ),
                "It is kept, and the cue is settled. Undo here proposes the cue again; the bite is taken back in Bites.",
                NewsOf.Bites
            );
        }
        return Change(
            sitting,
            Cues.Key,
            text =>
                cue.Cue.Use == CueUse.BeginsPart
                    ? Marking.All([
                        OverWords(text, MarkKind.Part, reach.First, reach.Last, Said(cue.First, cue.Last), 0),
                        OverWords(text, MarkKind.LeftCue, cue.First, cue.Last, "", 1),
                    ])
                    // The words of the cue go along: nobody wants to hear them.
                    : new PutMark(OverWords(text, MarkKind.OffTheRecord, reach.First, cue.Last, "", 0)),
            settled
        );
    }

    /// <summary>The cue is none, or is done with otherwise.</summary>
    public IActionResult OnPostNoCue(long sitting, WordNumber first, WordNumber last) =>
        Spare(sitting, Cues, MarkKind.LeftCue, [(first, last)]);

    /// <summary>The production's list of cues; a line without a phrase is left out.</summary>
    public IActionResult OnPostCues(long sitting, string[] phrase, CueUse[] use) =>
        phrase.Length != use.Length || !ModelState.IsValid
            ? Refused("The list did not arrive whole. Load the page again and repeat it.")
            : Make(
                sitting,
                Cues.Key,
                _ => wishes.SetCues(Production.Id, [.. phrase.Zip(use, (p, u) => new SpokenCue(p ?? "", u))], Who),
                "Looked for from now on, in all sittings of the production."
            );

    private Bite BiteOver(long text, TextPlace first, TextPlace last, string theme, string note) =>
        Bite.Of(
            Sitting.Id,
            text,
            Text.At(first).Number,
            Text.At(last).Number,
            Text.RangeOf(first, last),
            theme,
            note.Length > BiteEdit.LongestNote ? note[..BiteEdit.LongestNote] : note,
            Who
        );
}
