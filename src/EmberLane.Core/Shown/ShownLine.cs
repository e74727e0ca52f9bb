using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Shown;

/// <summary>What a line of a shown text is.</summary>
public enum ShownKind
{
    /// <summary>Somebody says it.</summary>
    Talk,

    /// <summary>The name of a section.</summary>
    Heading,

    /// <summary>A narrator reads it.</summary>
    Narration,

    /// <summary>It is read on the screen.</summary>
    Title,

    /// <summary>It is seen or heard without words, or waits for that.</summary>
    Picture,
}

/// <summary>
/// Where what is shown as one word lies in the text of its sitting: its first and last word by number, and where those stand.
/// </summary>
public readonly record struct ShownPlace(WordNumber First, WordNumber Last, TextPlace From, TextPlace To);

/// <summary>
/// What is shown as one word; where it is said (null for what nobody said); from when to when it is heard, on the clock of what is played
/// beside it (null where it is not).
/// </summary>
public sealed record ShownWord(string Text, ShownPlace? Place, (MediaTime In, MediaTime Out)? Heard);

/// <summary>
/// A line of a shown text: its key on the page, what it is, who says it (empty where that goes on from the line before, or for nobody),
/// where it begins as it is told, of which sitting it is (0 for none), and its words.
/// </summary>
public sealed record ShownLine(string Key, ShownKind Kind, string Who, string At, long Sitting, IReadOnlyList<ShownWord> Words)
{
    /// <summary>All that it says.</summary>
    public string Said => string.Join(' ', Words.Select(w => w.Text));
}
