using EmberLane.Application.Rooms;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <summary>A group of hesitations: all of one kind.</summary>
public sealed record HesitationGroup(HesitationKind Kind, string Name, IReadOnlyList<WeighedHesitation> All)
{
    /// <summary>Those that can go without a neighbour losing anything.</summary>
    public int Clean { get; } = All.Count(h => !h.Clips);
}

/// <content>The look at hesitations: kind by kind, accepted as a whole, all but the close ones, or one by one.</content>
public sealed partial class IndexModel
{
    /// <summary>So many of a kind are listed.</summary>
    public const int MostOfAKind = 200;

    private static readonly IReadOnlyList<(HesitationKind Kind, string Name)> KindNames =
    [
        (HesitationKind.Filled, "Um, er, uh"),
        (HesitationKind.Phrase, "“You know”, “I mean” and the like"),
        (HesitationKind.Like, "“Like”, where it says nothing"),
        (HesitationKind.Twice, "Said twice"),
        (HesitationKind.Broken, "Words broken off"),
        (HesitationKind.FalseStart, "Sentences begun and given up"),
    ];

    /// <summary>The kinds that were found, in their order.</summary>
    public IEnumerable<HesitationGroup> HesitationGroups =>
        KindNames
            .Select(k => new HesitationGroup(k.Kind, k.Name, [.. Found.Hesitations.Where(h => h.Hesitation.Kind == k.Kind)]))
            .Where(g => g.All.Count > 0);

    /// <summary>How many a group has, and how many of them are too close to others.</summary>
    public static string CountOf(HesitationGroup group) =>
        Many.Of(group.All.Count, "place")
        + (group.Clean < group.All.Count ? $", {group.All.Count - group.Clean} would clip a neighbour" : "");

    /// <summary>What the button of a group says that sets aside what parts cleanly.</summary>
    public static string CleanButton(HesitationGroup group) =>
        (group.Clean, group.All.Count) switch
        {
            (1, 1) => "Set it aside",
            (1, _) => "Set the 1 aside that parts cleanly",
            var (clean, all) when clean == all => $"Set all {all} aside",
            var (clean, _) => $"Set the {clean} aside that part cleanly",
        };

    /// <summary>What the production takes for hesitations besides, a phrase a line.</summary>
    public string Phrases => string.Join('\n', wishes.Phrases(Production.Id));

    /// <summary>
    /// Sets hesitations aside: all of a kind, those of it that part cleanly, or the one that stands at these words.
    /// </summary>
    public IActionResult OnPostHesitations(long sitting, HesitationKind? kind, bool clean, WordNumber? first, WordNumber? last)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The request names words by something that is no number. Load the page again and repeat it.");
        }
        if (!Load(sitting, Hesitations.Key))
        {
            return NotFound();
        }
        var chosen = Found
            .Hesitations.Where(h =>
                first is { } from
                    ? NumberOf(h.Hesitation.First) == from && LastNumberOf(h.Hesitation.Last) == last
                    : h.Hesitation.Kind == kind && !(clean && h.Clips)
            )
            .ToList();
        return Change(
            sitting,
            Hesitations.Key,
            text =>
                Marking.All([
                    .. chosen.Select((h, i) => OverWords(text, MarkKind.Hesitation, h.Hesitation.First, h.Hesitation.Last, "", i)),
                ]) ?? throw new EditRefusedException("These words were changed meanwhile. Look again."),
            chosen.Count == 1 ? "Set aside." : $"{chosen.Count} hesitations are set aside. Undo brings all of them back."
        );
    }

    /// <summary>
    /// Sets a sound aside that no word stands for, or lets it stay; <paramref name="in"/> and <paramref name="out"/> are its time in units.
    /// </summary>
    public IActionResult OnPostSound(long sitting, long @in, long @out, bool stays)
    {
        if (!ModelState.IsValid)
        {
            return Refused("The request names a time by something that is no number. Load the page again and repeat it.");
        }
        if (!Load(sitting, Hesitations.Key))
        {
            return NotFound();
        }
        return Change(
            sitting,
            Hesitations.Key,
            text =>
                Found.Sounds.Any(s => s.Stretch.In.Units == @in && s.Stretch.Out.Units == @out)
                    ? new PutMark(
                        Marking.OverTime(
                            text,
                            stays ? MarkKind.LeftSound : MarkKind.FilledSound,
                            RangeOf(new TalkPause(new MediaTime(@in), new MediaTime(@out))),
                            Signed
                        )
                    )
                    : throw new EditRefusedException("That sound is not there any more. Look again."),
            stays ? "It is not proposed any more. Undo brings it back." : "Set aside."
        );
    }

    /// <summary>These words are none; they are not proposed again.</summary>
    public IActionResult OnPostNoHesitation(long sitting, WordNumber first, WordNumber last) =>
        Spare(sitting, Hesitations, MarkKind.LeftHesitation, [(first, last)]);

    /// <summary>Takes further phrases for hesitations in this production.</summary>
    public IActionResult OnPostPhrases(long sitting, string? phrases) =>
        Make(
            sitting,
            Hesitations.Key,
            _ => wishes.SetPhrases(Production.Id, (phrases ?? "").ReplaceLineEndings("\n").Split('\n'), Who),
            "Looked for from now on, in all sittings of the production."
        );

    // A person does not want this found again.
    private IActionResult Spare(long sitting, Look look, MarkKind kind, IReadOnlyList<(WordNumber First, WordNumber Last)> stretches) =>
        !ModelState.IsValid
            ? Refused("The request names words by something that is no number. Load the page again and repeat it.")
            : Change(
                sitting,
                look.Key,
                text =>
                    Marking.All([
                        .. stretches.Select(
                            (s, i) =>
                                text.PlacesOf(s.First, s.Last) is var (first, last)
                                    ? Marking.Over(text, kind, first, last, Signed, later: i)
                                    : null!
                        ),
                    ]),
                "It is not proposed any more. Undo brings it back."
            );

    /// <summary>The number of the last part of a word of the talk.</summary>
    public WordNumber LastNumberOf(int word) => Text.At(Found.Text.LastOf(word)).Number;

    // A mark over words of the talk, which are found by their numbers in the text as it is at this moment.
    private Mark OverWords(Transcript text, MarkKind kind, int first, int last, string note, int later) =>
        text.PlacesOf(NumberOf(first), LastNumberOf(last)) is var (from, to)
            ? Marking.Over(text, kind, from, to, Signed, note, later)
            : throw new EditRefusedException("These words were changed meanwhile. Look again.");
}
