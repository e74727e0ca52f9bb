using EmberLane.Core.Finding;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>Addresses of shots on the page of cutaways.</summary>
public static class CutawayLinks
{
    /// <summary>A shot as an address names it: the number of its file, and its own.</summary>
    public static string NameOf(ShotName shot) => FormattableString.Invariant($"{shot.Source}/{shot.Number}");

    /// <summary>Where a found picture is looked at.</summary>
    public static string Of(FoundHit hit) =>
        FormattableString.Invariant(
            $"/productions/{hit.ProductionId}/cutaways?of={(hit.Sitting is null ? "" : "all")}&shot={hit.Of}/{hit.Shot!.Value.Number}"
        );
}
