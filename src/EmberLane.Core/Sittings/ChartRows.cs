namespace EmberLane.Core.Sittings;

/// <summary>What is drawn as a bar: which source, what it is a clip of (empty: of nothing known), and what it fills.</summary>
public sealed record ChartBar(long SourceId, string Of, SittingRange Fill);

/// <summary>Lays the bars of a sitting in rows: clips of one camera that follow one another share a row.</summary>
public static class ChartRows
{
    /// <summary>
    /// Rows in the order in which their first bar came; in a row bars are in order of time and never overlap: a clip that would lie over
    /// another of its camera gets a row of its own. Cost is n².
    /// </summary>
    public static IReadOnlyList<IReadOnlyList<ChartBar>> Lay(IEnumerable<ChartBar> bars)
    {
        var rows = new List<List<ChartBar>>();
        foreach (var bar in bars)
        {
            var row =
                bar.Of.Length == 0
                    ? null
                    : rows.FirstOrDefault(r => r[0].Of == bar.Of && r.All(b => bar.Fill.Out <= b.Fill.In || bar.Fill.In >= b.Fill.Out));
            if (row is null)
            {
                rows.Add([bar]);
            }
            else
            {
                row.Add(bar);
            }
        }
        return [.. rows.Select(r => r.OrderBy(b => b.Fill.In).ToList())];
    }
}
