using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Stories;

/// <summary>
/// The words at the ends of a card, where they lie on its sitting's clock: the one before it, its first, its last, and the one behind it;
/// null where there is none.
/// </summary>
public sealed record CardEdges(SittingRange? Before, SittingRange? First, SittingRange? Last, SittingRange? Behind)
{
    /// <summary>Of nothing.</summary>
    public static CardEdges None { get; } = new(null, null, null, null);

    /// <summary>
    /// Of the words between two places of a text that are in use. A word that is taken out of the text only is still heard, and counts
    /// beside the card.
    /// </summary>
    public static CardEdges Of(Transcript text, IReadOnlyList<RecordWord> words)
    {
        if (words.Count == 0 || text.PlaceOf(words[0].Number) is not { } first || text.PlaceOf(words[^1].Number) is not { } last)
        {
            return None;
        }
        return new CardEdges(
            first > TextPlace.First ? text.At(first - 1).Range : null,
            words[0].Range,
            words[^1].Range,
            last < text.Last ? text.At(last + 1).Range : null
        );
    }
}
