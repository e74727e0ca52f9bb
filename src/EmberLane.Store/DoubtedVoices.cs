namespace EmberLane.Store;

/// <summary>
/// The number of voices of a text is not sure: it may be so many instead. Turns of one person, and turns of somebody who may be the same
/// one or another, on the sitting's clock.
/// </summary>
public sealed record DoubtedVoices(int Perhaps, IReadOnlyList<SittingRange> One, IReadOnlyList<SittingRange> Other);
