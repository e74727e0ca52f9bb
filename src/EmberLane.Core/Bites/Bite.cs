namespace EmberLane.Core.Bites;

/// <summary>
/// A marked stretch worth keeping: words <see cref="FirstWord"/> to <see cref="LastWord"/> of a transcript, by number, both included, and where they lie on the sitting's clock.
/// A bite set aside stays in the production and can be brought back.
/// </summary>
public sealed record Bite(long Id, long SittingId, long TranscriptId, int FirstWord, int LastWord, SittingRange Range, string Theme, string Note, string Owner, bool IsAside);
