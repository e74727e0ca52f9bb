using EmberLane.Core.Edits;

namespace EmberLane.Core.Sync;

/// <summary>What a source's place goes by. The numbers are kept in databases.</summary>
public enum PlaceBasis
{
    /// <summary>It has no place.</summary>
    Nothing = 0,

    /// <summary>It is the one whose clock the sitting goes by.</summary>
    Reference = 1,

    /// <summary>The same sound was found in it.</summary>
    Sound = 2,

    /// <summary>Its timecode alone.</summary>
    Timecode = 3,

    /// <summary>It was placed before and was not found this time.</summary>
    LeftAsItWas = 4,

    /// <summary>A person set it.</summary>
    Person = 5,
}

/// <summary>
/// How a source is placed on its sitting's clock: where (null: nowhere), what that goes by, the evidence in words, and whether a person set
/// or accepted it; then sync leaves it alone.
/// </summary>
public sealed record Placement(ClockMap? Place, PlaceBasis Basis, string Evidence, bool ByHand)
{
    /// <summary>Without a place; the evidence says why, where that is known.</summary>
    public static Placement Nowhere(string evidence = "") => new(null, PlaceBasis.Nothing, evidence, false);

    /// <summary>Where the same sound was found.</summary>
    public static Placement BySound(ClockMap place, string evidence) => new(place, PlaceBasis.Sound, evidence, false);

    /// <summary>At the zero of the sitting's clock, which is its own.</summary>
    public static Placement Reference { get; } = new(new ClockMap(default, 0), PlaceBasis.Reference, "reference", false);

    /// <summary>
    /// What sync says of a source that it could not place this time: where it lies is left, and it stays nowhere when it lay nowhere.
    /// </summary>
    public Placement NotFound(string evidence) =>
        Place is null
            ? Nowhere(evidence + "; not placed")
            : this with
            {
                Basis = PlaceBasis.LeftAsItWas,
                Evidence = evidence + "; left where it was",
            };

    /// <summary>
    /// Whether the place is beyond doubt: the reference, the same sound, or set or accepted by a person. Timecode alone is not.
    /// </summary>
    public bool IsSure => Place is not null && (ByHand || Basis is PlaceBasis.Reference or PlaceBasis.Sound);
}

/// <summary>A person's change of one source's placement.</summary>
public sealed record PlaceSource(long Source, Placement To) : IEdit<Placement, PlaceSource>
{
    /// <inheritdoc/>
    public (Placement State, PlaceSource Inverse) Apply(Placement state) => (To, new PlaceSource(Source, state));

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(PlaceSource edit, PlaceSource inverse) =>
        [FormattableString.Invariant($"place {edit.Source}")];

    /// <summary>Offsets beyond this are refused: a sitting is one continuous occasion.</summary>
    public static MediaTime Farthest { get; } = MediaTime.FromMilliseconds(48L * 3_600_000);

    /// <summary>
    /// The placement with its start moved; drift stays. Throws <see cref="EditRefusedException"/> when that is more than 48 hours from the
    /// sitting's zero.
    /// </summary>
    public static Placement Moved(Placement before, SittingTime start)
    {
        if (start.FromZero > Farthest || start.FromZero < -Farthest)
        {
            throw new EditRefusedException(
                "That is more than 48 hours from the sitting's start. Give the offset in seconds, for example 12.480 or −3.2."
            );
        }
        return new Placement(new ClockMap(start, before.Place?.DriftPerBillion ?? 0), PlaceBasis.Person, "set by hand", true);
    }

    /// <summary>A sitting is one occasion: between a source and the others lie at most six hours of nothing, a long break.</summary>
    private static readonly MediaTime LongestBreak = MediaTime.FromMilliseconds(6L * 3_600_000);

    /// <summary>
    /// The placement, when a source of this length there lies beside the sitting's <paramref name="others"/> (null: there are none placed).
    /// Throws <see cref="EditRefusedException"/> when more than six hours would lie between them: all of that would be sound and picture of
    /// nothing.
    /// </summary>
    public static Placement Believable(Placement placement, MediaTime length, SittingRange? others) =>
        placement.Place is { } place
        && others is { } there
        && place.Fill(length) is var fill
        && (fill.In - there.Out > LongestBreak || there.In - fill.Out > LongestBreak)
            ? throw new EditRefusedException(
                "That lies more than six hours from everything else of the sitting. Give the offset in seconds, for example 12.480 or "
                    + "−3.2; if it was another occasion, make it a sitting of its own."
            )
            : placement;

    /// <summary>The placement as it is, accepted by a person.</summary>
    public static Placement Accepted(Placement before) =>
        before.Place is null
            ? throw new EditRefusedException("There is no place to accept yet. Set the offset first.")
            : before with
            {
                Evidence = before.ByHand ? before.Evidence : "accepted · " + before.Evidence,
                ByHand = true,
            };
}
