namespace EmberLane.Core.Cameras;

/// <summary>
/// Who is to be seen when: turns as they count for a plan, of people whom some angle covers, each from its lead on; and where the wide view
/// and listeners are wanted.
/// </summary>
internal sealed class TalkGround
{
    /// <summary>Pauses of one voice up to this do not end its turn, where nobody else speaks in them.</summary>
    private static readonly MediaTime Breath = MediaTime.FromMilliseconds(1_000);

    private TalkGround(IReadOnlyList<PlanTurn> turns) => Turns = turns;

    /// <summary>The turns by their begins.</summary>
    public IReadOnlyList<PlanTurn> Turns { get; }

    /// <summary>Where the wide view is wanted.</summary>
    public IReadOnlyList<PlanRange> WideWanted { get; private init; } = [];

    /// <summary>Where listeners are wanted.</summary>
    public IReadOnlyList<PlanRange> ListenersWanted { get; private init; } = [];

    /// <summary>Where a tighter framing of the one who speaks is wanted.</summary>
    public IReadOnlyList<PlanRange> PunchesWanted { get; private init; } = [];

    /// <summary>Before and behind them, for as long: where the whole picture is wanted.</summary>
    public IReadOnlyList<PlanRange> WholesWanted { get; private init; } = [];

    /// <summary>Silences in which the wide view is wanted.</summary>
    public IReadOnlyList<PlanRange> Silences { get; private init; } = [];

    /// <summary>Of a problem and the people whom its angles cover. Sorts; else linear.</summary>
    public static TalkGround Of(CameraProblem problem, IReadOnlySet<string> covered, bool hasWide)
    {
        var rules = problem.Rules;
        var crowd = PlanRange.Joined(problem.Crowd);
        var turns = Joined(problem.Speech)
            .Where(t => covered.Contains(t.Who) && t.Range.Length >= rules.Ignore)
            .Select(t => t with { Range = problem.Within(t.Range with { In = t.Range.In - MediaTime.Min(rules.Lead, t.Range.Length) }) })
            .Where(t => t.Range.In < t.Range.Out)
            .OrderBy(t => t.Range.In)
            .ToList();
        IReadOnlyList<PlanRange> wide = hasWide ? [.. Wide(turns, crowd, rules, problem.Length)] : [];
        IReadOnlyList<PlanRange> listeners =
        [
            .. turns
                .SelectMany(t => Within(t, rules.ListenAfter, rules.ListenEvery, rules.ListenFor, rules.Shortest))
                .Where(w => !PlanRange.MeetsAny(crowd, w))
                .OrderBy(w => w.In),
        ];
        // Where something else is wanted, or nothing tighter is there, none is.
        var (tighter, taken) = (
            PlanRange.Joined(problem.Angles.SelectMany(a => a.Tighter)),
            PlanRange.Joined([.. crowd, .. wide, .. listeners])
        );
        IReadOnlyList<PlanRange> punches =
        [
            .. turns
                .SelectMany(t => Within(t, rules.PunchEvery, rules.PunchEvery, rules.PunchFor, rules.Shortest))
                .Where(w => PlanRange.MeetsAny(tighter, w) && !PlanRange.MeetsAny(taken, w))
                .OrderBy(w => w.In),
        ];
        return new TalkGround(turns)
        {
            WideWanted = wide,
            ListenersWanted = listeners,
            PunchesWanted = punches,
            WholesWanted = PlanRange.Joined(
                punches.SelectMany(p => new[] { new PlanRange(p.In - rules.PunchFor, p.In), new PlanRange(p.Out, p.Out + rules.PunchFor) })
            ),
            Silences = rules.Silence == Meanwhile.Wide && hasWide ? [.. Silent(turns, rules, problem.Length)] : [],
        };
    }

    // What one says with breaths in between, where nobody else begins in them.
    private static List<PlanTurn> Joined(IReadOnlyList<PlanTurn> speech)
    {
        var joined = new List<PlanTurn>();
        foreach (var turn in speech.Where(t => t.Range.In < t.Range.Out).OrderBy(t => t.Range.In).ThenBy(t => t.Range.Out))
        {
            if (joined.Count > 0 && joined[^1].Who == turn.Who && turn.Range.In <= joined[^1].Range.Out + Breath)
            {
                joined[^1] = joined[^1] with
                {
                    Range = joined[^1].Range with { Out = MediaTime.Max(joined[^1].Range.Out, turn.Range.Out) },
                };
            }
            else
            {
                joined.Add(turn);
            }
        }
        return joined;
    }

    // At the begin, and then each time it is due: where the next voice begins, but no later than half as long again.
    private static IEnumerable<PlanRange> Wide(List<PlanTurn> turns, IReadOnlyList<PlanRange> crowd, CameraRules rules, MediaTime length)
    {
        if (rules.WideEvery <= MediaTime.Zero)
        {
            yield break;
        }
        var next = 0;
        for (var at = MediaTime.Zero; at + rules.WideFor <= length;)
        {
            var stays = new PlanRange(at, at + rules.WideFor);
            if (!PlanRange.MeetsAny(crowd, stays))
            {
                yield return stays;
            }
            var due = at + rules.WideEvery;
            while (next < turns.Count && turns[next].Range.In < due)
            {
                next++;
            }
            var late = due + new MediaTime(rules.WideEvery.Units / 2);
            at = next < turns.Count && turns[next].Range.In < late ? turns[next].Range.In : due;
        }
    }

    // Within a long answer, away from its end.
    private static IEnumerable<PlanRange> Within(PlanTurn turn, MediaTime after, MediaTime every, MediaTime lasts, MediaTime shortest)
    {
        if (after <= MediaTime.Zero || lasts <= MediaTime.Zero)
        {
            yield break;
        }
        for (var at = turn.Range.In + after; at + lasts + shortest <= turn.Range.Out; at += every)
        {
            yield return new PlanRange(at, at + lasts);
        }
    }

    private static IEnumerable<PlanRange> Silent(List<PlanTurn> turns, CameraRules rules, MediaTime length) =>
        PlanRange
            .Without([new PlanRange(MediaTime.Zero, length)], PlanRange.Joined(turns.Select(t => t.Range)))
            .Where(s => s.Length > rules.SilenceAfter)
            .Select(s => s with { In = s.In + rules.SilenceAfter });
}
