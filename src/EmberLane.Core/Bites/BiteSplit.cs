using EmberLane.Core.Edits;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Two bites in place of one.</summary>
public static class BiteSplit
{
    /// <summary>
    /// The places of the words before one, and of those from it on; the outer ends stay where they are. Throws
    /// <see cref="EditRefusedException"/> where the word is the bite's first, or none of its words.
    /// </summary>
    public static (BitePlace Before, BitePlace Behind) At(Bite bite, long textId, Transcript text, WordNumber at)
    {
        if (
            MarkPlace.Of(bite.Mark, text, bite.TranscriptId == textId) is not var (first, last)
            || text.PlaceOf(at) is not { } place
            || place <= first
            || place > last
        )
        {
            throw new EditRefusedException("Choose a word behind the first one of the bite: the second bite begins with it.");
        }
        var (ends, begins) = (text.At(place - 1), text.At(place));
        return (
            new BitePlace(textId, text.At(first).Number, ends.Number, new SittingRange(bite.Range.In, ends.Range.Out)),
            new BitePlace(textId, begins.Number, text.At(last).Number, new SittingRange(begins.Range.In, bite.Range.Out))
        );
    }
}
