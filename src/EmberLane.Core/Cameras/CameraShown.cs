namespace EmberLane.Core.Cameras;

/// <summary>Where each angle may be shown: where it rolls and no other is locked, and nobody's angle only where nothing else is.</summary>
internal static class CameraShown
{
    /// <summary>For each angle in its order, and for black behind them.</summary>
    public static IReadOnlyList<IReadOnlyList<PlanRange>> Of(CameraProblem problem)
    {
        var useful = problem.Angles.Select(a => a.Covers.Count > 0 || a.Changes.Any(c => c.People.Count > 0)).ToList();
        var own = problem.Angles.Select(a => PlanRange.Joined(LocksOf(problem, l => l == a.Name))).ToList();
        var shown = problem
            .Angles.Select(
                (a, i) =>
                    useful[i]
                        ? PlanRange.Without(
                            PlanRange.Joined(a.Rolls.Select(problem.Within)),
                            PlanRange.Joined(LocksOf(problem, l => l != a.Name))
                        )
                        : own[i]
            )
            .ToList();
        var all = PlanRange.Joined([new PlanRange(MediaTime.Zero, problem.Length)]);
        var empty = PlanRange.Without(all, PlanRange.Joined(shown.SelectMany(r => r)));
        for (var i = 0; i < shown.Count; i++)
        {
            if (!useful[i])
            {
                var away = PlanRange.Without(all, empty);
                var rolls = PlanRange.Joined(problem.Angles[i].Rolls.Select(problem.Within));
                shown[i] = PlanRange.Joined([.. own[i], .. PlanRange.Without(rolls, away)]);
            }
        }
        return [.. shown, PlanRange.Without(all, PlanRange.Joined(shown.SelectMany(r => r)))];
    }

    private static IEnumerable<PlanRange> LocksOf(CameraProblem problem, Func<string, bool> of) =>
        problem.Locked.Where(l => of(l.Angle)).Select(l => problem.Within(l.Range));
}
