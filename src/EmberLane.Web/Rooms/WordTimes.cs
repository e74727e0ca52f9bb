using System.Globalization;
using System.Text;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Rooms;

/// <summary>
/// What a turn shows, in order: words, and the marks between them. The texts of its words, one after another, are the text of the turn.
/// </summary>
public abstract record SpeechPiece
{
    /// <summary>Words with a blank between them and, where others follow, behind the last.</summary>
    public sealed record Words(string Text) : SpeechPiece;

    /// <summary>
    /// Words that were set aside, by which kind of mark: how many, how long they last, and their text, which folds to a mark.
    /// </summary>
    public sealed record Aside(MarkKind Kind, int Count, MediaTime Length, string Text) : SpeechPiece;

    /// <summary>Nobody says anything for so long.</summary>
    public sealed record Pause(MediaTime Length) : SpeechPiece;

    /// <summary>A pause of which something is set aside by a mark: how long it is, and what is left of it.</summary>
    public sealed record Cut(long Mark, MediaTime Whole, MediaTime Left) : SpeechPiece;

    /// <summary>A flag before the word with this number.</summary>
    public sealed record Flagged(WordNumber Word, Mark Flag) : SpeechPiece;
}

/// <summary>The words of a turn as the page needs them: their text in pieces, and beside it a compact list of times.</summary>
public static class WordTimes
{
    /// <summary>
    /// A field for each word, separated by blanks: milliseconds from the word before's start (from zero for the first), its length in
    /// milliseconds, and its letters in the text, with <c>?</c> behind when doubtful, <c>-</c> when it was taken out of the text, where a
    /// dot stands for it, <c>~</c> when it is set aside, <c>+</c> when it is one word with the one before, and <c>#</c> with its number
    /// when that is not one more than the number before.
    /// </summary>
    public static (IReadOnlyList<SpeechPiece> Pieces, string Times) Of(Transcript transcript, Turn turn)
    {
        var pieces = new List<SpeechPiece>();
        var text = new StringBuilder();
        var times = new StringBuilder();
        long before = 0;
        var follows = transcript.At(turn.First).Number;
        (TextPlace Place, MarkKind Kind)? asideFrom = null;
        for (var i = turn.First; i <= turn.Last; i++)
        {
            var word = transcript.At(i);
            var aside = transcript.AsideBy(word);
            var said = transcript.IsHidden(word) ? "·" : transcript.TextOf(word);
            long start = word.Range.In.FromZero.ToMillisecondsRounded(),
                length = word.Range.Length.ToMillisecondsRounded();
            var joined = i > turn.First && !transcript.IsHidden(word) && transcript.IsJoined(word);
            text.Append(i > turn.First && !joined ? " " : "");
            if (aside != asideFrom?.Kind)
            {
                Close(i - 1);
                asideFrom = aside is null ? null : (i, aside);
            }
            Marks(i, word);
            text.Append(said);
            times.Append(
                CultureInfo.InvariantCulture,
                $"{(i > turn.First ? " " : "")}{start - before},{length},{said.Length}"
                    + $"{(transcript.IsDoubtful(word) ? "?" : transcript.IsHidden(word) ? "-" : "")}"
                    + $"{(aside is null ? "" : "~")}{(joined ? "+" : "")}"
            );
            if (word.Number != follows)
            {
                times.Append(CultureInfo.InvariantCulture, $"#{word.Number}");
            }
            follows = word.Number.Next;
            before = start;
        }
        Close(turn.Last);
        return (pieces, times.ToString());

        void Close(TextPlace last)
        {
            if (text.Length > 0)
            {
                pieces.Add(
                    asideFrom is var (from, kind)
                        ? new SpeechPiece.Aside(
                            kind,
                            TextPlace.Count(from, last),
                            transcript.At(last).Range.Out - transcript.At(from).Range.In,
                            text.ToString()
                        )
                        : new SpeechPiece.Words(text.ToString())
                );
                text.Clear();
            }
        }

        // A pause and a flag before a word; within what is set aside a pause is not shown, and a flag stands before it.
        void Marks(TextPlace place, RecordWord word)
        {
            var within = asideFrom is var (from, _) && place > from;
            var cuts = within ? [] : transcript.CutsBefore(word).ToList();
            foreach (var cut in cuts)
            {
                Close(place - 1);
                var whole = place > TextPlace.First ? word.Range.In - transcript.At(place - 1).Range.Out : cut.Range.Length;
                pieces.Add(
                    new SpeechPiece.Cut(
                        cut.Id,
                        MediaTime.Max(whole, cut.Range.Length),
                        MediaTime.Max(MediaTime.Zero, whole - cut.Range.Length)
                    )
                );
            }
            if (
                !within
                && cuts.Count == 0
                && place > TextPlace.First
                && word.Range.In - transcript.At(place - 1).Range.Out is var pause
                && PauseLengths.IsShown(pause)
            )
            {
                Close(place - 1);
                pieces.Add(new SpeechPiece.Pause(pause));
            }
            foreach (var flag in transcript.FlagsBefore(word))
            {
                if (!within)
                {
                    Close(place - 1);
                }
                pieces.Add(new SpeechPiece.Flagged(word.Number, flag));
            }
        }
    }
}
