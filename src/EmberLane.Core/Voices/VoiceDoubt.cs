using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// How many voices there are can not be told for sure: perhaps so many instead of those found. To hear: turns that are one person's, and
/// turns of somebody who may be the same person or another, in steps, each in order.
/// </summary>
public sealed record VoiceDoubt(int Perhaps, IReadOnlyList<StepRange> One, IReadOnlyList<StepRange> Other)
{
    /// <summary>The same with other steps: of a sound that begins so many later or earlier.</summary>
    public VoiceDoubt Moved(int steps) =>
        this with
        {
            One = [.. One.Select(r => new StepRange(r.First + steps, r.End + steps))],
            Other = [.. Other.Select(r => new StepRange(r.First + steps, r.End + steps))],
        };
}
