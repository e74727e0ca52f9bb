using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Tidy;
using EmberLane.Core.Transcripts;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;

namespace EmberLane.Web.Pages.Tidying;

/// <content>The look at retakes: attempts side by side, word by word, and taking one of them.</content>
public sealed partial class IndexModel
{
    /// <summary>So many retakes are shown at a time.</summary>
    public const int MostRetakes = 60;

    /// <summary>An attempt word by word beside the proposed one; the proposed one beside the longest other.</summary>
    public IReadOnlyList<AttemptWord> WordsOf(Retake retake, int attempt)
    {
        var beside =
            attempt != retake.Best
                ? retake.Best
                : Enumerable.Range(0, retake.Attempts.Count).Where(n => n != retake.Best).MaxBy(n => LengthOf(retake.Attempts[n]));
        return AttemptWords.Of(Talk, retake.Attempts[attempt], retake.Attempts[beside]);
    }

    /// <summary>How long an attempt lasts.</summary>
    public MediaTime LengthOf(Attempt attempt) => Talk.Words[attempt.Last].Out - Talk.Words[attempt.First].In;

    /// <summary>What can be said of an attempt: whether it is whole, how it stumbles, how sure its words are.</summary>
    public string FactsOf(Retake retake, int n)
    {
        var attempt = retake.Attempts[n];
        var stumbles = Found.Hesitations.Count(h => h.Hesitation.First >= attempt.First && h.Hesitation.Last <= attempt.Last);
        var doubtful = Found.Text.Between(attempt.First, attempt.Last).Count(Text.IsDoubtful);
        return string.Join(
            " · ",
            new[]
            {
                n == retake.Best ? "proposed: " + retake.Reason : "",
                attempt.Whole ? "whole"
                : Talk.Words[attempt.Last].BreaksOff ? "broken off"
                : "not said to its end",
                stumbles == 0 ? "no hesitation" : Many.Of(stumbles, "hesitation"),
                doubtful == 0 ? "" : Many.Of(doubtful, "doubtful word"),
            }.Where(f => f.Length > 0)
        );
    }

    /// <summary>The words of each attempt, as the page sends them back.</summary>
    public string AttemptsOf(Retake retake) =>
        string.Join(
            ' ',
            retake.Attempts.Select(a =>
                string.Create(CultureInfo.InvariantCulture, $"{NumberOf(a.First).Value}-{LastNumberOf(a.Last).Value}")
            )
        );

    /// <summary>
    /// Takes one attempt: the others are set aside as other tries at it. <paramref name="attempts"/> names all of them as the page saw
    /// them, <paramref name="taken"/> the one by its place among them, from 0.
    /// </summary>
    public IActionResult OnPostTake(long sitting, string? attempts, int taken) =>
        ReadAttempts(attempts) is { } all && taken >= 0 && taken < all.Count
            ? Change(
                sitting,
                Retakes.Key,
                text =>
                    Marking.All([
                        .. all.Index()
                            .Where(a => a.Index != taken)
                            .Select(
                                (a, i) =>
                                    text.PlacesOf(a.Item.First, a.Item.Last) is var (first, last)
                                        ? Marking.Over(
                                            text,
                                            MarkKind.OtherTry,
                                            first,
                                            last,
                                            Signed,
                                            $"another try is at {text.At(text.PlacesOf(all[taken].First, all[taken].Last).First).Range.In}",
                                            i
                                        )
                                        : null!
                            ),
                    ]),
                $"Attempt {taken + 1} is taken; the others are set aside."
            )
            : Refused("The request does not name attempts. Load the page again and repeat it.");

    /// <summary>These are no attempts at one thing; they are not proposed again.</summary>
    public IActionResult OnPostNoRetake(long sitting, string? attempts) =>
        ReadAttempts(attempts) is { } all
            ? Spare(sitting, Retakes, MarkKind.LeftTry, all)
            : Refused("The request does not name attempts. Load the page again and repeat it.");

    private static List<(WordNumber First, WordNumber Last)>? ReadAttempts(string? attempts)
    {
        var all = new List<(WordNumber, WordNumber)>();
        foreach (var one in (attempts ?? "").Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            if (
                one.Split('-') is not [var from, var to]
                || !int.TryParse(from, NumberStyles.None, CultureInfo.InvariantCulture, out var first)
                || !int.TryParse(to, NumberStyles.None, CultureInfo.InvariantCulture, out var last)
            )
            {
                return null;
            }
            all.Add((new WordNumber(first), new WordNumber(last)));
        }
        return all.Count >= 2 ? all : null;
    }
}
