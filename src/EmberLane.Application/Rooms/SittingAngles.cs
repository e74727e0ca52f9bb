using EmberLane.Core.Sittings;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>One camera's view of a sitting: its clips in order, by the first of which it is known.</summary>
public sealed record SittingAngle(string Name, IReadOnlyList<Source> Clips)
{
    /// <summary>The first clip's id.</summary>
    public long Id => Clips[0].Id;
}

/// <summary>The angles of a sitting.</summary>
public static class SittingAngles
{
    /// <summary>Of its sources: those with a picture that lie on the clock, each camera's clips together unless they overlap.</summary>
    public static IReadOnlyList<SittingAngle> Of(IReadOnlyList<Source> sources)
    {
        var byId = sources.ToDictionary(s => s.Id);
        return
        [
            .. ChartRows
                .Lay(
                    sources
                        .Where(s => s is { Facts.Picture: not null, Place: not null })
                        .OrderBy(s => s.Camera, Core.Finding.NumbersInOrder.Comparer)
                        .ThenBy(s => s.Place!.Value.Start.FromZero)
                        .Select(s => new ChartBar(s.Id, s.Camera, s.Place!.Value.Fill(s.Facts.Duration)))
                )
                .Select(r => new SittingAngle(
                    r.Count == 1
                        ? Path.GetFileNameWithoutExtension(byId[r[0].SourceId].Name)
                        : FormattableString.Invariant($"{r[0].Of} · {r.Count} clips"),
                    [.. r.Select(b => byId[b.SourceId])]
                )),
        ];
    }
}
