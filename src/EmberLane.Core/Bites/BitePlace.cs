using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Bites;

/// <summary>Which words of which text a bite is, by number and both included, and its exact range on the sitting's clock.</summary>
public sealed record BitePlace(long Text, WordNumber First, WordNumber Last, SittingRange Range)
{
    /// <summary>A bite's.</summary>
    public static BitePlace Of(Bite bite) => new(bite.TranscriptId, bite.FirstWord, bite.LastWord, bite.Range);
}
