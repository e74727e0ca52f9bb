using System.Collections.Immutable;
using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <summary>Settings for pauses as they are typed: seconds.</summary>
public sealed record TypedWish(string? From, string? Mode, string? To, string? Before, string? After, bool Quiet, string[]? Of);

/// <content>The look at pauses: what would go, how it would sound, and setting it aside.</content>
public sealed partial class IndexModel
{
    /// <summary>So many examples are shown to be heard, the roughest first, and so many cuts in the list.</summary>
    public const int Examples = 5,
        MostListed = 300;

    private PauseWish? wish;
    private IReadOnlyList<PlannedCut>? cuts;

    /// <summary>The settings that the look shows.</summary>
    public PauseWish Wish => wish!;

    /// <summary>What they would set aside.</summary>
    public IReadOnlyList<PlannedCut> PauseCuts => cuts ??= Found.Pauses(Wish);

    public IReadOnlyList<Application.Tidying.NamedWish> Sets => wishes.Sets(Production.Id);

    /// <summary>Whether the look comes without the page around it, which counts what it finds.</summary>
    public bool IsLookAlone { get; private set; }

    /// <summary>How much time they save.</summary>
    public MediaTime Saved => PauseCuts.Aggregate(MediaTime.Zero, (sum, c) => sum + c.Cut.Length);

    /// <summary>Those whose joins would be heard most.</summary>
    public IReadOnlyList<PlannedCut> Roughest => [.. PauseCuts.OrderByDescending(c => (c.Roughness, c.Cut.Length)).Take(Examples)];

    /// <summary>The people of the text, and whether pauses behind their words are touched.</summary>
    public IEnumerable<(string Name, bool Touched)> PauseVoices =>
        Text.Voices().Select(Text.NameOf).Distinct().Select(n => (n, !Wish.Not.Contains(n)));

    /// <summary>How the join of a cut would be, in words.</summary>
    public static string JoinOf(PlannedCut cut) =>
        cut switch
        {
            { IsNoisy: true } => "something is heard in it",
            { Roughness: < 40 } => "quiet at both sides",
            { Roughness: < 90 } => "the room's tone changes a little",
            _ => "the join will be heard",
        };

    /// <summary>Where a moment stands in the strip of the sitting, in thousandths of it.</summary>
    public string StripX(MediaTime at) =>
        Math.Round((decimal)at.Units * 1000 / Math.Max(1, StripEnd.Units), 2).ToString(CultureInfo.InvariantCulture);

    private MediaTime StripEnd => Talk.Words.Count == 0 ? Lengths.Whole : MediaTime.Max(Lengths.Whole, Talk.Words[^1].Out);

    /// <summary>Where each voice speaks, for the strip.</summary>
    public IEnumerable<(string X, string Width, string Css)> StripTurns() =>
        Core
            .Transcripts.Turns.Lay(Text)
            .Select(t =>
                (
                    StripX(Text.At(t.First).Range.In.FromZero),
                    StripX(Text.RangeOf(t.First, t.Last).Length),
                    MarkOf(Text.NameOf(t.Voice)).CssClass
                )
            );

    /// <summary>The look again for changed settings.</summary>
    public IActionResult OnGetLook(long sitting, TypedWish typed)
    {
        if (!Load(sitting, Pauses.Key))
        {
            return NotFound();
        }
        // Somebody is about to type another figure.
        if (new[] { typed.From, typed.To, typed.Before, typed.After }.Any(string.IsNullOrWhiteSpace))
        {
            return new NoContentResult();
        }
        try
        {
            wish = Read(typed);
        }
        catch (EditRefusedException odd)
        {
            return Refused(odd.Message, StatusCodes.Status400BadRequest);
        }
        cuts = null;
        IsLookAlone = true;
        return Partial("_PauseLook", this);
    }

    /// <summary>The look with the settings of a set.</summary>
    public IActionResult OnGetSet(long sitting, string? name)
    {
        wish = wishes.Sets(Production.Id).FirstOrDefault(s => s.Name == name)?.Wish;
        return Load(sitting, Pauses.Key) ? Partial("_Tidy", this) : NotFound();
    }

    /// <summary>Keeps the settings under a name.</summary>
    public IActionResult OnPostKeepSet(long sitting, TypedWish typed, string? name)
    {
        if (!Load(sitting, Pauses.Key))
        {
            return NotFound();
        }
        return Make(
            sitting,
            Pauses.Key,
            _ => wishes.KeepSet(Production.Id, name ?? "", wish = Read(typed), Who),
            $"Kept as “{TypedText.OneLine(name ?? "")}”."
        );
    }

    /// <summary>Sets aside what the settings say, and remembers them.</summary>
    public IActionResult OnPostPauses(long sitting, TypedWish typed)
    {
        if (!Load(sitting, Pauses.Key))
        {
            return NotFound();
        }
        var count = 0;
        return Make(
            sitting,
            Pauses.Key,
            id =>
            {
                wish = Read(typed);
                var planned = Found.Pauses(Wish);
                count = planned.Count;
                if (count == 0)
                {
                    throw new EditRefusedException("There is no pause to set aside by these settings.");
                }
                transcripts.Apply(
                    id,
                    text =>
                        Marking.All([
                            .. planned.Select((c, i) => Marking.OverTime(text, MarkKind.Pause, RangeOf(c.Cut), Signed, later: i)),
                        ]),
                    Who
                );
                wishes.Remember(Production.Id, Wish, Who);
            },
            "The pauses are set aside. Undo brings all of them back."
        );
    }

    /// <summary>Sets one pause aside, or lets it stay as it is.</summary>
    public IActionResult OnPostPause(long sitting, TypedWish typed, long @in, long @out, bool stays)
    {
        if (!Load(sitting, Pauses.Key))
        {
            return NotFound();
        }
        return Change(
            sitting,
            Pauses.Key,
            text =>
            {
                wish = Read(typed);
                var pause = Found.Pauses(Wish).FirstOrDefault(c => c.Pause.In.Units == @in && c.Pause.Out.Units == @out);
                return pause is null
                    ? throw new EditRefusedException("That pause is not there any more by these settings. Look again.")
                    : new PutMark(
                        Marking.OverTime(
                            text,
                            stays ? MarkKind.LeftPause : MarkKind.Pause,
                            RangeOf(stays ? pause.Pause : pause.Cut),
                            Signed
                        )
                    );
            },
            stays ? "This pause stays." : "The pause is set aside."
        );
    }

    private static SittingRange RangeOf(TalkPause pause) => new(new SittingTime(pause.In), new SittingTime(pause.Out));

    /// <summary>Seconds for a field.</summary>
    public static string Seconds(int milliseconds) => (milliseconds / 1000m).ToString("0.0##", CultureInfo.InvariantCulture);

    private PauseWish Read(TypedWish typed) =>
        new PauseWish(
            Milliseconds(typed.From, "From which length on"),
            typed.Mode == "whole" ? null : Milliseconds(typed.To, "What is left"),
            typed.Mode == "whole" ? Milliseconds(typed.Before, "What is kept behind a word") : Wish.Before,
            typed.Mode == "whole" ? Milliseconds(typed.After, "What is kept before a word") : Wish.After,
            typed.Quiet,
            typed.Of is null
                ? Wish.Not
                : Text.Voices()
                    .Select(Text.NameOf)
                    .Except(typed.Of)
                    .Union(Wish.Not.Except(Text.Voices().Select(Text.NameOf)))
                    .ToImmutableSortedSet()
        ).Checked();

    private static int Milliseconds(string? typed, string what) =>
        decimal.TryParse(
            (typed ?? "").Trim().Replace(',', '.'),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var seconds
        )
        && seconds <= PauseWish.Longest / 1000m
            ? (int)Math.Round(seconds * 1000)
            : throw new EditRefusedException($"{what} is a number of seconds, as 0.5, not “{typed}”.");
}
