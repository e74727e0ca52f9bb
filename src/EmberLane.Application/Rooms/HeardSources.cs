using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Which sources can be played now, each looked up once for a whole page.</summary>
public sealed class HeardSources(Footage footage, MediaCache cache)
{
    private readonly Dictionary<long, (ClockMap Place, bool IsPlayable)?> known = [];

    /// <summary>Where a source lies on its sitting's clock when it is placed and its playing copy is made; else null.</summary>
    public ClockMap? Of(long source)
    {
        if (!known.TryGetValue(source, out var found))
        {
            found = known[source] = footage.Source(source) is { Place: { } place } there ? (place, cache.IsPlayable(there)) : null;
        }
        return found is { IsPlayable: true } playable ? playable.Place : null;
    }
}
