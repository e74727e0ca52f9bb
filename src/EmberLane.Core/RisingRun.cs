namespace EmberLane.Core;

/// <summary>Which of some things stayed in their order.</summary>
public static class RisingRun
{
    /// <summary>
    /// The places of a longest run of rising numbers among these, in order: of things that were put in another order, most that can be said
    /// to have stayed while the others moved. n log n. Source: patience sorting.
    /// </summary>
    public static IReadOnlyList<int> Of(IReadOnlyList<int> numbers)
    {
        var ends = new List<int>();
        var before = new int[numbers.Count];
        for (var i = 0; i < numbers.Count; i++)
        {
            int low = 0,
                high = ends.Count;
            while (low < high)
            {
                var half = (low + high) / 2;
                (low, high) = numbers[ends[half]] < numbers[i] ? (half + 1, high) : (low, half);
            }
            before[i] = low > 0 ? ends[low - 1] : -1;
            if (low == ends.Count)
            {
                ends.Add(i);
            }
            else
            {
                ends[low] = i;
            }
        }
        var run = new List<int>();
        for (var i = ends.Count > 0 ? ends[^1] : -1; i >= 0; i = before[i])
        {
            run.Add(i);
        }
        run.Reverse();
        return run;
    }
}
