namespace EmberLane.Core.Captions;

/// <summary>
/// A caption that somebody made their own: which words it is of, what was said in them then, and its text where it was typed (line ends are
/// kept; null: as it is said). How much later than its first word it begins, and than its last it ends; null: as captions are made.
/// </summary>
public sealed record FixedCaption(IReadOnlyList<CaptionPlace> Places, string Words, string? Text, MediaTime? In, MediaTime? Out);
