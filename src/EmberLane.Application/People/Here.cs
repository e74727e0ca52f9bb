using System.Collections.Concurrent;

namespace EmberLane.Application.People;

/// <summary>
/// Somebody who has a page of a production open: who, the page's address, and what of it they have in hand (null where they have not said).
/// </summary>
public sealed record Seat(long ProductionId, string Who, string Page, TalkedOf? InHand = null);

/// <summary>Who is where in which production now: as long as a page keeps its line of news open.</summary>
public sealed class Here
{
    private readonly ConcurrentDictionary<Guid, Seat> seats = new();

    /// <summary>Somebody has opened a page; what is returned is let go when they leave.</summary>
    public TakenSeat Enter(Seat seat)
    {
        var id = Guid.NewGuid();
        seats[id] = seat;
        return new TakenSeat(id, () => seats.TryRemove(id, out _));
    }

    /// <summary>Somebody has something else in hand on a page of theirs; another's seat, or one that was left, stays as it is.</summary>
    public void Take(Guid id, long productionId, string who, TalkedOf inHand)
    {
        if (seats.TryGetValue(id, out var seat) && seat.ProductionId == productionId && seat.Who == who)
        {
            // Who left meanwhile stays away.
            seats.TryUpdate(id, seat with { InHand = inHand }, seat);
        }
    }

    /// <summary>Others than <paramref name="who"/> in a production, each page once, by name.</summary>
    public IReadOnlyList<Seat> Others(long productionId, string who) =>
        [
            .. seats
                .Values.Where(s => s.ProductionId == productionId && s.Who != who)
                .Distinct()
                .OrderBy(s => s.Who, StringComparer.OrdinalIgnoreCase)
                .ThenBy(s => s.Page, StringComparer.Ordinal),
        ];
}

/// <summary>A page that somebody has open; it is left by disposing.</summary>
/// <param name="id">By which the page says what is in hand.</param>
/// <param name="leave">Lets it go.</param>
public sealed class TakenSeat(Guid id, Action leave) : IDisposable
{
    /// <summary>By which the page says what is in hand.</summary>
    public Guid Id => id;

    /// <summary>The page is left.</summary>
    public void Dispose() => leave();
}
