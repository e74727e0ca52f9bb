using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>A sound that fills a pause and that no word stands for, and the place of the word before it.</summary>
public readonly record struct FilledSound(TalkPause Stretch, int After);

/// <summary>
/// Finds “um” where a recogniser left it out: between two words somebody speaks, and what is said there moves little. Words that were not
/// heard mostly move more, not always: each is to be heard before it is taken for a hesitation.
/// </summary>
public static class FilledSounds
{
    /// <summary>In steps of 10 ms: how long such a sound lasts at least and at most.</summary>
    private const int Least = 25,
        Longest = 130;

    /// <summary>Word ends lie wrong by this many steps; a neighbour's begin and end are no filler.</summary>
    private const int Near = 6;

    /// <summary>From where on somebody speaks, and from where on what is said is one sound, in the mean.</summary>
    private const float Speaks = 0.5f,
        Steady = 0.5f;

    /// <summary>
    /// In order of their places. <paramref name="chances"/> and <paramref name="steady"/> (<see cref="SteadyVoice"/>) are of the sound's
    /// steps, the first of which is <paramref name="from"/> on the words' clock. Linear in the words and in the steps.
    /// </summary>
    public static IReadOnlyList<FilledSound> Of(Talk talk, ReadOnlySpan<float> chances, ReadOnlySpan<float> steady, MediaTime from)
    {
        var found = new List<FilledSound>();
        var end = int.MinValue;
        for (var w = 0; w < talk.Words.Count; w++)
        {
            var word = talk.Words[w];
            if (w > 0 && end > int.MinValue)
            {
                int first = Math.Clamp(end + Near, 0, chances.Length),
                    last = Math.Clamp(Step.At(word.In - from).Value - Near, first, chances.Length);
                if (In(first, last, chances, steady) is var (a, b))
                {
                    found.Add(new FilledSound(new TalkPause(from + new Step(a).FromStart, from + new Step(b).FromStart), w - 1));
                }
            }
            end = Math.Max(end, Step.At(word.Out - from).Value);
        }
        return found;
    }

    // The longest run of speech between two words in which a sound is held.
    private static (int First, int End)? In(int first, int end, ReadOnlySpan<float> chances, ReadOnlySpan<float> steady)
    {
        (int First, int End)? best = null;
        for (var i = first; i < end;)
        {
            if (chances[i] < Speaks)
            {
                i++;
                continue;
            }
            var begins = i;
            float sum = 0;
            for (; i < end && chances[i] >= Speaks; i++)
            {
                sum += steady[i];
            }
            var length = i - begins;
            if (length is >= Least and <= Longest && sum >= Steady * length && (best is not { } b || length > b.End - b.First))
            {
                best = (begins, i);
            }
        }
        return best;
    }
}
