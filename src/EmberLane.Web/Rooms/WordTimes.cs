using System.Globalization;
using System.Text;
using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Rooms;

/// <summary>The words of a turn as the page needs them: one text, and beside it a compact list of times.</summary>
public static class WordTimes
{
    /// <summary>
    /// A field for each word, separated by blanks: milliseconds from the word before's start (from zero for the first), its length in milliseconds, and its letters in the text, with <c>?</c> behind when doubtful
    /// <c>-</c> when it was taken out of the text, where a dot stands for it, <c>+</c> when it is one word with the one before, and <c>#</c> with its number when that is not one more than the number before.
    /// </summary>
    public static (string Text, string Times) Of(Transcript transcript, Turn turn)
    {
        var text = new StringBuilder();
        var times = new StringBuilder();
        long before = 0;
        var follows = transcript.Words[turn.First].Number;
        for (var i = turn.First; i <= turn.Last; i++)
        {
            var word = transcript.Words[i];
            var said = transcript.IsHidden(word) ? "·" : transcript.TextOf(word);
            long start = word.Range.In.FromZero.ToMillisecondsRounded(), length = word.Range.Length.ToMillisecondsRounded();
            var joined = i > turn.First && !transcript.IsHidden(word) && transcript.IsJoined(word);
            text.Append(i > turn.First && !joined ? " " : "").Append(said);
            times.Append(CultureInfo.InvariantCulture, $"{(i > turn.First ? " " : "")}{start - before},{length},{said.Length}{(transcript.IsDoubtful(word) ? "?" : transcript.IsHidden(word) ? "-" : "")}{(joined ? "+" : "")}");
            if (word.Number != follows)
            {
                times.Append(CultureInfo.InvariantCulture, $"#{word.Number}");
            }
            follows = word.Number + 1;
            before = start;
        }
        return (text.ToString(), times.ToString());
    }
}
