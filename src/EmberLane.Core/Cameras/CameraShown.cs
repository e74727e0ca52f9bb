namespace EmberLane.Core.Cameras;

/// <summary>Where each angle may be shown: where it rolls and no other is locked, and nobody's angle only where nothing else is.</summary>
internal static class CameraShown
{
    /// <summary>For each angle in its order, and for black behind them.</summary>
    public static IReadOnlyList<IReadOnlyList<PlanRange>> Of(CameraProblem problem)
    {
        var all = PlanRange.Joined([new PlanRange(MediaTime.Zero, problem.Length)]);
        var rolls = problem.Angles.Select(a => PlanRange.Joined(a.Rolls.Select(problem.Within))).ToList();
        var shown = problem
            .Angles.Select(
                (a, i) =>
                    PlanRange.Joined([
                        .. PlanRange.Without(
                            PlanRange.Without(rolls[i], NobodyIn(a, problem, all)),
                            PlanRange.Joined(LocksOf(problem, l => l != a.Name))
                        ),
                        .. LocksOf(problem, l => l == a.Name),
                    ])
            )
            .ToList();
        var used = PlanRange.Joined(shown.SelectMany(r => r));
        for (var i = 0; i < shown.Count; i++)
        {
            shown[i] = PlanRange.Joined([.. shown[i], .. PlanRange.Without(rolls[i], used)]);
        }
        return [.. shown, PlanRange.Without(all, PlanRange.Joined(shown.SelectMany(r => r)))];
    }

    // Where an angle covers nobody.
    private static IReadOnlyList<PlanRange> NobodyIn(PlanAngle angle, CameraProblem problem, IReadOnlyList<PlanRange> all)
    {
        var somebody = PlanRange.Joined(angle.Changes.Where(c => c.People.Count > 0).Select(c => problem.Within(c.Range)));
        return angle.Covers.Count > 0
            ? PlanRange.Joined(angle.Changes.Where(c => c.People.Count == 0).Select(c => problem.Within(c.Range)))
            : PlanRange.Without(all, somebody);
    }

    private static IEnumerable<PlanRange> LocksOf(CameraProblem problem, Func<string, bool> of) =>
        problem.Locked.Where(l => of(l.Angle)).Select(l => problem.Within(l.Range));
}
