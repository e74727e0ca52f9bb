using System.Globalization;

namespace EmberLane.Core.Transcripts;

/// <summary>Capitals and marks behind words, step by step, so that a key pressed again goes on.</summary>
public static class Spelling
{
    private static readonly string[] Marks = ["", ".", ",", "?"];

    /// <summary>
    /// The words from one place to another, both included, in the next of: first letters capital, all capital, small. Which comes next is
    /// told by the first word that has letters; null where none has. Joined words are one.
    /// </summary>
    public static TranscriptEdit? NextCase(Transcript transcript, TextPlace first, TextPlace last)
    {
        var units = transcript.Units(first, last).Where(u => u.Any(w => transcript.TextOf(w).Any(char.IsLetter))).ToList();
        if (units.Count == 0)
        {
            return null;
        }
        var now = transcript.Said(units[0]);
        var next =
            now == Small(now) ? Capital
            : now == Capital(now) && now != Large(now) ? (Func<string, string>)Large
            : Small;
        return Changed(
            transcript,
            units.SelectMany(u =>
                u.Index()
                    .Select(w =>
                        (w.Item, next == Capital && w.Index > 0 ? Small(transcript.TextOf(w.Item)) : next(transcript.TextOf(w.Item)))
                    )
            )
        );
    }

    /// <summary>
    /// The next mark behind the word at a place, or behind the joined word that it is part of: stop, comma, question mark, none; another
    /// mark that stands there goes.
    /// </summary>
    public static TranscriptEdit? NextMark(Transcript transcript, TextPlace place)
    {
        while (place < transcript.Last && transcript.IsJoined(transcript.At(place + 1)))
        {
            place++;
        }
        var word = transcript.At(place);
        var text = transcript.TextOf(word);
        var bare = text.TrimEnd('.', ',', '?', '!', ';', ':');
        var mark = Marks[(Math.Max(0, Array.IndexOf(Marks, text[bare.Length..])) + 1) % Marks.Length];
        return Changed(transcript, [(word, bare + mark)]);
    }

    private static Together? Changed(Transcript transcript, IEnumerable<(RecordWord Word, string Text)> texts)
    {
        List<TranscriptEdit> edits =
        [
            .. texts.Where(t => t.Text.Length > 0 && t.Text != transcript.TextOf(t.Word)).Select(t => new Retype(t.Word.Number, t.Text)),
        ];
        return edits.Count == 0 ? null : new Together(edits);
    }

    private static string Small(string text) => text.ToLower(CultureInfo.InvariantCulture);

    private static string Large(string text) => text.ToUpper(CultureInfo.InvariantCulture);

    // The first letter, which a quotation mark may stand before.
    private static string Capital(string text)
    {
        var at = text.AsSpan().IndexOfAny(text.Where(char.IsLetter).Take(1).ToArray());
        return at < 0 ? text : text[..at] + Large(text[at].ToString()) + Small(text[(at + 1)..]);
    }
}
