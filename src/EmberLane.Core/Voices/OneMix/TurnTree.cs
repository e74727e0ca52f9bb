namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// Turns joined by Ward's rule (1963): two groups whose joining adds least to the spread within groups are the next to join, by chains of
/// nearest neighbours (Murtagh, 1983), which needs no table of distances. Cost grows with the square of the turns up to some hours of talk;
/// of more, each few hours are joined to small groups first.
/// </summary>
internal static class TurnTree
{
    /// <summary>So many turns are joined at a time, and to so many small groups where there are more.</summary>
    private const int AtOnce = 4_000,
        Small = 400;

    /// <summary>
    /// To which of <paramref name="groups"/> groups each turn belongs, from 0; by rows of numbers and weights of one length. Fewer groups
    /// where there are fewer turns.
    /// </summary>
    public static int[] Groups(double[][] rows, double[] weights, int groups)
    {
        if (rows.Length > AtOnce)
        {
            return OfMany(rows, weights, groups);
        }
        var joins = Joins(rows, weights);
        // Joins by their costs, least first, are those of the tree; a join that stands on another never costs less.
        var parent = Enumerable.Range(0, rows.Length).ToArray();
        int Root(int i)
        {
            while (parent[i] != i)
            {
                i = parent[i] = parent[parent[i]];
            }
            return i;
        }
        foreach (var (_, one, other) in joins.OrderBy(j => j.Cost).Take(Math.Max(0, rows.Length - groups)))
        {
            parent[Root(one)] = Root(other);
        }
        var names = new Dictionary<int, int>();
        return
        [
            .. Enumerable.Range(0, rows.Length).Select(i => names.TryGetValue(Root(i), out var name) ? name : names[Root(i)] = names.Count),
        ];
    }

    private static int[] OfMany(double[][] rows, double[] weights, int groups)
    {
        var small = new int[rows.Length];
        var count = 0;
        for (var first = 0; first < rows.Length; first += AtOnce)
        {
            var part = first..Math.Min(rows.Length, first + AtOnce);
            var own = Groups(rows[part], weights[part], Math.Max(Small, groups));
            for (var i = 0; i < own.Length; i++)
            {
                small[first + i] = count + own[i];
            }
            count += own.Max() + 1;
        }
        var means = Enumerable.Range(0, count).Select(_ => new double[rows[0].Length]).ToArray();
        var all = new double[count];
        for (var i = 0; i < rows.Length; i++)
        {
            all[small[i]] += weights[i];
        }
        for (var i = 0; i < rows.Length; i++)
        {
            for (var d = 0; d < rows[i].Length; d++)
            {
                means[small[i]][d] += weights[i] / all[small[i]] * rows[i][d];
            }
        }
        var joined = Groups(means, all, groups);
        return [.. small.Select(s => joined[s])];
    }

    private static List<(double Cost, int One, int Other)> Joins(double[][] rows, double[] weights)
    {
        var means = rows.Select(r => (double[])r.Clone()).ToArray();
        var weight = (double[])weights.Clone();
        var alive = Enumerable.Range(0, rows.Length).ToList();
        var joins = new List<(double, int, int)>();
        var chain = new Stack<int>();
        while (alive.Count > 1)
        {
            if (chain.Count == 0)
            {
                chain.Push(alive[0]);
            }
            var top = chain.Pop();
            var before = chain.Count > 0 ? chain.Peek() : -1;
            var (nearest, cost) = Nearest(top, before);
            if (nearest == before)
            {
                chain.Pop();
                joins.Add((cost, top, before));
                Join(top, before);
                alive.Remove(top);
            }
            else
            {
                chain.Push(top);
                chain.Push(nearest);
            }
        }
        return joins;

        // The one before in the chain wins where two are as near, so that chains end.
        (int, double) Nearest(int from, int first)
        {
            var best = first;
            var least = first < 0 ? double.PositiveInfinity : Cost(from, first);
            foreach (var other in alive)
            {
                if (other != from && other != first && Cost(from, other) is var cost && cost < least)
                {
                    (best, least) = (other, cost);
                }
            }
            return (best, least);
        }

        double Cost(int one, int other) => VoiceGroup.Apart(means[one], weight[one], means[other], weight[other]);

        void Join(int from, int into)
        {
            var both = weight[from] + weight[into];
            for (var d = 0; d < means[into].Length; d++)
            {
                means[into][d] = ((weight[into] * means[into][d]) + (weight[from] * means[from][d])) / both;
            }
            weight[into] = both;
        }
    }
}
