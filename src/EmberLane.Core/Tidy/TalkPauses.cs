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
    /// <summary>Word and sound may say differently by this where a pause begins or ends: then it lies between the two.</summary>
    private static readonly MediaTime Loose = MediaTime.FromMilliseconds(120);

    /// <summary>In steps: this much of speech that no word stands for is said.</summary>
    private const int Said = 15;

    /// <summary>In mean of how likely somebody speaks: over a stretch in which nobody does, and in which somebody does for sure.</summary>
    private const float Silent = 0.1f,
        Speaks = 0.5f,
        Noise = 0.3f;

    /// <summary>Where nobody has a word for at least so long.</summary>
    public static IReadOnlyList<TalkPause> Of(Talk talk, MediaTime least) =>
        [.. Gaps(talk).Select(g => g.Gap).Where(g => g.Length >= least)];

    /// <summary>
    /// The same by the sound too: <paramref name="quiet"/> are the stretches without speech in its steps of 10 ms
    /// (<see cref="PauseFinder"/>, of 0.1 s on), <paramref name="chances"/> how likely somebody speaks in each; its first step is
    /// <paramref name="from"/> on the words' clock. Where the sound does not reach the words tell.
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
        foreach (var (gap, most) in Gaps(talk))
        {
            while (next < quiet.Count && from + quiet[next].End.FromStart <= gap.In)
            {
                next++;
            }
            var heard = Heard(gap, quiet, next, chances, from);
            var pause =
                heard is { } sound
                    ? new TalkPause(
                        Edge(gap.In, sound.In, sound.In > gap.In, chances, from),
                        Edge(gap.Out, sound.Out, sound.Out < gap.Out, chances, from)
                    )
                : Chance(gap, chances, from) is { } chance && chance > Noise ? (TalkPause?)null
                : gap;
            if (pause is { } wide)
            {
                pause = new TalkPause(MediaTime.Max(wide.In, most.In), MediaTime.Min(wide.Out, most.Out));
            }
            if (pause is { } found && found.Length >= least && (pauses.Count == 0 || pauses[^1].Out <= found.In))
            {
                pauses.Add(found);
            }
        }
        return pauses;
    }

    // The quiet around a gap between words, over noises that are no speech; the longest where somebody speaks between.
    private static TalkPause? Heard(TalkPause gap, IReadOnlyList<StepRange> quiet, int next, ReadOnlySpan<float> chances, MediaTime from)
    {
        TalkPause? longest = null,
            last = null;
        for (var q = next; q < quiet.Count && from + quiet[q].First.FromStart < gap.Out; q++)
        {
            var part = new TalkPause(from + quiet[q].First.FromStart, from + quiet[q].End.FromStart);
            last =
                last is { } before && Chance(new TalkPause(before.Out, part.In), chances, from) <= Noise
                    ? new TalkPause(before.In, part.Out)
                    : part;
            longest = longest is null || last.Value.Length > longest.Value.Length ? last : longest;
        }
        return longest;
    }

    // Between what the word and what the sound say; where they are far apart as the one says that the network bears out.
    private static MediaTime Edge(MediaTime word, MediaTime sound, bool speech, ReadOnlySpan<float> chances, MediaTime from)
    {
        var apart = sound - word;
        if (apart <= Loose && -apart <= Loose)
        {
            return word + new MediaTime(apart.Units / 2);
        }
        var disputed = new TalkPause(MediaTime.Min(word, sound), MediaTime.Max(word, sound));
        return (speech ? SpokenIn(disputed, chances, from) >= Said : Chance(disputed, chances, from) <= Silent) ? sound : word;
    }

    // Steps in which somebody speaks.
    private static int SpokenIn(TalkPause stretch, ReadOnlySpan<float> chances, MediaTime from)
    {
        var spoken = 0;
        foreach (var chance in Within(stretch, chances, from))
        {
            spoken += chance >= Speaks ? 1 : 0;
        }
        return spoken;
    }

    // How likely somebody speaks in a stretch, in the mean; null where it lies beyond the sound.
    private static float? Chance(TalkPause stretch, ReadOnlySpan<float> chances, MediaTime from)
    {
        var within = Within(stretch, chances, from);
        float sum = 0;
        foreach (var chance in within)
        {
            sum += chance;
        }
        return within.IsEmpty ? null : sum / within.Length;
    }

    private static ReadOnlySpan<float> Within(TalkPause stretch, ReadOnlySpan<float> chances, MediaTime from)
    {
        var first = Math.Clamp(Step.At(stretch.In - from).Value, 0, chances.Length);
        return chances[first..Math.Clamp(Step.At(stretch.Out - from).Value, first, chances.Length)];
    }

    // Where nobody has a word, and how far the sound may say that a pause goes: to the middles of the words around it.
    private static IEnumerable<(TalkPause Gap, TalkPause Most)> Gaps(Talk talk)
    {
        TalkWord? last = null;
        foreach (var word in talk.Words)
        {
            if (last is { } before && word.In > before.Out)
            {
                yield return (new TalkPause(before.Out, word.In), new TalkPause(Middle(before), Middle(word)));
            }
            last = last is { } longer && longer.Out > word.Out ? longer : word;
        }

        static MediaTime Middle(TalkWord word) => new((word.In.Units + word.Out.Units) / 2);
    }
}
