using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>
/// A word as tidying looks at it: as it stands in the text, with its time from the text's zero and the number of its voice.
/// </summary>
public sealed record TalkWord(string Text, MediaTime In, MediaTime Out, int Voice)
{
    private const string Closing = "\"'”’)]»";

    /// <summary>Without case and punctuation, as words are compared; empty where nothing else is there.</summary>
    public string Key { get; } = WordErrorRate.Plain(Text);

    /// <summary>Whether a full stop, question mark, exclamation mark or the like stands behind it.</summary>
    public bool EndsSentence => Last is '.' or '?' or '!' or '。' or '？' or '！' && !BreaksOff;

    /// <summary>Whether it asks.</summary>
    public bool Asks => Last is '?' or '？';

    /// <summary>Whether a comma, a colon or a semicolon stands behind it.</summary>
    public bool HasComma => Last is ',' or ';' or ':' or '、';

    /// <summary>Whether a dash or three dots tell that the speaker broke off here.</summary>
    public bool BreaksOff =>
        Trimmed is var text
        && (
            text.EndsWith('-')
            || text.EndsWith('–')
            || text.EndsWith('—')
            || text.EndsWith('…')
            || text.EndsWith("..", StringComparison.Ordinal)
        );

    /// <summary>Whether it is written with a capital; what is always written so, as “I”, is not.</summary>
    public bool HasCapital => Text.Length > 0 && char.IsUpper(Text[0]) && Key is not ("i" or "i'm" or "i've" or "i'd" or "i'll");

    private string Trimmed => Text.TrimEnd().TrimEnd(Closing.ToCharArray());

    private char Last => Trimmed is [.., var last] ? last : ' ';
}

/// <summary>
/// Talk to be tidied: words in the order of their starts; and what one voice says in one go, a sentence or a part of one.
/// </summary>
public sealed class Talk
{
    /// <summary>A pause within what one voice says from which on another phrase begins; where no stops tell, a shorter one.</summary>
    private static readonly MediaTime Pause = MediaTime.FromMilliseconds(550),
        PauseForStop = MediaTime.FromMilliseconds(250);

    /// <summary>So many words of others in between end a phrase; fewer are a “yes” thrown in.</summary>
    private const int ThrownIn = 3;

    /// <summary>A text with at least one stop in so many words has stops.</summary>
    private const int WordsAStop = 60;

    /// <summary>A phrase with more words than this is parted at its longest pause.</summary>
    private const int Longest = 40;

    private readonly HashSet<string> small;

    /// <summary>The words, in order of their starts; nothing is asked of their times beyond that.</summary>
    public Talk(IReadOnlyList<TalkWord> words)
    {
        Words = words;
        HasStops = words.Count(w => w.EndsSentence) * WordsAStop >= words.Count;
        small = [.. words.Where(w => w.Text.Length > 0 && char.IsLower(w.Text[0])).Select(w => w.Key)];
        Voices = [.. words.Select((w, i) => (w, i)).GroupBy(p => p.w.Voice, p => p.i).OrderBy(g => g.First()).Select(g => g.ToArray())];
        Phrases = [.. Voices.SelectMany(PhrasesOf).OrderBy(p => p.First)];
    }

    /// <summary>A list of words as it was recognised; words without a voice are one voice's.</summary>
    public static Talk Of(WordList list)
    {
        var voices = new Dictionary<string, int>();
        return new Talk([
            .. list.Words.Select(w => new TalkWord(
                w.Text,
                w.Range.In.FromZero,
                w.Range.Out.FromZero,
                voices.TryGetValue(w.Voice ?? "", out var voice) ? voice : voices[w.Voice ?? ""] = voices.Count
            )),
        ]);
    }

    /// <summary>Whether full stops tell where sentences end; a recogniser may give none.</summary>
    public bool HasStops { get; }

    /// <summary>All words, in order.</summary>
    public IReadOnlyList<TalkWord> Words { get; }

    /// <summary>The places of each voice's words, in order; voices in the order in which they are first heard.</summary>
    public IReadOnlyList<int[]> Voices { get; }

    /// <summary>What is said in one go, by the places of the first words.</summary>
    public IReadOnlyList<Phrase> Phrases { get; }

    /// <summary>From the end of one word to the start of another; negative where they overlap.</summary>
    public MediaTime Between(int before, int after) => Words[after].In - Words[before].Out;

    private IEnumerable<Phrase> PhrasesOf(int[] places)
    {
        var from = 0;
        for (var i = 1; i <= places.Length; i++)
        {
            if (i < places.Length && !Ends(places[i - 1], places[i]))
            {
                continue;
            }
            foreach (var phrase in Parted(places.AsMemory(from, i - from)))
            {
                yield return phrase;
            }
            from = i;
        }
    }

    /// <summary>
    /// Whether a capital tells that a sentence begins, in a text that has no stops: of a word that is written small elsewhere, or
    /// common, or that stands behind a breath.
    /// </summary>
    public bool Begins(int place) =>
        !HasStops
        && small.Count > 0
        && Words[place].HasCapital
        && (
            small.Contains(Words[place].Key)
            || CommonWords.Has(Words[place].Key)
            || (place > 0 && Between(place - 1, place) >= Pieces.Catch)
        );

    private bool Ends(int before, int after) =>
        Begins(after)
        || Words[before].EndsSentence
        || Words[before].BreaksOff
        || Between(before, after) >= (HasStops ? Pause : PauseForStop)
        || after - before > ThrownIn;

    // Talk without stops and pauses has no phrases of its own: it is parted where it comes nearest to one.
    private IEnumerable<Phrase> Parted(ReadOnlyMemory<int> places)
    {
        var open = new Stack<ReadOnlyMemory<int>>([places]);
        while (open.TryPop(out var part))
        {
            if (part.Length <= Longest)
            {
                yield return new Phrase(part);
                continue;
            }
            var words = part.ToArray();
            var at = Enumerable.Range(Longest / 4, words.Length - (Longest / 2)).MaxBy(i => (Between(words[i - 1], words[i]), -i));
            open.Push(part[at..]);
            open.Push(part[..at]);
        }
    }
}

/// <summary>What one voice says in one go: the places of its words, at least one.</summary>
public readonly record struct Phrase(ReadOnlyMemory<int> Places)
{
    /// <summary>The place of its first word.</summary>
    public int First => Places.Span[0];

    /// <summary>The place of its last word.</summary>
    public int Last => Places.Span[^1];
}
