namespace EmberLane.Core.Tidy;

/// <summary>
/// How much it tells that a word is said again: much for a ferry, little for “and”. Hesitations tell nothing.
/// </summary>
internal sealed class WordWeights
{
    /// <summary>What a word weighs that everybody says all the time.</summary>
    public const double Little = 0.25;

    /// <summary>More than one of so many words is one of those, in a talk of some length.</summary>
    private const int Often = 40,
        Length = 2_000;

    private readonly double[] weights;

    public WordWeights(Talk talk)
    {
        var count = talk.Words.CountBy(w => w.Key).ToDictionary();
        weights =
        [
            .. talk.Words.Select(w =>
                w.Key.Length == 0 || FilledPause.Is(w.Key) ? 0
                : CommonWords.Has(w.Key) || (talk.Words.Count >= Length && count[w.Key] > talk.Words.Count / Often) ? Little
                : 1
            ),
        ];
    }

    /// <summary>The weight of the word at a place, 0–1.</summary>
    public double Of(int place) => weights[place];
}
