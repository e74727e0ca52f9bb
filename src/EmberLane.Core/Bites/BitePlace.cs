using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Where a bite lies in a text of its sitting, as places among its words. A bite that was marked on another text keeps its time, and so finds its words in every text.</summary>
public static class BitePlace
{
    /// <summary>The places of the first and last word whose middles lie in the stretch; null when there are none. Words are in order of their starts.</summary>
    public static (int First, int Last)? In(Transcript transcript, SittingRange stretch)
    {
        var inside = transcript.Words.Index().Where(w => stretch.Holds(Middle(w.Item))).Select(w => w.Index).ToList();
        return inside.Count == 0 ? null : (inside[0], inside[^1]);
    }

    /// <summary>The bite's words in this text, which is the one with <paramref name="transcriptId"/>. Words that were added to its last word's time since belong to it.</summary>
    public static (int First, int Last)? Of(Bite bite, Transcript transcript, long transcriptId)
    {
        if (bite.TranscriptId != transcriptId || transcript.PlaceOf(bite.FirstWord) is not { } first || transcript.PlaceOf(bite.LastWord) is not { } last)
        {
            return In(transcript, bite.Range);
        }
        while (last + 1 < transcript.Words.Count && transcript.Words[last + 1] is var next && next.Number >= transcript.Record.Count && bite.Range.Holds(Middle(next)))
        {
            last++;
        }
        return (first, last);
    }

    private static SittingTime Middle(RecordWord word) => word.Range.In + new MediaTime(word.Range.Length.Units / 2);
}
