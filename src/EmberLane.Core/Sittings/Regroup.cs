using EmberLane.Core.Sync;

namespace EmberLane.Core.Sittings;

/// <summary>A source as grouping sees it: which it is, how it lies on its sitting's clock, and whether it has picture and sound.</summary>
public sealed record Grouped(long Id, Placement Placement, bool HasPicture, bool HasSound);

/// <summary>What becomes of places when files come together, leave or part.</summary>
public static class Regroup
{
    /// <summary>
    /// The source whose clock a sitting goes by: the first with sound and no picture, else the first with sound, else the first. Null for
    /// an empty sitting.
    /// </summary>
    public static Grouped? ReferenceOf(IReadOnlyList<Grouped> sources) =>
        sources.FirstOrDefault(s => s is { HasPicture: false, HasSound: true })
        ?? sources.FirstOrDefault(s => s.HasSound)
        ?? (sources.Count > 0 ? sources[0] : null);

    /// <summary>
    /// The sources of a sitting after it changed, all still placed on one clock or nowhere. When <paramref name="reference"/> is among them
    /// nothing moves; else a new one is chosen and the others are put on its clock, or nowhere when it lay nowhere itself. Returns the
    /// reference too.
    /// </summary>
    public static (IReadOnlyList<Grouped> Sources, long? Reference) Settle(IReadOnlyList<Grouped> sources, long? reference)
    {
        if (ReferenceOf(sources) is not { } chosen)
        {
            return ([], null);
        }
        if (sources.Any(s => s.Id == reference))
        {
            return (sources, reference);
        }
        return (
            [
                .. sources.Select(s =>
                    s with
                    {
                        Placement =
                            s.Id == chosen.Id ? Placement.Reference
                            : chosen.Placement.Place is not { } zero || s.Placement.Place is not { } place ? Placement.Nowhere()
                            : (
                                s.Placement.Basis == PlaceBasis.Reference
                                    ? chosen.Placement with
                                    {
                                        ByHand = s.Placement.ByHand,
                                    }
                                    : s.Placement
                            ) with
                            {
                                Place = place.On(zero),
                            },
                    }
                ),
            ],
            chosen.Id
        );
    }
}
