using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Stories;

/// <summary>A word of a card: its number in the text, where it lies, and its characters in what the card says.</summary>
public readonly record struct CardWord(WordNumber Number, SittingRange Range, int From, int Length);

/// <summary>The words of a card as it is read: those of the text in its stretch, without what is taken out or set aside.</summary>
public sealed record CardWords(string Said, IReadOnlyList<CardWord> Words)
{
    /// <summary>
    /// The words of a card of <paramref name="bite"/> with this stretch, in a text of its sitting, which is the one that the bite was
    /// marked on or another.
    /// </summary>
    public static CardWords Of(Bite bite, Transcript text, bool isOwn, SittingRange stretch)
    {
        var words = PlaceOf(bite, text, isOwn, stretch) is { } place ? In(text, place) : [];
        var placed = new List<CardWord>(words.Count);
        var at = 0;
        foreach (var (i, word) in words.Index())
        {
            at += i == 0 || text.IsJoined(word) ? 0 : 1;
            var length = text.TextOf(word).Length;
            placed.Add(new CardWord(word.Number, word.Range, at, length));
            at += length;
        }
        return new CardWords(text.Said(words), placed);
    }

    /// <summary>The words at the ends of a stretch of a text, and those beside them: those whose middles lie in it.</summary>
    public static CardEdges EdgesOf(Transcript text, SittingRange stretch) =>
        MarkPlace.In(text, stretch) is { } place ? CardEdges.Of(text, In(text, place)) : CardEdges.None;

    /// <summary>What a part of a card says, and the words at its ends: those whose middles lie in it.</summary>
    public static (string Said, CardEdges Edges) PartOf(Transcript text, SittingRange part) =>
        MarkPlace.In(text, part) is { } place && In(text, place) is var words
            ? (text.Said(words), CardEdges.Of(text, words))
            : ("", CardEdges.None);

    /// <summary>
    /// Where a card lies in a text: as its bite where it has its stretch, else from the first to the last word whose middles lie in its
    /// own; null where the text has none.
    /// </summary>
    internal static (TextPlace First, TextPlace Last)? PlaceOf(Bite bite, Transcript text, bool isOwn, SittingRange stretch) =>
        stretch == bite.Range ? MarkPlace.Of(bite.Mark, text, isOwn) : MarkPlace.In(text, stretch);

    /// <summary>The words between two places that are read: without those taken out or set aside.</summary>
    internal static List<RecordWord> In(Transcript text, (TextPlace First, TextPlace Last) place) =>
        [.. text.Between(place.First, place.Last).Where(w => !text.IsHidden(w) && !text.IsAside(w))];

    /// <summary>
    /// The words that characters <paramref name="from"/> to <paramref name="to"/> of what is said touch, the second not included; null
    /// where they touch none.
    /// </summary>
    public (int First, int Last)? Touching(int from, int to)
    {
        int first = -1,
            last = -1;
        for (var i = 0; i < Words.Count; i++)
        {
            if (Words[i].From < to && Words[i].From + Words[i].Length > from)
            {
                first = first < 0 ? i : first;
                last = i;
            }
        }
        return first < 0 ? null : (first, last);
    }
}
