using System.Collections.Immutable;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// The words of a record with those that people added, in the order in which they are read, and the place of each by its number.
/// </summary>
internal sealed class ReadingOrder
{
    private readonly IReadOnlyList<RecordWord> record;
    private readonly ImmutableSortedDictionary<WordNumber, AddedWord> added;
    private readonly int[]? places;

    private ReadingOrder(IReadOnlyList<RecordWord> record, ImmutableSortedDictionary<WordNumber, AddedWord> added)
    {
        (this.record, this.added) = (record, added);
        var beside = added
            .Where(a => !a.Value.IsWithdrawn)
            .OrderBy(a => a.Value.Range.In)
            .ThenBy(a => a.Key)
            .ToLookup(a => a.Value.After, a => new RecordWord(a.Key, a.Value.Text, a.Value.Range, null, a.Value.Voice));
        if (beside.Count == 0)
        {
            Words = record;
            return;
        }
        var words = new List<RecordWord>([.. beside[WordNumber.BeforeFirst]]);
        foreach (var word in record)
        {
            words.Add(word);
            words.AddRange(beside[word.Number]);
        }
        places = new int[added.Keys.Last().Next.Value];
        Array.Fill(places, -1);
        for (var i = 0; i < words.Count; i++)
        {
            places[words[i].Number.Value] = i;
            // A word that was split ends where its next part begins.
            if (
                i + 1 < words.Count
                && words[i + 1].Number.Value >= record.Count
                && words[i + 1].Range.In is var next
                && next < words[i].Range.Out
                && next >= words[i].Range.In
            )
            {
                words[i] = words[i] with { Range = new SittingRange(words[i].Range.In, next) };
            }
        }
        Words = words;
    }

    public IReadOnlyList<RecordWord> Words { get; }

    /// <summary>Linear in the words.</summary>
    public static ReadingOrder Of(IReadOnlyList<RecordWord> record, ImmutableSortedDictionary<WordNumber, AddedWord> added) =>
        new(record, added);

    public bool Is(IReadOnlyList<RecordWord> ofRecord, ImmutableSortedDictionary<WordNumber, AddedWord> withAdded) =>
        ReferenceEquals(record, ofRecord) && ReferenceEquals(added, withAdded);

    /// <summary>The place of the word with this number, or null when it is not read.</summary>
    public TextPlace? PlaceOf(WordNumber number) =>
        number.Value < 0 || number.Value >= (places?.Length ?? record.Count) ? null
        : places is null ? new TextPlace(number.Value)
        : places[number.Value] is >= 0 and var place ? new TextPlace(place)
        : null;
}
