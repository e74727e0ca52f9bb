using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Where a bite lies in a text of its sitting. A bite that was marked on another text keeps its time, and so finds its words in every text.</summary>
public static class BitePlace
{
    /// <summary>The first and last word whose middles lie in the stretch; null when there are none. Words are in order of their starts.</summary>
    public static (int First, int Last)? In(Transcript transcript, SittingRange stretch)
    {
        var inside = transcript.Words.Where(w => w.Range.In + new MediaTime(w.Range.Length.Units / 2) is var middle && middle >= stretch.In && middle < stretch.Out).Select(w => w.Number).ToList();
        return inside.Count == 0 ? null : (inside[0], inside[^1]);
    }

    /// <summary>The bite's words in this text, which is the one with <paramref name="transcriptId"/>.</summary>
    public static (int First, int Last)? Of(Bite bite, Transcript transcript, long transcriptId) => bite.TranscriptId == transcriptId ? (bite.FirstWord, bite.LastWord) : In(transcript, bite.Range);
}
