using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Widens words to the whole sentences that they are of.</summary>
public static class SentenceFit
{
    /// <summary>A sentence that goes on for so many words to one side is left there.</summary>
    private const int Longest = 60;

    /// <summary>
    /// From behind the stop before the first of the words to the stop behind the last, within what the same voice says. Words taken out of
    /// the text count for nothing. Linear in what it gives.
    /// </summary>
    public static (TextPlace First, TextPlace Last) Of(Transcript text, TextPlace first, TextPlace last)
    {
        var voice = text.VoiceOf(text.At(first));
        for (var n = 0; n < Longest && text.Has(first - 1); n++)
        {
            var before = text.At(first - 1);
            if (text.VoiceOf(before) != voice || (!text.IsHidden(before) && Ends(text.TextOf(before))))
            {
                break;
            }
            first -= 1;
        }
        voice = text.VoiceOf(text.At(last));
        for (var n = 0; n < Longest && text.Has(last + 1) && !Ends(text.TextOf(text.At(last))); n++)
        {
            if (text.VoiceOf(text.At(last + 1)) != voice)
            {
                break;
            }
            last += 1;
        }
        return (first, last);
    }

    private static bool Ends(string word) => word.TrimEnd('"', '”', '’', '\'', ')', '»') is [.., '.' or '?' or '!' or '…' or '。' or '؟'];
}
