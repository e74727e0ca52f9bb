namespace EmberLane.Core.Cameras;

/// <summary>A stretch of what is planned, half open, from its begin: of a sitting or of a story.</summary>
public readonly record struct PlanRange(MediaTime In, MediaTime Out)
{
    /// <summary>How long it lasts.</summary>
    public MediaTime Length => Out - In;

    /// <summary>Whether a moment lies in it.</summary>
    public bool Has(MediaTime at) => In <= at && at < Out;

    /// <summary>Whether they share more than a moment.</summary>
    public bool Meets(PlanRange other) => In < other.Out && other.In < Out;

    /// <summary>How long both of them last together.</summary>
    public MediaTime Shared(PlanRange other) => MediaTime.Max(MediaTime.Zero, MediaTime.Min(Out, other.Out) - MediaTime.Max(In, other.In));

    /// <summary>Ranges in order, those that touch as one; empty ones are left out.</summary>
    public static IReadOnlyList<PlanRange> Joined(IEnumerable<PlanRange> ranges)
    {
        var joined = new List<PlanRange>();
        foreach (var range in ranges.Where(r => r.In < r.Out).OrderBy(r => r.In))
        {
            if (joined.Count > 0 && range.In <= joined[^1].Out)
            {
                joined[^1] = joined[^1] with { Out = MediaTime.Max(joined[^1].Out, range.Out) };
            }
            else
            {
                joined.Add(range);
            }
        }
        return joined;
    }

    /// <summary>The first of joined ranges that ends after a moment; null behind the last. Logarithmic.</summary>
    public static PlanRange? EndingAfter(IReadOnlyList<PlanRange> joined, MediaTime at)
    {
        int low = 0,
            high = joined.Count;
        while (low < high)
        {
            var middle = (low + high) / 2;
            (low, high) = joined[middle].Out <= at ? (middle + 1, high) : (low, middle);
        }
        return low < joined.Count ? joined[low] : null;
    }

    /// <summary>Whether a range shares more than a moment with one of joined ranges. Logarithmic.</summary>
    public static bool MeetsAny(IReadOnlyList<PlanRange> joined, PlanRange range) =>
        EndingAfter(joined, range.In) is { } next && next.Meets(range);

    /// <summary>What is left of joined ranges without others that are joined too. Linear in both.</summary>
    public static IReadOnlyList<PlanRange> Without(IReadOnlyList<PlanRange> ranges, IReadOnlyList<PlanRange> others)
    {
        var left = new List<PlanRange>();
        var next = 0;
        foreach (var range in ranges)
        {
            var from = range.In;
            while (next < others.Count && others[next].Out <= from)
            {
                next++;
            }
            for (var i = next; i < others.Count && others[i].In < range.Out; i++)
            {
                if (from < others[i].In)
                {
                    left.Add(new PlanRange(from, others[i].In));
                }
                from = MediaTime.Max(from, others[i].Out);
            }
            if (from < range.Out)
            {
                left.Add(new PlanRange(from, range.Out));
            }
        }
        return left;
    }
}
