using System.Globalization;

namespace EmberLane.Core.Tidy;

/// <summary>Which attempt is proposed: the last whole one, unless an earlier whole one is clearly cleaner; with the reason.</summary>
internal static class BestAttempt
{
    /// <summary>An earlier attempt is clearly cleaner when it has so many hesitations less.</summary>
    private const int Cleaner = 2;

    public static (int Best, string Reason) Of(Talk talk, IReadOnlyList<Attempt> attempts)
    {
        var whole = Enumerable.Range(0, attempts.Count).Where(i => attempts[i].Whole).ToList();
        if (whole.Count == 0)
        {
            return (attempts.Count - 1, "the last; none is whole");
        }
        var stumbles = attempts.Select(a => Stumbles(talk, a)).ToList();
        var last = whole[^1];
        var cleanest = whole.MinBy(i => (stumbles[i], -i));
        return stumbles[last] - stumbles[cleanest] >= Cleaner
            ? (
                cleanest,
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"whole, with {stumbles[cleanest]} hesitations where the last whole one has {stumbles[last]}"
                )
            )
            : (last, last == attempts.Count - 1 ? "the last, and whole" : "the last that is whole");
    }

    private static int Stumbles(Talk talk, Attempt attempt)
    {
        var (voice, stumbles) = (talk.Words[attempt.First].Voice, 0);
        for (var i = attempt.First; i <= attempt.Last; i++)
        {
            var word = talk.Words[i];
            stumbles += word.Voice == voice && (FilledPause.Is(word.Key) || word.BreaksOff) ? 1 : 0;
            stumbles += i > attempt.First && word.Key.Length > 0 && word.Key == talk.Words[i - 1].Key ? 1 : 0;
        }
        return stumbles;
    }
}
