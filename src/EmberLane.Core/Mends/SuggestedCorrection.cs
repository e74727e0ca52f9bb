using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Mends;

/// <summary>
/// A change that is proposed: the words at the places from first to last, both included, are to read <see cref="By"/>, and why. The numbers
/// are those of the first and last word. <see cref="IsLikely"/> ones may be taken without a look at each.
/// </summary>
public sealed record SuggestedCorrection(
    TextPlace First,
    TextPlace Last,
    (WordNumber First, WordNumber Last) Numbers,
    string By,
    string Why,
    bool IsLikely
)
{
    /// <summary>What it is known by while nobody changes these words.</summary>
    public string Key => FormattableString.Invariant($"{Numbers.First}-{Numbers.Last}-{By}");
}
