using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Finding;

/// <summary>The words of a text, folded once, to look for many runs of words in it.</summary>
public sealed class SaidWords
{
    private readonly Transcript text;
    private readonly List<(string Key, int Place)> said;
    private readonly ILookup<string, int> byKey;

    /// <summary>Of all of a text. Linear in its words.</summary>
    public SaidWords(Transcript text)
    {
        this.text = text;
        said = [.. text.Words.Index().SelectMany(w => FoldedWords.Of(text.TextOf(w.Item)).Select(k => (k, w.Index)))];
        byKey = said.Index().ToLookup(s => s.Item.Key, s => s.Index);
    }

    /// <summary>
    /// Where folded words are said one behind the other, nearest to a time; the first place where none is given, null where there is none.
    /// Cost grows with the places of the first word.
    /// </summary>
    public (TextPlace First, TextPlace Last)? Nearest(IReadOnlyList<string> keys, MediaTime? at) =>
        keys.Count == 0
            ? null
            : byKey[keys[0]]
                .Where(i => Goes(i, keys))
                .Select(i => ((TextPlace First, TextPlace Last)?)(new(said[i].Place), new(said[i + keys.Count - 1].Place)))
                .MinBy(p => at is { } time ? Int128.Abs((text.At(p!.Value.First).Range.In.FromZero - time).Units) : 0);

    private bool Goes(int from, IReadOnlyList<string> keys)
    {
        if (from + keys.Count > said.Count)
        {
            return false;
        }
        for (var k = 1; k < keys.Count; k++)
        {
            if (said[from + k].Key != keys[k])
            {
                return false;
            }
        }
        return true;
    }
}
