using EmberLane.Core.Sync;

namespace EmberLane.Application.Syncing;

/// <summary>
/// Where something lies on the reference's clock, by which comparison, and by way of what (null: it met the reference itself).
/// </summary>
public sealed record PlacedBySound<T>(T What, ClockMap Place, SoundOffset Found, T? ByWayOf)
    where T : class;

/// <summary>What sound placed, in the order in which it was found, and the first comparison of each that met nothing.</summary>
public sealed record SoundPlaces<T>(IReadOnlyList<PlacedBySound<T>> Placed, IReadOnlyList<(T What, SoundOffset Found)> Left)
    where T : class;

/// <summary>
/// Places sounds on one clock in rounds: all against the reference; what does not meet it against the longest of those that the round
/// before placed, until a round places none. Used by the rooms and the commands alike.
/// </summary>
public static class SoundRounds
{
    /// <summary>So many placed ones are tried for one that does not meet the reference, the longest first.</summary>
    private const int MostBridges = 6;

    /// <summary>
    /// <paramref name="compare"/> finds the second where it lies on the first; <paramref name="length"/> orders those that others are
    /// compared with. <paramref name="looking"/> hears of each before it is compared, with how many were before. Comparisons grow with the
    /// number of <paramref name="others"/>, at most seven for each in a round.
    /// </summary>
    public static async Task<SoundPlaces<T>> PlaceAsync<T>(
        T reference,
        IReadOnlyList<T> others,
        Func<T, MediaTime> length,
        Func<T, T, Task<SoundOffset>> compare,
        Action<int, T> looking
    )
        where T : class
    {
        var placed = new List<PlacedBySound<T>>();
        var waiting = others.ToList();
        var first = new Dictionary<T, SoundOffset>(ReferenceEqualityComparer.Instance);
        var seen = 0;
        List<(T What, ClockMap Place)> bridges = [(reference, default)];
        while (bridges.Count > 0 && waiting.Count > 0)
        {
            var fresh = new List<PlacedBySound<T>>();
            foreach (var what in waiting.ToList())
            {
                looking(seen++, what);
                foreach (var (bridge, at) in bridges)
                {
                    var found = await compare(bridge, what);
                    first.TryAdd(what, found);
                    if (found.Matched)
                    {
                        fresh.Add(
                            new PlacedBySound<T>(
                                what,
                                new ClockMap(found.Start, found.DriftPerBillion).By(at),
                                found,
                                ReferenceEquals(bridge, reference) ? null : bridge
                            )
                        );
                        waiting.Remove(what);
                        break;
                    }
                }
            }
            placed.AddRange(fresh);
            bridges = [.. fresh.OrderByDescending(f => length(f.What)).Take(MostBridges).Select(f => (f.What, f.Place))];
        }
        return new SoundPlaces<T>(placed, [.. waiting.Select(w => (w, first[w]))]);
    }
}
