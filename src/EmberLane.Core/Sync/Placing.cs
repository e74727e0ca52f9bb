using EmberLane.Core.Edits;

namespace EmberLane.Core.Sync;

/// <summary>How a source is placed on its sitting's clock: where (null: nowhere), by which evidence, and whether a person set or accepted it; then sync leaves it alone.</summary>
public sealed record Placement(ClockMap? Place, string Evidence, bool ByHand);

/// <summary>A person's change of one source's placement.</summary>
public sealed record PlaceSource(long Source, Placement To) : IEdit<Placement, PlaceSource>
{
    public (Placement State, PlaceSource Inverse) Apply(Placement state) => (To, new PlaceSource(Source, state));

    public static IEnumerable<string> Touches(PlaceSource edit, PlaceSource inverse) => [FormattableString.Invariant($"place {edit.Source}")];

    /// <summary>Offsets beyond this are refused: a sitting is one continuous occasion.</summary>
    public static MediaTime Farthest { get; } = MediaTime.FromMilliseconds(48L * 3_600_000);

    /// <summary>
    /// The placement with its start moved; drift stays. Throws <see cref="EditRefusedException"/> when that is more than 48 hours from the sitting's zero.
    /// </summary>
    public static Placement Moved(Placement before, SittingTime start)
    {
        if (start.FromZero > Farthest || start.FromZero < -Farthest)
        {
            throw new EditRefusedException("That is more than 48 hours from the sitting's start. Give the offset in seconds, for example 12.480 or −3.2.");
        }
        return new Placement(new ClockMap(start, before.Place?.DriftPerBillion ?? 0), "set by hand", true);
    }

    /// <summary>A sitting is one occasion: between a source and the others lie at most six hours of nothing, a long break.</summary>
    private static readonly MediaTime LongestBreak = MediaTime.FromMilliseconds(6L * 3_600_000);

    /// <summary>
    /// The placement, when a source of this length there lies beside the sitting's <paramref name="others"/> (null: there are none placed). Throws <see cref="EditRefusedException"/> when more than six hours would lie between
    /// them: all of that would be sound and picture of nothing.
    /// </summary>
    public static Placement Believable(Placement placement, MediaTime length, SittingRange? others) =>
        placement.Place is { } place && others is { } there && place.Fill(length) is var fill && (fill.In - there.Out > LongestBreak || there.In - fill.Out > LongestBreak)
            ? throw new EditRefusedException("That lies more than six hours from everything else of the sitting. Give the offset in seconds, for example 12.480 or −3.2; if it was another occasion, make it a sitting of its own.")
            : placement;

    /// <summary>The placement as it is, accepted by a person.</summary>
    public static Placement Accepted(Placement before) => before.Place is null
        ? throw new EditRefusedException("There is no place to accept yet. Set the offset first.")
        : before with { Evidence = before.ByHand ? before.Evidence : "accepted · " + before.Evidence, ByHand = true };
}
