namespace EmberLane.Core.Tidy;

/// <summary>
/// Finds hesitations in the words: sounds that fill a pause, phrases that say nothing where they stand, what is said twice, broken-off
/// words and sentences that are given up. Each word is in one of them at most, the first of these kinds that fits.
/// </summary>
public static class Hesitations
{
    /// <summary>At most so many words are said twice by mistake; a longer begin that comes again is another attempt.</summary>
    private const int LongestTwice = 3;

    /// <summary>A sentence is given up after so many words at most.</summary>
    private const int LongestFalseStart = 5;

    /// <summary>In order of their first words. Linear in the words.</summary>
    public static IReadOnlyList<Hesitation> Of(Talk talk, HesitationWords words)
    {
        var taken = new HashSet<int>();
        var found = new List<Hesitation>();
        foreach (var voice in talk.Voices)
        {
            int[] places = [.. voice.Where(p => talk.Words[p].Key.Length > 0 || talk.Words[p].BreaksOff)];
            IEnumerable<Hesitation>[] kinds =
            [
                Filled(talk, places),
                Phrases(talk, places, words),
                words.IsEnglish ? EnglishPhrases.Of(talk, places) : [],
                Broken(talk, places),
                Twice(talk, places),
                FalseStarts(talk, places),
            ];
            foreach (var one in kinds.SelectMany(k => k))
            {
                int[] own =
                [
                    .. Enumerable.Range(one.First, one.Last - one.First + 1).Where(p => talk.Words[p].Voice == talk.Words[one.First].Voice),
                ];
                if (!own.Any(taken.Contains))
                {
                    taken.UnionWith(own);
                    found.Add(one);
                }
            }
        }
        return [.. found.OrderBy(h => h.First)];
    }

    // “Mm.” is an answer where it is all that somebody says.
    private static IEnumerable<Hesitation> Filled(Talk talk, int[] places)
    {
        for (var i = 0; i < places.Length; i++)
        {
            if (FilledPause.Is(talk.Words[places[i]].Key) && !IsAlone(i))
            {
                yield return new Hesitation(HesitationKind.Filled, places[i], places[i]);
            }
        }

        bool IsAlone(int i) =>
            (i == 0 || places[i - 1] < places[i] - 1 || talk.Words[places[i - 1]].EndsSentence)
            && (i == places.Length - 1 || places[i + 1] > places[i] + 1);
    }

    private static IEnumerable<Hesitation> Phrases(Talk talk, int[] places, HesitationWords words)
    {
        for (var i = 0; i < places.Length; i++)
        {
            if (
                words
                    .Phrases.Where(p => i + p.Length <= places.Length && p.Select((w, k) => talk.Words[places[i + k]].Key == w).All(t => t))
                    .MaxBy(p => p.Length) is
                { } phrase
            )
            {
                yield return new Hesitation(HesitationKind.Phrase, places[i], places[i + phrase.Length - 1]);
            }
        }
    }

    // “wh- what”, or without the dash a bit of the next word that is no word by itself.
    private static IEnumerable<Hesitation> Broken(Talk talk, int[] places)
    {
        const int longest = 4;
        for (var i = 0; i < places.Length; i++)
        {
            var word = talk.Words[places[i]];
            var next = i + 1 < places.Length ? talk.Words[places[i + 1]].Key : "";
            var bit =
                word.Key.Length is > 0 and <= longest
                && next.Length > word.Key.Length + 1
                && next.StartsWith(word.Key, StringComparison.Ordinal)
                && !CommonWords.Has(word.Key)
                && !word.HasComma
                && !word.EndsSentence;
            if (word.Text.TrimEnd().EndsWith('-') && word.Key.Length > 0 || (bit && !word.Key.Any(char.IsDigit) && !HasVowel(word.Key)))
            {
                yield return new Hesitation(HesitationKind.Broken, places[i], places[i]);
            }
        }

        static bool HasVowel(string key) => key.Any(c => "aeiouy".Contains(c, StringComparison.Ordinal));
    }

    // “and, and”, “we had we had”: the first time goes. Across a stop, or for its weight (“very very”), it is meant.
    private static IEnumerable<Hesitation> Twice(Talk talk, int[] places)
    {
        // Sounds that fill a pause and broken words may stand in between.
        int[] said = [.. places.Where(p => talk.Words[p] is { Key.Length: > 0, BreaksOff: false } word && !FilledPause.Is(word.Key))];
        for (var i = 0; i < said.Length; i++)
        {
            for (var length = Math.Min(LongestTwice, (said.Length - i) / 2); length > 0; length--)
            {
                if (IsTwice(talk, said.AsSpan(i, 2 * length), length))
                {
                    yield return new Hesitation(HesitationKind.Twice, said[i], said[i + length - 1]);
                    i += length - 1;
                    break;
                }
            }
        }
    }

    private static bool IsTwice(Talk talk, ReadOnlySpan<int> places, int length)
    {
        for (var k = 0; k < length; k++)
        {
            if (
                talk.Words[places[k]].Key != talk.Words[places[length + k]].Key
                || talk.Words[places[k]].EndsSentence
                || talk.Begins(places[length])
            )
            {
                return false;
            }
        }
        var word = talk.Words[places[0]];
        return length > 1 || (!HesitationWords.SaidTwiceOnPurpose.Contains(word.Key) && !word.Key.Any(char.IsDigit));
    }

    // “We went— the boat was late”: a few words with a dash or dots behind them; and “we were we had”.
    private static IEnumerable<Hesitation> FalseStarts(Talk talk, int[] places)
    {
        var first = 0;
        for (var i = 0; i < places.Length; i++)
        {
            var word = talk.Words[places[i]];
            var length = i - first + 1;
            // A dash that stands alone sets apart what is meant: “it was — as I said — late”.
            if (
                word.BreaksOff
                && word.Key.Length > 0
                && i + 1 < places.Length
                && length <= LongestFalseStart
                && places[i + 1] - places[i] <= 1
            )
            {
                yield return new Hesitation(HesitationKind.FalseStart, places[first], places[i]);
            }
            else if (Restarts.IsBegunAgain(talk, places, i))
            {
                yield return new Hesitation(HesitationKind.FalseStart, places[i], places[i + 1]);
            }
            first = word.EndsSentence || word.BreaksOff ? i + 1 : first;
        }
    }
}
