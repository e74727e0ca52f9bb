using System.Globalization;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <content>Retakes across sittings: what a person says again in another one.</content>
public sealed partial class IndexModel
{
    private IReadOnlyList<RetakeAcross>? across;

    /// <summary>Those that nobody has decided about; looked for when they are shown. Empty where there is too much to search.</summary>
    public IReadOnlyList<RetakeAcross> RetakesAcross => across ??= LookAcross();

    /// <summary>Why they were not looked for; null where they were.</summary>
    public string? NotAcross { get; private set; }

    /// <summary>What can be said of an attempt.</summary>
    public static string FactsOf(RetakeAcross retake, int n) =>
        string.Join(
            " · ",
            new[]
            {
                n == retake.Best ? "proposed: " + retake.Reason : "",
                retake.Attempts[n].Attempt.Whole ? "whole" : "not said to its end",
                retake
                    .Attempts[n]
                    .Text.Between(retake.Attempts[n].Attempt.First, retake.Attempts[n].Attempt.Last)
                    .Count(retake.Attempts[n].Text.Text.IsDoubtful)
                    is > 0
                        and var doubtful
                    ? Many.Of(doubtful, "doubtful word")
                    : "",
            }.Where(f => f.Length > 0)
        );

    /// <summary>The words of each attempt with its text, as the page sends them back.</summary>
    public static string AttemptsOf(RetakeAcross retake) =>
        string.Join(
            ' ',
            retake.Attempts.Select(a =>
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"{a.Sitting.TranscriptId}:{NumberIn(a, last: false)}-{NumberIn(a, last: true)}"
                )
            )
        );

    /// <summary>Where an attempt is read.</summary>
    public string LinkTo(AttemptThere attempt) =>
        FormattableString.Invariant($"/productions/{Production.Id}/read/{attempt.Sitting.Id}#word-{NumberIn(attempt, last: false)}");

    /// <summary>Its sound, where that can be played.</summary>
    public Played? SoundOf(AttemptThere attempt) =>
        PlayedSitting.Of(attempt.Sitting, footage.SourcesOf(attempt.Sitting.Id), sittingMics.Of(attempt.Sitting), cache, null).Sound
            is { Address: not null } sound
            ? sound
            : null;

    /// <summary>Takes one attempt: the others are set aside where they are, each text's log with its own; all or none.</summary>
    public IActionResult OnPostTakeAcross(long sitting, string? attempts, int taken) =>
        ReadAcross(attempts) is { } all && taken >= 0 && taken < all.Count
            ? MarkAcross(
                sitting,
                [.. all.Where((_, i) => i != taken)],
                MarkKind.OtherTry,
                "another try is in another sitting",
                $"Attempt {taken + 1} is taken; the others are set aside in their sittings."
            )
            : Refused("The request does not name attempts. Load the page again and repeat it.");

    /// <summary>These are no attempts at one thing.</summary>
    public IActionResult OnPostNoRetakeAcross(long sitting, string? attempts) =>
        ReadAcross(attempts) is { } all
            ? MarkAcross(sitting, all, MarkKind.LeftTry, "", "It is not proposed any more.")
            : Refused("The request does not name attempts. Load the page again and repeat it.");

    private IActionResult MarkAcross(
        long sitting,
        IReadOnlyList<(long Text, WordNumber First, WordNumber Last)> attempts,
        MarkKind kind,
        string note,
        string done
    ) =>
        Make(
            sitting,
            Across.Key,
            _ =>
                transcripts.ApplyAll(
                    [
                        .. attempts
                            .GroupBy(a => a.Text)
                            .Select(g =>
                                (
                                    g.Key,
                                    (Func<Transcript, TranscriptEdit?>)(
                                        text =>
                                            Marking.All([
                                                .. g.Select(
                                                    (a, i) =>
                                                        text.PlacesOf(a.First, a.Last) is var (first, last)
                                                            ? Marking.Over(text, kind, first, last, Signed, note, i)
                                                            : null!
                                                ),
                                            ])
                                    )
                                )
                            ),
                    ],
                    Who
                ),
            done + " Each sitting’s own undo brings its words back."
        );

    // Attempts in texts that sittings of this production are read by; null for anything else.
    private List<(long Text, WordNumber First, WordNumber Last)>? ReadAcross(string? attempts)
    {
        var texts = footage.Sittings(Production.Id).Select(s => s.TranscriptId).OfType<long>().ToHashSet();
        var all = new List<(long, WordNumber, WordNumber)>();
        foreach (var one in (attempts ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                one.Split(':') is not [var text, var words]
                || !long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var id)
                || !texts.Contains(id)
                || words.Split('-') is not [var from, var to]
                || !int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var first)
                || !int.TryParse(to, NumberStyles.None, CultureInfo.InvariantCulture, out var last)
            )
            {
                return null;
            }
            all.Add((id, new WordNumber(first), new WordNumber(last)));
        }
        return all.Count >= 2 ? all : null;
    }

    private IReadOnlyList<RetakeAcross> LookAcross()
    {
        try
        {
            return findings.Across(Production.Id);
        }
        catch (EditRefusedException tooMuch)
        {
            NotAcross = tooMuch.Message;
            return [];
        }
    }

    private static WordNumber NumberIn(AttemptThere there, bool last) =>
        there.Text.Text.At(last ? there.Text.LastOf(there.Attempt.Last) : there.Text.FirstOf(there.Attempt.First)).Number;
}
