using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Shown;

/// <summary>Words of a shown text, of one sitting: in which line they begin and end, the first and the last, and what they say.</summary>
public sealed record ShownPassage(ShownLine Begins, ShownLine Ends, WordNumber First, WordNumber Last, string Said)
{
    /// <summary>Whether it is of one line.</summary>
    public bool IsOfOneLine => Begins == Ends;
}

/// <summary>
/// A text as it is shown to who does not work on it: only what is in use, so that nothing that was set aside can be read in it or out of
/// it.
/// </summary>
public sealed class ShownText(IReadOnlyList<ShownLine> lines)
{
    private readonly ILookup<long, (ShownLine Line, ShownWord Word, ShownPlace Place)> words = lines
        .SelectMany(l => l.Words.Where(w => w.Place is not null).Select(w => (Line: l, Word: w, Place: w.Place!.Value)))
        .ToLookup(w => w.Line.Sitting);

    /// <summary>Its lines in order.</summary>
    public IReadOnlyList<ShownLine> Lines => lines;

    /// <summary>
    /// From the word that begins with one number to the one that ends with another, both as they are shown; null where they are not, or
    /// not in this order. Linear in the words.
    /// </summary>
    public ShownPassage? Of(long sitting, WordNumber first, WordNumber last)
    {
        var all = words[sitting].ToList();
        var from = all.FindIndex(w => w.Place.First == first);
        var to = from < 0 ? -1 : all.FindIndex(from, w => w.Place.Last == last);
        return to < 0 ? null : Passage(all[from..(to + 1)]);
    }

    /// <summary>
    /// Of the words between two places of a sitting's text, both included, those that are shown; null where none is. Linear in the words.
    /// </summary>
    public ShownPassage? Between(long sitting, TextPlace from, TextPlace to) =>
        words[sitting].Where(w => w.Place.From >= from && w.Place.To <= to).ToList() is { Count: > 0 } some ? Passage(some) : null;

    /// <summary>The line of a key; null where there is none.</summary>
    public ShownLine? Line(string key) => lines.FirstOrDefault(l => l.Key == key);

    private static ShownPassage Passage(List<(ShownLine Line, ShownWord Word, ShownPlace Place)> some) =>
        new(some[0].Line, some[^1].Line, some[0].Place.First, some[^1].Place.Last, string.Join(' ', some.Select(w => w.Word.Text)));
}
