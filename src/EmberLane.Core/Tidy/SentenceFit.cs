namespace EmberLane.Core.Tidy;

/// <summary>Widens words to the whole sentences that they are of; in a text without stops to the phrases.</summary>
public static class SentenceFit
{
    /// <summary>A sentence that goes on for so many words to one side is left there.</summary>
    private const int Longest = 60;

    /// <summary>
    /// From where the sentence of the first word begins to where that of the last one ends, by their places in the talk, within what the
    /// same voice says. Linear in the talk.
    /// </summary>
    public static (int First, int Last) Of(Talk talk, int first, int last)
    {
        if (!talk.HasStops)
        {
            return (PhraseOf(talk, first).First, PhraseOf(talk, last).Last);
        }
        for (var n = 0; n < Longest && first > 0 && !IsBetween(talk, first - 1); n++)
        {
            first--;
        }
        for (var n = 0; n < Longest && last + 1 < talk.Words.Count && !IsBetween(talk, last); n++)
        {
            last++;
        }
        return (first, last);
    }

    // Whether a sentence ends with the word at a place.
    private static bool IsBetween(Talk talk, int place) =>
        talk.Words[place].EndsSentence || talk.Words[place].Voice != talk.Words[place + 1].Voice;

    private static Phrase PhraseOf(Talk talk, int place) => talk.Phrases.First(p => p.Places.Span.Contains(place));
}
