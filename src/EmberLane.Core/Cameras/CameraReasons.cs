namespace EmberLane.Core.Cameras;

/// <summary>Why each shot of a plan begins, in words.</summary>
public static class CameraReasons
{
    /// <summary>A person has chosen it.</summary>
    public const string ByHand = "chosen by hand";

    private static readonly MediaTime Soon = MediaTime.FromMilliseconds(1_500);

    /// <summary>The shots that are seen, with their reasons; black is left out.</summary>
    internal static IReadOnlyList<PlannedShot> Of(
        CameraProblem problem,
        CameraGround ground,
        IReadOnlyList<(int Angle, int From, int To)> shots
    )
    {
        var found = new List<PlannedShot>();
        var asked = Asked.Of(problem, ground);
        var turns = 0;
        for (var i = 0; i < shots.Count; i++)
        {
            var (angle, from, to) = shots[i];
            if (angle == ground.Angles - 1)
            {
                continue;
            }
            var range = new PlanRange(new MediaTime(ground.Points[from]), new MediaTime(ground.Points[to]));
            while (turns < ground.Talk.Turns.Count && ground.Talk.Turns[turns].Range.Out <= range.In)
            {
                turns++;
            }
            var before = i > 0 ? shots[i - 1] : default((int Angle, int From, int To)?);
            found.Add(new PlannedShot(angle, range, ReasonOf(problem, ground, asked, angle, range, before, turns)));
        }
        return found;
    }

    // What was asked for, in ranges that can be searched: locks of each angle, the wide view, listeners.
    private sealed record Asked(
        Dictionary<string, IReadOnlyList<PlanRange>> Locks,
        IReadOnlyList<PlanRange> Wide,
        IReadOnlyList<PlanRange> Listeners,
        IReadOnlyList<PlanRange> Punches,
        IReadOnlyList<PlanRange> Wholes
    )
    {
        public static Asked Of(CameraProblem problem, CameraGround ground)
        {
            var locks = problem.Locked.ToLookup(l => l.Angle, l => l.Range, StringComparer.Ordinal);
            return new Asked(
                problem.Angles.ToDictionary(a => a.Name, a => PlanRange.Joined(locks[a.Name]), StringComparer.Ordinal),
                PlanRange.Joined(ground.Talk.WideWanted),
                PlanRange.Joined(ground.Talk.ListenersWanted),
                PlanRange.Joined(ground.Talk.PunchesWanted),
                PlanRange.Joined(ground.Talk.WholesWanted)
            );
        }

        public bool IsLocked(MediaTime at) => Locks.Values.Any(own => PlanRange.EndingAfter(own, at)?.Has(at) == true);
    }

    private static string ReasonOf(
        CameraProblem problem,
        CameraGround ground,
        Asked asked,
        int angle,
        PlanRange range,
        (int Angle, int From, int To)? before,
        int turns
    )
    {
        var at = range.In;
        var view = problem.Angles[angle];
        var first = new PlanRange(at, MediaTime.Min(range.Out, at + Soon));
        if (PlanRange.MeetsAny(asked.Locks[view.Name], first))
        {
            return ByHand;
        }
        if (before is not { } last || last.Angle == ground.Angles - 1)
        {
            return before is { From: > 0 } ? "a camera rolls again"
                : PlanRange.MeetsAny(asked.Wide, first) && view.CoversAt(at).Count > 1 ? "opens with the wide view"
                : "the beginning";
        }
        if (!ground.May(last.Angle, last.To))
        {
            var name = problem.Angles[last.Angle].Name;
            return asked.IsLocked(at) || last.Angle == angle ? ByHand : $"“{name}” does not go on";
        }
        if (ground.IsSeam[last.To])
        {
            return last.Angle == angle ? "the next piece; no other angle serves" : "the next piece";
        }
        var talking = Talking(ground, first, turns);
        var shown = view.CoversAt(at);
        if (PlanRange.MeetsAny(asked.Wide, first) && talking.All(t => shown.Contains(t.Who)))
        {
            return "the wide view returns";
        }
        if (PlanRange.MeetsAny(asked.Punches, first) && view.Tighter.Any(first.Meets))
        {
            return "a closer view, as often as asked";
        }
        if (PlanRange.MeetsAny(asked.Wholes, first) && !view.Tighter.Any(first.Meets))
        {
            return "the whole picture again";
        }
        if (talking.Count > 0 && !talking.Any(t => shown.Contains(t.Who)))
        {
            return PlanRange.MeetsAny(asked.Listeners, first) ? $"a listener, while {talking[0].Who} goes on" : "the longest shot is over";
        }
        if (
            talking.Count > 1
            && talking.Select(t => t.Who).Distinct(StringComparer.Ordinal).Count() > 1
            && talking.All(t => shown.Contains(t.Who))
        )
        {
            return $"{string.Join(" and ", talking.Select(t => t.Who).Distinct(StringComparer.Ordinal).Take(3))} talk";
        }
        if (talking.FirstOrDefault(t => shown.Contains(t.Who)) is { Who: { } who } turn)
        {
            return turn.Range.In >= at - problem.Rules.Shortest ? $"{who} begins to speak"
                : problem.Angles[last.Angle].CoversAt(at).Contains(who) && problem.Angles[last.Angle].CoversAt(at).Count > shown.Count
                    ? $"nearer to {who}"
                : problem.Angles[last.Angle].CoversAt(at).Contains(who) ? "the longest shot is over"
                : $"back to {who}";
        }
        return "nobody speaks";
    }

    // Those who talk soon after a shot begins, the first first.
    private static List<PlanTurn> Talking(CameraGround ground, PlanRange first, int turns) =>
        [.. ground.Talk.Turns.Skip(turns).TakeWhile(t => t.Range.In < first.Out).Where(t => t.Range.Meets(first))];
}
