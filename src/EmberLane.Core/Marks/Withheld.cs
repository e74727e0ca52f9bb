using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>Which stretches of a sitting are not sent to who comes by a link: those that somebody put off the record.</summary>
public static class Withheld
{
    /// <summary>
    /// So far a stretch reaches beyond its words (250 ms) where nobody else speaks: a recogniser's times begin late and end early.
    /// </summary>
    public static readonly MediaTime Reach = MediaTime.FromMilliseconds(250);

    /// <summary>
    /// Those of a text, in order and apart, each to the words beside it but no further than <see cref="Reach"/>. Linear in what is off the
    /// record and what it lies over.
    /// </summary>
    public static IReadOnlyList<SittingRange> Of(Transcript text) =>
        AsideStretches.Union([.. HeldWords.Of(text).Select(h => Wide(h, text))]);

    private static SittingRange Wide(HeldWords held, Transcript text)
    {
        var (from, to) = (held.Range.In - Reach, held.Range.Out + Reach);
        if (MarkPlace.Of(held.Mark, text) is var (first, last))
        {
            if (first > TextPlace.First && text.At(first - 1).Range.Out is var before && before > from)
            {
                from = Earlier(before, held.Range.In);
            }
            if (last < text.Last && text.At(last + 1).Range.In is var behind && behind < to)
            {
                to = Later(behind, held.Range.Out);
            }
        }
        return new SittingRange(from, to);
    }

    private static SittingTime Earlier(SittingTime one, SittingTime other) => one < other ? one : other;

    private static SittingTime Later(SittingTime one, SittingTime other) => one > other ? one : other;
}
