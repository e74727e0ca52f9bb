using System.Collections.Concurrent;

namespace EmberLane.Application.People;

/// <summary>Somebody who has a page of a production open: who, and the page's address.</summary>
public sealed record Seat(long ProductionId, string Who, string Page);

/// <summary>Who is where in which production now: as long as a page keeps its line of news open.</summary>
public sealed class Here
{
    private readonly ConcurrentDictionary<Guid, Seat> seats = new();

    /// <summary>Somebody has opened a page; what is returned is let go when they leave.</summary>
    public IDisposable Enter(Seat seat)
    {
        var id = Guid.NewGuid();
        seats[id] = seat;
        return new Leaving(() => seats.TryRemove(id, out _));
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

    private sealed class Leaving(Action leave) : IDisposable
    {
        public void Dispose() => leave();
    }
}
