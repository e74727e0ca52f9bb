using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tidy;

/// <summary>
/// A text of a sitting as talk: words as they are read now, joined ones as one, without those that were taken out of the text. Times count
/// from the sitting's zero.
/// </summary>
public sealed class TextTalk
{
    private readonly List<(TextPlace First, TextPlace Last)> places;

    /// <summary>Of all of a text. Linear in its words.</summary>
    public TextTalk(Transcript text)
    {
        (Text, places) = (text, []);
        var words = new List<TalkWord>();
        foreach (var unit in text.Units())
        {
            words.Add(new TalkWord(text.Said(unit), unit[0].Range.In.FromZero, unit.Max(w => w.Range.Out).FromZero, text.VoiceOf(unit[0])));
            places.Add((text.PlaceOf(unit[0].Number)!.Value, text.PlaceOf(unit[^1].Number)!.Value));
        }
        Talk = new Talk(words);
    }

    private TextTalk(Transcript text, TextTalk known) => (Text, Talk, places) = (text, known.Talk, known.places);

    /// <summary>The same talk under other marks; null when the words are others.</summary>
    public TextTalk? Under(Transcript text) =>
        ReferenceEquals(text.Record, Text.Record) && WordsOf(text.Layers).SameAs(WordsOf(Text.Layers)) ? new TextTalk(text, this) : null;

    private static Layers WordsOf(Layers layers) =>
        layers with
        {
            Marks = Layers.None.Marks,
            Off = [],
            VoiceNames = Layers.None.VoiceNames,
        };

    /// <summary>The text.</summary>
    public Transcript Text { get; }

    /// <summary>Its words as tidying looks at them.</summary>
    public Talk Talk { get; }

    /// <summary>The place in the text of a word of the talk: of its first part.</summary>
    public TextPlace FirstOf(int word) => places[word].First;

    /// <summary>The place of its last part.</summary>
    public TextPlace LastOf(int word) => places[word].Last;

    /// <summary>
    /// The word of the talk that a place of the text is of, or the next one where that word was taken out; null behind the last.
    /// Logarithmic.
    /// </summary>
    public int? WordAt(TextPlace place)
    {
        int low = 0,
            high = places.Count;
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = places[middle].Last < place ? (middle + 1, high) : (low, middle);
        }
        return low < places.Count ? low : null;
    }

    /// <summary>
    /// From where the sentence of the first of these places begins to where that of the last one ends; as given where none of the talk is
    /// there. Linear in the talk.
    /// </summary>
    public (TextPlace First, TextPlace Last) SentencesOf(TextPlace first, TextPlace last)
    {
        if (WordAt(first) is not { } begins || WordAt(last) is not { } ends)
        {
            return (first, last);
        }
        var (one, other) = SentenceFit.Of(Talk, begins, ends);
        return (FirstOf(one), LastOf(other));
    }

    /// <summary>The words of the text from one word of the talk to another, both included.</summary>
    public IEnumerable<RecordWord> Between(int first, int last) => Text.Between(FirstOf(first), LastOf(last));

    /// <summary>Whether all of these words are set aside by marks of one layer, on or off, or spared by marks of a kind.</summary>
    public bool IsSettled(int first, int last, MarkLayer layer, MarkKind spared)
    {
        var (from, to) = (FirstOf(first), LastOf(last));
        return Text.Layers.Marks.Values.Any(m =>
            (m.Kind.Layer == layer || m.Kind == spared) && MarkPlace.Of(m, Text) is { } held && held.First <= from && to <= held.Last
        );
    }
}
