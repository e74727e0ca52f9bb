using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Mends;

/// <summary>
/// Proposes capitals, stops and question marks where a recogniser gives none: a sentence ends where the voice changes, at a long pause, and
/// at a short one before a word that sentences open with; it asks when it opens with a word that asks.
/// </summary>
public static class SentenceMends
{
    /// <summary>Silence from 200 ms on is a pause; what is shorter may be the closure of a consonant.</summary>
    private static readonly MediaTime LongPause = MediaTime.FromMilliseconds(650),
        ShortPause = MediaTime.FromMilliseconds(200);

    private static readonly HashSet<string> Opening = new(StringComparer.OrdinalIgnoreCase)
    {
        "i",
        "he",
        "she",
        "it",
        "we",
        "they",
        "you",
        "that",
        "this",
        "these",
        "there",
        "here",
        "and",
        "but",
        "so",
        "then",
        "now",
        "well",
        "yes",
        "no",
        "my",
        "our",
        "his",
        "her",
        "their",
        "when",
        "if",
        "let",
        "maybe",
        "because",
        "i'm",
        "i've",
        "i'd",
        "i'll",
        "he's",
        "she's",
        "it's",
        "we're",
        "we've",
        "they're",
        "that's",
        "there's",
        "you're",
        "who",
        "what",
        "where",
        "why",
        "how",
        "did",
        "do",
        "does",
        "is",
        "are",
        "was",
        "were",
        "can",
        "could",
        "would",
    };

    private static readonly HashSet<string> Asking = new(StringComparer.OrdinalIgnoreCase)
    {
        "who",
        "what",
        "when",
        "where",
        "why",
        "how",
        "which",
        "whose",
        "is",
        "are",
        "was",
        "were",
        "do",
        "does",
        "did",
        "can",
        "could",
        "will",
        "would",
        "should",
        "have",
        "has",
        "had",
    };

    private static readonly HashSet<string> Hanging = new(StringComparer.OrdinalIgnoreCase)
    {
        "and",
        "but",
        "or",
        "the",
        "a",
        "an",
        "of",
        "to",
        "in",
        "um",
        "uh",
        "so",
        "because",
        "that",
        "with",
        "i",
        "my",
        "we",
        "if",
        "when",
        "which",
        "who",
        "what",
        "where",
        "how",
        "for",
        "from",
        "at",
        "on",
        "by",
        "is",
        "was",
        "were",
        "are",
        "said",
        "think",
        "know",
        "than",
        "as",
        "not",
        "did",
        "do",
        "does",
        "can",
        "could",
        "would",
        "will",
        "then",
    };

    /// <summary>A text whose words end in stops at least this often (per mille) is punctuated already; then nothing is proposed.</summary>
    private const int Punctuated = 25;

    private const int ShortestQuestion = 3;

    /// <summary>At most one proposal a word, in order. Linear in the words.</summary>
    public static IReadOnlyList<SuggestedCorrection> Propose(Transcript transcript)
    {
        var words = transcript.Words.Where(w => !transcript.IsHidden(w)).ToList();
        if (words.Count == 0 || words.Count(w => Ends(transcript.TextOf(w))) * 1000 >= Punctuated * words.Count)
        {
            return [];
        }
        var mends = new List<SuggestedCorrection>();
        for (var first = 0; first < words.Count;)
        {
            var last = first;
            while (last + 1 < words.Count && !EndsAfter(transcript, words, last))
            {
                last++;
            }
            Sentence(transcript, words, first, last, mends);
            first = last + 1;
        }
        return mends;
    }

    // A pause after “and” or “the” is somebody thinking, not the end.
    private static bool EndsAfter(Transcript transcript, List<RecordWord> words, int i)
    {
        if (transcript.VoiceOf(words[i]) != transcript.VoiceOf(words[i + 1]))
        {
            return true;
        }
        var pause = words[i + 1].Range.In - words[i].Range.Out;
        // An opening word that says nothing more is a false start, which belongs to what was said before.
        var opens =
            Opening.Contains(transcript.TextOf(words[i + 1]))
            && i + 2 < words.Count
            && transcript.VoiceOf(words[i + 2]) == transcript.VoiceOf(words[i + 1]);
        return !Hanging.Contains(transcript.TextOf(words[i])) && (pause >= LongPause || (pause >= ShortPause && opens));
    }

    private static void Sentence(Transcript transcript, List<RecordWord> words, int first, int last, List<SuggestedCorrection> mends)
    {
        var asks = last - first + 1 >= ShortestQuestion && Asking.Contains(transcript.TextOf(words[first]));
        for (var i = first; i <= last; i++)
        {
            var now = transcript.TextOf(words[i]);
            var then = i == first ? Capital(now) : now;
            var stop =
                i == last && char.IsLetterOrDigit(then[^1])
                    ? asks
                        ? "?"
                        : "."
                    : "";
            if (then + stop != now)
            {
                var why = (then != now, stop) switch
                {
                    (true, "") => "a sentence begins",
                    (false, "?") => "a question ends",
                    (false, _) => "a sentence ends",
                    _ => "a sentence of one word",
                };
                var place = transcript.PlaceOf(words[i].Number)!.Value;
                mends.Add(new SuggestedCorrection(place, place, (words[i].Number, words[i].Number), then + stop, why, true));
            }
        }
    }

    private static bool Ends(string word) => word.Length > 0 && word[^1] is '.' or '?' or '!' or '…';

    private static string Capital(string word) => char.IsLower(word[0]) ? char.ToUpperInvariant(word[0]) + word[1..] : word;
}
