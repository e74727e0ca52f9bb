using System.Numerics;

namespace EmberLane.Core.Cameras;

/// <summary>
/// A problem cut into steps in which nothing changes: at which moments shots may begin, which angles may be shown in each step, and what
/// each costs there. The last angle is black, which is there only where nothing else is.
/// </summary>
internal sealed class CameraGround
{
    private readonly ulong[][] covers;
    private readonly bool[][] may;
    private readonly ulong[] talk;
    private readonly Wanted[] wanted;
    private readonly ulong[] everybody;
    private readonly CameraRules rules;
    private readonly int wideMissed;
    private readonly int listenerMissed;
    private readonly int punchMissed;
    private readonly bool[][] tighter;

    [Flags]
    private enum Wanted : byte
    {
        Nothing = 0,
        Wide = 1,
        Listener = 2,
        InSilence = 4,
        Crowd = 8,
        Punch = 16,
        Whole = 32,
    }

    private CameraGround(
        CameraProblem problem,
        TalkGround talkGround,
        long[] points,
        IReadOnlyList<IReadOnlyList<PlanRange>> shown,
        IReadOnlyDictionary<string, int> people
    )
    {
        Points = points;
        Ticks = [.. points.Select(p => TicksOf(new MediaTime(p)))];
        Talk = talkGround;
        rules = problem.Rules;
        (wideMissed, listenerMissed, punchMissed) = (Missed(rules.WideFor), Missed(rules.ListenFor), Missed(rules.PunchFor));
        Steps = points.Length - 1;
        may = [.. shown.Select(ranges => Flags(ranges))];
        covers = [.. problem.Angles.Select(a => CoverOf(a, people)), new ulong[Steps]];
        tighter = [.. problem.Angles.Select(a => Flags(a.Tighter))];
        everybody = new ulong[Steps];
        for (var step = 0; step < Steps; step++)
        {
            everybody[step] = covers.Aggregate(0UL, (all, cover) => all | cover[step]);
        }
        talk = new ulong[Steps];
        foreach (var turn in talkGround.Turns)
        {
            Fill(turn.Range, step => talk[step] |= 1UL << people[turn.Who]);
        }
        wanted = new Wanted[Steps];
        Want(talkGround.WideWanted, Wanted.Wide);
        Want(talkGround.ListenersWanted, Wanted.Listener);
        Want(talkGround.PunchesWanted, Wanted.Punch);
        Want(talkGround.WholesWanted, Wanted.Whole);
        Want(talkGround.Silences, Wanted.InSilence);
        Want(PlanRange.Joined(problem.Crowd.Select(problem.Within)), Wanted.Crowd);
        CutCosts = MakeCutCosts();
        IsSeam = Flags(problem.Seams.Concat(problem.Elsewhere), problem.Length);
        IsElsewhere = Flags(problem.Elsewhere, problem.Length);
    }

    /// <summary>The moments at which shots may begin or end, from zero to the length, in units of time.</summary>
    public long[] Points { get; }

    /// <summary>The same in hundred thousandths of a second, in which costs are counted, so that those of any plan can be held.</summary>
    public long[] Ticks { get; }

    /// <summary>So many of them are a second.</summary>
    public const long TicksPerSecond = 100_000;

    /// <summary>A time in them.</summary>
    public static long TicksOf(MediaTime time) => time.Units / (MediaTime.UnitsPerSecond / TicksPerSecond);

    /// <summary>Who is to be seen when.</summary>
    public TalkGround Talk { get; }

    /// <summary>One less than there are moments.</summary>
    public int Steps { get; }

    /// <summary>The angles, and black.</summary>
    public int Angles => covers.Length;

    /// <summary>What a cut costs at each moment, in hundredths of a point.</summary>
    public int[] CutCosts { get; }

    /// <summary>At which moments a seam lies.</summary>
    public bool[] IsSeam { get; }

    /// <summary>At which of them another sitting begins.</summary>
    public bool[] IsElsewhere { get; }

    /// <summary>Whether an angle may be shown in a step.</summary>
    public bool May(int angle, int step) => may[angle][step];

    /// <summary>The ground of a problem. Sorts its moments; else linear in them, for each angle.</summary>
    public static CameraGround Of(CameraProblem problem)
    {
        var people = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var who in problem.Angles.SelectMany(a => a.Covers.Concat(a.Changes.SelectMany(c => c.People))))
        {
            people.TryAdd(who, people.Count);
        }
        var shown = CameraShown.Of(problem);
        var hasWide = problem.Angles.Any(a => IsWide(a, problem));
        var talk = TalkGround.Of(problem, people.Keys.ToHashSet(StringComparer.Ordinal), hasWide);
        return new CameraGround(problem, talk, PointsOf(problem, talk, shown), shown, people);
    }

    /// <summary>The step in which a moment lies, or that begins with it; logarithmic.</summary>
    public int IndexOf(long units)
    {
        var at = Array.BinarySearch(Points, units);
        return at >= 0 ? at : ~at - 1;
    }

    /// <summary>What an angle costs in a step, in hundredths of a point a second.</summary>
    public int RateOf(int angle, int step)
    {
        if (angle == covers.Length - 1)
        {
            return 0;
        }
        var (seen, speaks, wants) = (covers[angle][step], talk[step], wanted[step]);
        var cost = seen == 0 ? CameraCosts.NobodyShown : 0;
        var isWide = seen == everybody[step] && BitOperations.PopCount(seen) > 1;
        if ((wants & Wanted.Crowd) != 0)
        {
            return cost;
        }
        if ((wants & Wanted.Wide) != 0 && !isWide)
        {
            cost += wideMissed;
        }
        if ((wants & Wanted.InSilence) != 0 && !isWide)
        {
            cost += CameraCosts.SilenceMissed;
        }
        if (
            (wants & Wanted.Punch) != 0
                ? !tighter[angle][step] || (seen & speaks) == 0
                : (wants & Wanted.Whole) != 0 && tighter[angle][step]
        )
        {
            cost += punchMissed;
        }
        return cost
            + BitOperations.PopCount(speaks) switch
            {
                0 => 0,
                1 when (wants & Wanted.Listener) != 0 => ListenerCost(seen, speaks),
                1 when (seen & speaks) == 0 => CameraCosts.Unseen,
                1 => OthersToo(seen, everybody[step]),
                _ => TogetherCost(seen, speaks),
            };
    }

    private int TogetherCost(ulong seen, ulong speaks) =>
        (seen & speaks) == 0 ? CameraCosts.Unseen
        : rules.Together == Meanwhile.Hold || (seen & speaks) == speaks ? 0
        : CameraCosts.SomeUnseen;

    private int ListenerCost(ulong seen, ulong speaks) =>
        (seen & speaks) != 0 ? listenerMissed
        : seen != 0 ? 0
        : CameraCosts.Unseen;

    // What a second costs without a view that is to be shown for so long: more together than to cut there and back.
    private int Missed(MediaTime lasts)
    {
        var cuts = 2 * (CutCost + CameraCosts.CutOffBeat + CameraCosts.CutIntoTalk);
        var each = (Int128)(cuts + CameraCosts.Missed) * MediaTime.UnitsPerSecond / Math.Max(1, lasts.Units);
        return (int)Int128.Min(each, CameraCosts.TooLong / 2);
    }

    private int CutCost => rules.Cut.Value * CameraCosts.Unseen / 1000;

    // How much is lost by showing others beside the one who speaks.
    private int OthersToo(ulong seen, ulong everybody)
    {
        var all = BitOperations.PopCount(everybody);
        return all < 2 ? 0 : rules.Closer.Value * CameraCosts.Unseen * (BitOperations.PopCount(seen) - 1) / (1000 * (all - 1));
    }

    private static bool IsWide(PlanAngle angle, CameraProblem problem)
    {
        var own = angle.Covers.ToHashSet(StringComparer.Ordinal);
        return angle.Changes.Any(c => c.People.Count > 1) || (own.Count > 1 && problem.Angles.All(a => a.Covers.All(own.Contains)));
    }

    private static long[] PointsOf(CameraProblem problem, TalkGround talk, IEnumerable<IReadOnlyList<PlanRange>> shown)
    {
        var length = problem.Length.Units;
        var points = new List<long> { 0, length };
        for (var at = problem.Grid.Units; at < length; at += problem.Grid.Units)
        {
            points.Add(at);
        }
        var happens = shown
            .SelectMany(r => r)
            .Concat(talk.Turns.Select(t => t.Range))
            .Concat(talk.WideWanted)
            .Concat(talk.ListenersWanted)
            .Concat(talk.PunchesWanted)
            .Concat(talk.WholesWanted)
            .Concat(talk.Silences)
            .Concat(problem.Crowd)
            .Concat(problem.Angles.SelectMany(a => a.Changes.Select(c => c.Range).Concat(a.Tighter)))
            .SelectMany(r => new[] { r.In.Units, r.Out.Units })
            .Concat(problem.Seams.Concat(problem.Elsewhere).Select(s => s.Units));
        points.AddRange(happens.Where(p => p > 0 && p < length));
        points.Sort();
        return [.. points.Distinct()];
    }

    private bool[] Flags(IReadOnlyList<PlanRange> ranges)
    {
        var flags = new bool[Steps];
        foreach (var range in ranges)
        {
            Fill(range, step => flags[step] = true);
        }
        return flags;
    }

    private bool[] Flags(IEnumerable<MediaTime> moments, MediaTime length)
    {
        var flags = new bool[Points.Length];
        foreach (var at in moments.Where(s => s > MediaTime.Zero && s < length))
        {
            flags[IndexOf(at.Units)] = true;
        }
        return flags;
    }

    private void Want(IReadOnlyList<PlanRange> ranges, Wanted what)
    {
        foreach (var range in ranges)
        {
            Fill(range, step => wanted[step] |= what);
        }
    }

    private ulong[] CoverOf(PlanAngle angle, IReadOnlyDictionary<string, int> people)
    {
        var cover = new ulong[Steps];
        Array.Fill(cover, MaskOf(angle.Covers));
        foreach (var change in angle.Changes)
        {
            var mask = MaskOf(change.People);
            Fill(change.Range, step => cover[step] = mask);
        }
        return cover;

        ulong MaskOf(IReadOnlyList<string> who) => who.Aggregate(0UL, (mask, w) => mask | (1UL << people[w]));
    }

    private void Fill(PlanRange range, Action<int> act)
    {
        if (range.In >= range.Out || range.Out.Units <= 0 || range.In.Units >= Points[^1])
        {
            return;
        }
        var from = IndexOf(Math.Max(0, range.In.Units));
        for (var step = from; step < Steps && Points[step] < range.Out.Units; step++)
        {
            act(step);
        }
    }

    // Best where a voice begins; dear within what people say together, and where they laugh.
    private int[] MakeCutCosts()
    {
        var costs = new int[Points.Length];
        var begins = Talk.Turns.Select(t => t.Range.In.Units).ToHashSet();
        for (var i = 1; i < Steps; i++)
        {
            var going = talk[i - 1] & talk[i];
            costs[i] =
                CutCost
                + (begins.Contains(Points[i]) ? 0 : CameraCosts.CutOffBeat)
                + BitOperations.PopCount(going) switch
                {
                    0 => 0,
                    1 => talk[i] == going ? CameraCosts.CutIntoTalk : 0,
                    _ => CameraCosts.CutIntoCrossTalk,
                }
                + ((wanted[i - 1] & wanted[i] & Wanted.Crowd) != 0 ? CameraCosts.CutIntoCrowd : 0);
        }
        return costs;
    }
}
