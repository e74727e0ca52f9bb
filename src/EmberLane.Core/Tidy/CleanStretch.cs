using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tidy;

/// <summary>What is left of a stretch of a sitting after tidying, turn by turn, as cards are laid from it.</summary>
public static class CleanStretch
{
    /// <summary>More cards than this are no story.</summary>
    public const int MostCards = 1_000;

    /// <summary>
    /// The turns from one place to another, both included, of which words are in use, each as its first and last such word; of one voice
    /// where that is given. What is set aside within a turn stays in its stretch, and is left out by every card that shows it. Linear in
    /// the words.
    /// </summary>
    public static IReadOnlyList<(TextPlace First, TextPlace Last)> Of(Transcript text, TextPlace first, TextPlace last, int? voice)
    {
        var turns = new List<(TextPlace First, TextPlace Last)>();
        int? speaking = null;
        for (var place = first; place <= last; place++)
        {
            var word = text.At(place);
            if (text.IsHidden(word) || text.IsAside(word))
            {
                continue;
            }
            var by = text.VoiceOf(word);
            if (by == speaking && turns.Count > 0)
            {
                turns[^1] = (turns[^1].First, place);
            }
            else if (voice is null || by == voice)
            {
                turns.Add((place, place));
            }
            speaking = voice is null || by == voice ? by : null;
        }
        return turns;
    }
}
