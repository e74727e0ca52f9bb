namespace EmberLane.Core.Sync;

/// <summary>Which sounds belong together by what was found of pairs: those that are linked, also by way of others.</summary>
public sealed class SoundGroups
{
    private readonly Dictionary<long, long> leads = [];

    /// <summary>Groups of what these pairs tie together.</summary>
    public SoundGroups(IEnumerable<Alike> pairs)
    {
        foreach (var pair in pairs)
        {
            Join(pair.One, pair.Other);
        }
    }

    /// <summary>A number that all of one group have in common, and no other.</summary>
    public long Of(long id)
    {
        while (leads.TryGetValue(id, out var next))
        {
            id = next;
        }
        return id;
    }

    /// <summary>Makes the groups of two files one.</summary>
    public void Join(long one, long other)
    {
        if (Of(one) != Of(other))
        {
            leads[Of(other)] = Of(one);
        }
    }

    /// <summary>
    /// Of sounds with how high the outlines of each stand out, those that are worth a close look, highest first: above the bar and, where
    /// there are many others, clearly above what the best of those reach by chance. What belongs together counts as one.
    /// </summary>
    public IReadOnlyList<long> WorthALook(IReadOnlyList<(long Id, double Height)> heights)
    {
        var groups = heights.GroupBy(h => Of(h.Id)).Select(g => g.MaxBy(h => h.Height)).OrderByDescending(g => g.Height).ToList();
        var bar = groups.Count < Many ? OutlineIndex.WorthALook : Math.Max(OutlineIndex.WorthALook, Above * groups[ByChance].Height);
        return [.. groups.Where(g => g.Height >= bar).Take(Closest).Select(g => g.Id)];
    }

    private const int Many = 20,
        ByChance = 4,
        Closest = 3;

    private const double Above = 1.25;
}
