namespace EmberLane.Core.Captions;

/// <summary>
/// Words that are one caption because somebody wanted it, by their numbers: its lines where they were typed, and when it begins and ends
/// where that was said.
/// </summary>
public sealed record SetCaption(int First, int End, IReadOnlyList<CaptionLine>? Lines, MediaTime? In, MediaTime? Out);
