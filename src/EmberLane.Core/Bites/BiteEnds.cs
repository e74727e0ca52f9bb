using EmberLane.Core.Edits;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>An end of a bite.</summary>
public enum BiteEnd
{
    /// <summary>Where it begins.</summary>
    Begin,

    /// <summary>Where it stops.</summary>
    Stop,
}

/// <summary>
/// Ends of bites moved: by words, to where the word begins or ends; and by ear, by a little time, while the words stay. The other end stays
/// where it is to the last unit.
/// </summary>
public static class BiteEnds
{
    /// <summary>By ear an end goes no further than this from its word.</summary>
    public static readonly MediaTime Furthest = MediaTime.FromMilliseconds(2_000);

    /// <summary>A step by ear; a frame of the fastest cameras is shorter, of all others longer.</summary>
    public static readonly MediaTime Step = MediaTime.FromMilliseconds(20);

    /// <summary>
    /// An end moved by so many words, back where negative, as far as the text and the other end allow. Words that are taken out of the text
    /// are stepped over. Throws <see cref="EditRefusedException"/> where the text has no words of the bite.
    /// </summary>
    public static BitePlace ByWords(Bite bite, long textId, Transcript text, BiteEnd end, int words)
    {
        var (first, last) = PlaceOf(bite, textId, text);
        var at = end == BiteEnd.Begin ? first : last;
        for (var left = Math.Abs(words); left > 0; left--)
        {
            var next = at;
            do
            {
                next += Math.Sign(words);
            } while (IsIn(next) && text.IsHidden(text.At(next)));
            if (!IsIn(next))
            {
                break;
            }
            at = next;
        }
        (first, last) = end == BiteEnd.Begin ? (at, last) : (first, at);
        var range =
            end == BiteEnd.Begin
                ? new SittingRange(text.At(at).Range.In, Later(bite.Range.Out, text.At(at).Range.Out))
                : new SittingRange(Earlier(bite.Range.In, text.At(at).Range.In), text.At(at).Range.Out);
        return new BitePlace(textId, text.At(first).Number, text.At(last).Number, range);

        bool IsIn(TextPlace place) =>
            end == BiteEnd.Begin ? place >= TextPlace.First && place <= last : place >= first && place <= text.Last;
    }

    /// <summary>
    /// An end moved by a little time, back where negative: into its word at most, and away from it at most <see cref="Furthest"/>. Throws
    /// as
    /// <see cref="ByWords"/> does.
    /// </summary>
    public static BitePlace ByEar(Bite bite, long textId, Transcript text, BiteEnd end, MediaTime by)
    {
        var (first, last) = PlaceOf(bite, textId, text);
        SittingRange begins = text.At(first).Range,
            stops = text.At(last).Range;
        var range =
            end == BiteEnd.Begin
                ? new SittingRange(
                    Between(begins.In - Furthest, bite.Range.In + by, Earlier(begins.Out, bite.Range.Out) - Step),
                    bite.Range.Out
                )
                : new SittingRange(
                    bite.Range.In,
                    Between(Later(stops.In, bite.Range.In) + Step, bite.Range.Out + by, stops.Out + Furthest)
                );
        return new BitePlace(textId, text.At(first).Number, text.At(last).Number, range);
    }

    private static readonly SittingTime Zero = new(MediaTime.Zero);

    private static (TextPlace First, TextPlace Last) PlaceOf(Bite bite, long textId, Transcript text) =>
        MarkPlace.Of(bite.Mark, text, bite.TranscriptId == textId)
        ?? throw new EditRefusedException("The text that is read now has no words there. Choose another text, or mark the words anew.");

    private static SittingTime Between(SittingTime least, SittingTime wanted, SittingTime most) =>
        Earlier(Later(Later(least, Zero), wanted), Later(most, Zero));

    private static SittingTime Earlier(SittingTime one, SittingTime other) => one < other ? one : other;

    private static SittingTime Later(SittingTime one, SittingTime other) => one > other ? one : other;
}
