namespace EmberLane.Core.Handoff;

/// <summary>Which tracks a timeline has beside what is seen and heard; none of them unless it is said.</summary>
/// <param name="Angles">All angles of each card, switched off.</param>
/// <param name="Alternates">The bites beside each card, whole, switched off.</param>
/// <param name="OversApart">Pictures over cards lie on a track above the cut, which then shows the cards' own angles.</param>
public sealed record WantedTracks(bool Angles = false, bool Alternates = false, bool OversApart = false);
