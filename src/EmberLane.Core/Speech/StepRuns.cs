namespace EmberLane.Core.Speech;

/// <summary>Runs of steps in which something holds, in order and apart.</summary>
internal readonly record struct StepRuns(IReadOnlyList<StepRange> Runs)
{
    public static StepRuns Of(int steps, Func<int, bool> holds)
    {
        var runs = new List<StepRange>();
        var first = -1;
        for (var i = 0; i <= steps; i++)
        {
            var held = i < steps && holds(i);
            if (held && first < 0)
            {
                first = i;
            }
            else if (!held && first >= 0)
            {
                runs.Add(StepRange.Of(first, i));
                first = -1;
            }
        }
        return new StepRuns(runs);
    }

    /// <summary>With gaps of at most so many steps filled.</summary>
    public StepRuns Joined(int gap)
    {
        var joined = new List<StepRange>();
        foreach (var run in Runs)
        {
            if (joined.Count > 0 && run.First - joined[^1].End <= gap)
            {
                joined[^1] = joined[^1] with { End = run.End };
            }
            else
            {
                joined.Add(run);
            }
        }
        return new StepRuns(joined);
    }

    /// <summary>Without runs shorter than so many steps.</summary>
    public StepRuns AtLeast(int steps) => new([.. Runs.Where(r => r.Count >= steps)]);

    public IEnumerable<T> Select<T>(Func<StepRange, T> what) => Runs.Select(what);
}
