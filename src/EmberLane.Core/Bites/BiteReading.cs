using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Who speaks in a bite, and how long that one's words last together.</summary>
public sealed record VoiceInBite(string Name, MediaTime Said);

/// <summary>
/// What a bite says by the text that its sitting is read by: the number of that text's first word of it (the first when it has none), the
/// words without those that are taken out or set aside, who speaks, the first to speak first, and the parts of its stretch that are in use.
/// </summary>
public sealed record BiteReading(WordNumber FirstWord, string Said, IReadOnlyList<VoiceInBite> Voices, IReadOnlyList<SittingRange> Pieces)
{
    /// <summary>
    /// From so many words on a voice needs more than one of them: a single word among others' is mostly one that was given to the wrong
    /// voice.
    /// </summary>
    private const int LeastForOne = 8;

    /// <summary>The words at its ends, and those beside them.</summary>
    public CardEdges Edges { get; init; } = CardEdges.None;

    /// <summary>How long what is in use of it lasts.</summary>
    public MediaTime Length => Pieces.Aggregate(MediaTime.Zero, (sum, p) => sum + p.Length);

    /// <summary>
    /// By the text with <paramref name="currentId"/>, which the sitting is read by; where that has no words at this place, by the one that
    /// the bite was marked on, which <paramref name="own"/> gives. <paramref name="aside"/> are the sitting's stretches that are set aside,
    /// in order and apart. A card of the bite that has another stretch than the bite is read in that: by the words whose middles lie in
    /// it. Cost grows with the bite's words and these stretches, where the bite was marked on another text with all words.
    /// </summary>
    public static BiteReading Of(
        Bite bite,
        Transcript current,
        long currentId,
        Func<Transcript> own,
        IReadOnlyList<SittingRange> aside,
        SittingRange? stretch = null
    )
    {
        var text = current;
        if (CardWords.PlaceOf(bite, text, bite.TranscriptId == currentId, stretch ?? bite.Range) is not { } place)
        {
            text = own();
            place = CardWords.PlaceOf(bite, text, isOwn: true, stretch ?? bite.Range) ?? (TextPlace.First, TextPlace.BeforeFirst);
        }
        var words = CardWords.In(text, place);
        return new BiteReading(
            place.Last < place.First ? default : text.At(place.First).Number,
            text.Said(words),
            VoicesOf(text, words),
            StoryCut.Apart(stretch ?? bite.Range, aside)
        )
        {
            Edges = CardEdges.Of(text, words),
        };
    }

    private static List<VoiceInBite> VoicesOf(Transcript text, List<RecordWord> words) =>
        [
            .. words
                .GroupBy(w => text.NameOf(text.VoiceOf(w)))
                .Where(g => g.Count() > 1 || words.Count < LeastForOne)
                .Select(g => new VoiceInBite(g.Key, g.Aggregate(MediaTime.Zero, (sum, w) => sum + w.Range.Length))),
        ];

    /// <inheritdoc/>
    public bool Equals(BiteReading? other) =>
        other is not null
        && FirstWord == other.FirstWord
        && Said == other.Said
        && Voices.SequenceEqual(other.Voices)
        && Pieces.SequenceEqual(other.Pieces);

    /// <inheritdoc/>
    public override int GetHashCode() => HashCode.Combine(FirstWord, Said);
}
