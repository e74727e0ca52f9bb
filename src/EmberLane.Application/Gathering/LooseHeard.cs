using EmberLane.Core.Sync;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>Which loose files are compared by sound.</summary>
internal static class LooseHeard
{
    /// <summary>Shorter files (15 s) are cutaways: too little to compare by.</summary>
    private static readonly MediaTime Shortest = MediaTime.FromMilliseconds(15_000);

    /// <summary>
    /// Every loose file with sound that is in no proposed group, and one of each group that anything but sound proposes: a recorder if
    /// there is one, else the longest. By id.
    /// </summary>
    public static IReadOnlyList<Source> Of(IReadOnlyList<Source> sources, IReadOnlyList<Alike> alike)
    {
        var loose = sources.Where(s => s.SittingId is null).ToList();
        var grouped = Proposals
            .Of([.. loose.Select(s => new LooseFile(s.Id, s.Name, s.Facts))], [])
            .SelectMany((p, n) => p.Files.Select(f => (f.Id, n)))
            .ToDictionary(g => g.Id, g => g.n);
        var joined = alike.SelectMany(a => new[] { a.One, a.Other }).ToHashSet();
        return
        [
            .. loose
                .Where(s => s.Facts.Channels > 0 && s.Facts.Duration >= Shortest)
                .GroupBy(s => grouped.TryGetValue(s.Id, out var n) ? n : -1 - s.Id)
                .Select(g =>
                    g.OrderByDescending(s => joined.Contains(s.Id))
                        .ThenByDescending(s => s.Facts.Picture is null)
                        .ThenByDescending(s => s.Facts.Duration)
                        .First()
                )
                .OrderBy(s => s.Id),
        ];
    }
}
