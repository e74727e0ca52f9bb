using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>Where a mark lies in a text, as places among its words.</summary>
public static class MarkPlace
{
    /// <summary>
    /// In the text that it was laid on: by the numbers of its words; words that were added to its last word's time since belong to it, but
    /// for a flag. Where a word of its ends is not read any more, by its time. Null when it has no words.
    /// </summary>
    public static (TextPlace First, TextPlace Last)? Of(Mark mark, Transcript own)
    {
        if (own.PlaceOf(mark.First) is not { } first || own.PlaceOf(mark.Last) is not { } last || last < first)
        {
            return mark.IsOfTime ? Around(own, mark.Range)
                : !mark.StandsBefore ? In(own, mark.Range)
                : At(own, mark.Range.In) is { } place ? (place, place)
                : null;
        }
        while (
            !mark.StandsBefore
            && !mark.IsOfTime
            && last < own.Last
            && own.At(last + 1) is var next
            && next.Number.Value >= own.Record.Count
            && mark.Range.Holds(next.Middle)
        )
        {
            last++;
        }
        return (first, last);
    }

    /// <summary>In another text of the sitting, by its time.</summary>
    public static (TextPlace First, TextPlace Last)? Of(Mark mark, Transcript text, bool isOwn) =>
        isOwn ? Of(mark, text)
        : mark.IsOfTime ? Around(text, mark.Range)
        : In(text, mark.Range);

    /// <summary>
    /// The places of the words before and behind a stretch of time: the last that has begun, and the one after it; one word twice where
    /// there is none before or behind it. Null in a text without words.
    /// </summary>
    public static (TextPlace First, TextPlace Last)? Around(Transcript text, SittingRange stretch)
    {
        if (text.Words.Count == 0)
        {
            return null;
        }
        var middle = stretch.In + new MediaTime(stretch.Length.Units / 2);
        var (low, high) = (0, text.Words.Count);
        while (low < high)
        {
            var half = (low + high) / 2;
            (low, high) = text.Words[half].Range.In <= middle ? (half + 1, high) : (low, half);
        }
        var behind = new TextPlace(low);
        return (behind == TextPlace.First ? behind : behind - 1, behind > text.Last ? text.Last : behind);
    }

    /// <summary>
    /// The places of the first and last word whose middles lie in the stretch; null when there are none. Words are in order of their
    /// starts.
    /// </summary>
    public static (TextPlace First, TextPlace Last)? In(Transcript text, SittingRange stretch)
    {
        var inside = text.Words.Index().Where(w => stretch.Holds(w.Item.Middle)).Select(w => new TextPlace(w.Index)).ToList();
        return inside.Count == 0 ? null : (inside[0], inside[^1]);
    }

    /// <summary>
    /// The place of the word that is said at a moment, or the next one after it, or the last of all; null in a text without words.
    /// </summary>
    public static TextPlace? At(Transcript text, SittingTime moment)
    {
        for (var i = 0; i < text.Words.Count; i++)
        {
            if (text.Words[i].Range.Out > moment)
            {
                return new TextPlace(i);
            }
        }
        return text.Words.Count == 0 ? null : text.Last;
    }
}
