namespace EmberLane.Core.Tidy;

/// <summary>
/// One attempt at saying something: the places of its first and last word, and whether it was said to its end.
/// </summary>
public sealed record Attempt(int First, int Last, bool Whole);

/// <summary>Attempts at one thing in the order in which they were made, at least two; which is proposed, and why.</summary>
public sealed record Retake(IReadOnlyList<Attempt> Attempts, int Best, string Reason);

/// <summary>
/// Finds what one person says more than once to get it right: a sentence begun and begun again, a whole answer given again much later, a
/// thought that closes with the words that it opened with. What people say twice for other reasons is left: refrains, lists whose parts
/// open alike, questions that are quoted, “yes, yes”.
/// </summary>
public static class Retakes
{
    /// <summary>The retakes of a talk, by the places of their first attempts. Cost grows little faster than with the words.</summary>
    public static IReadOnlyList<Retake> Of(Talk talk)
    {
        var weights = new WordWeights(talk);
        var pairs = talk.Voices.SelectMany(v => new RetakePairs(talk, weights, v).Found()).ToList();
        return [.. RetakeGroups.Of(pairs).Select(spans => Judged(talk, weights, spans)).OrderBy(r => r.Attempts[0].First)];
    }

    /// <summary>An attempt this share as long as the longest is whole, unless its speaker broke off.</summary>
    private const double WholeFrom = 0.7;

    private static Retake Judged(Talk talk, WordWeights weights, IReadOnlyList<Span> spans)
    {
        var heavy = spans.Select(s => s.Places.Sum(p => weights.Of(p))).ToList();
        var most = heavy.Max();
        List<Attempt> attempts =
        [
            .. spans.Select((s, i) => new Attempt(s.First, s.Last, heavy[i] >= WholeFrom * most && !talk.Words[s.Last].BreaksOff)),
        ];
        var (best, reason) = BestAttempt.Of(talk, attempts);
        return new Retake(attempts, best, reason);
    }
}
