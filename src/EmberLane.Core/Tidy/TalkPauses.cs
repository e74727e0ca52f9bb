using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>A stretch in which nobody speaks, from the text's zero; the end exclusive.</summary>
public readonly record struct TalkPause(MediaTime In, MediaTime Out)
{
    /// <summary>How long it is.</summary>
    public MediaTime Length => Out - In;
}

/// <summary>
/// Finds the pauses between words: from the words alone, or from words and sound together, where a word that was heard is speech however
/// soft it is, and a noise without a word is none.
/// </summary>
public static class TalkPauses
{
    /// <summary>Times of words are believed to this, where the sound says otherwise.</summary>
    private static readonly MediaTime Loose = MediaTime.FromMilliseconds(120);

    /// <summary>Somebody may speak where the network is so sure in this share of a stretch without words.</summary>
    private const float Speaks = 0.5f;

    private const double Share = 0.25;

    /// <summary>Where nobody has a word for at least so long.</summary>
    public static IReadOnlyList<TalkPause> Of(Talk talk, MediaTime least) => [.. Gaps(talk).Where(g => g.Length >= least)];

    /// <summary>
    /// The same by the sound too: <paramref name="quiet"/> are the stretches without speech in its steps of 10 ms
    /// (<see cref="PauseFinder"/>, of 0.1 s on), <paramref name="chances"/> how likely somebody speaks in each; its first step is
    /// <paramref name="from"/> on the words' clock.
    /// </summary>
    public static IReadOnlyList<TalkPause> Of(
        Talk talk,
        IReadOnlyList<StepRange> quiet,
        ReadOnlySpan<float> chances,
        MediaTime from,
        MediaTime least
    )
    {
        var pauses = new List<TalkPause>();
        var next = 0;
        foreach (var gap in Gaps(talk))
        {
            var (first, end) = (gap.In - Loose, gap.Out + Loose);
            while (next < quiet.Count && from + quiet[next].End.FromStart <= first)
            {
                next++;
            }
            TalkPause? longest = null;
            for (var q = next; q < quiet.Count && from + quiet[q].First.FromStart < end; q++)
            {
                // What the sound calls quiet goes as far as the words let it: no further into one than their times are loose.
                var part = new TalkPause(
                    MediaTime.Max(first, from + quiet[q].First.FromStart),
                    MediaTime.Min(end, from + quiet[q].End.FromStart)
                );
                longest = longest is null || part.Length > longest.Value.Length ? part : longest;
            }
            var found =
                longest is { } heard && heard.Length >= least ? heard
                : IsNoise(gap, chances, from) ? gap
                : (TalkPause?)null;
            if (found is { } pause && pause.Length >= least && (pauses.Count == 0 || pauses[^1].Out <= pause.In))
            {
                pauses.Add(pause);
            }
        }
        return pauses;
    }

    // No word was heard in it, and hardly anything like speech: a door, a boat's horn, laughter.
    private static bool IsNoise(TalkPause gap, ReadOnlySpan<float> chances, MediaTime from)
    {
        int first = Math.Clamp(Step.At(gap.In - from).Value, 0, chances.Length),
            end = Math.Clamp(Step.At(gap.Out - from).Value, first, chances.Length),
            speaks = 0;
        foreach (var chance in chances[first..end])
        {
            speaks += chance >= Speaks ? 1 : 0;
        }
        return end > first && speaks <= Share * (end - first);
    }

    private static IEnumerable<TalkPause> Gaps(Talk talk)
    {
        MediaTime? end = null;
        foreach (var word in talk.Words)
        {
            if (end is { } before && word.In > before)
            {
                yield return new TalkPause(before, word.In);
            }
            end = end is { } last ? MediaTime.Max(last, word.Out) : word.Out;
        }
    }
}
