namespace EmberLane.Core.Cameras;

/// <summary>An angle of a sitting: its number, whom it covers, and where it rolls, on the sitting's clock.</summary>
public sealed record StoryAngle(long Id, IReadOnlyList<string> Covers, IReadOnlyList<PlanRange> Rolls)
{
    /// <summary>Where it covers others, in order; these do not overlap.</summary>
    public IReadOnlyList<CoveredAt> Changes { get; init; } = [];

    /// <summary>Whether it is a tighter framing of another angle.</summary>
    public bool IsTighter { get; init; }
}

/// <summary>
/// What a story's plan needs of a sitting, on its clock: its angles, who speaks, where people laugh, and what was chosen by hand.
/// </summary>
public sealed record StorySitting(
    IReadOnlyList<StoryAngle> Angles,
    IReadOnlyList<PlanTurn> Speech,
    IReadOnlyList<PlanRange> Crowd,
    IReadOnlyList<(long Angle, PlanRange Range)> Locks
);

/// <summary>
/// A part of a story that is shown in one go: which piece it is of, of which sitting (null: none that is planned), from when to when there,
/// and the angle that was chosen for it, if one was.
/// </summary>
public sealed record StoryPart(Guid Piece, long? Sitting, PlanRange Range, long? Angle);

/// <summary>A shot of a piece, on its sitting's clock.</summary>
public readonly record struct StoryShot(long Angle, PlanRange Range);

/// <summary>Plans the angles of a whole story: one problem on the story's own time, in which each join is a seam.</summary>
public static class StoryCameras
{
    /// <summary>
    /// The shots of each piece that lies in a planned sitting, in order. Throws <see cref="FormatException"/> where the rules contradict
    /// each other. Cost grows with the parts and, for each, with what its sitting holds.
    /// </summary>
    public static IReadOnlyDictionary<Guid, IReadOnlyList<StoryShot>> Plan(
        IReadOnlyList<StoryPart> parts,
        IReadOnlyDictionary<long, StorySitting> sittings,
        CameraRules rules
    )
    {
        var laid = Laid(parts);
        if (laid.All(p => p.Part.Sitting is null))
        {
            return new Dictionary<Guid, IReadOnlyList<StoryShot>>();
        }
        var plan = CameraPlanner.Plan(ProblemOf(laid, sittings, rules));
        var shots = new Dictionary<Guid, List<StoryShot>>();
        var next = 0;
        foreach (var (part, at) in laid)
        {
            while (next < plan.Shots.Count && plan.Shots[next].Range.Out <= at)
            {
                next++;
            }
            for (var i = next; i < plan.Shots.Count && plan.Shots[i].Range.In < at + part.Range.Length; i++)
            {
                if (part.Sitting is { } sitting)
                {
                    var shown = Shifted(plan.Shots[i].Range, part.Range.In - at, part.Range);
                    if (!shots.TryGetValue(part.Piece, out var own))
                    {
                        shots[part.Piece] = own = [];
                    }
                    own.Add(new StoryShot(sittings[sitting].Angles[plan.Shots[i].Angle].Id, shown));
                }
            }
        }
        return shots.ToDictionary(s => s.Key, s => (IReadOnlyList<StoryShot>)s.Value);
    }

    private static List<(StoryPart Part, MediaTime At)> Laid(IReadOnlyList<StoryPart> parts)
    {
        var laid = new List<(StoryPart, MediaTime)>();
        var at = MediaTime.Zero;
        foreach (var part in parts.Where(p => p.Range.In < p.Range.Out))
        {
            laid.Add((part, at));
            at += part.Range.Length;
        }
        return laid;
    }

    // Angles are named by their places in their sittings' lists, and cover others in each part.
    private static CameraProblem ProblemOf(
        List<(StoryPart Part, MediaTime At)> laid,
        IReadOnlyDictionary<long, StorySitting> sittings,
        CameraRules rules
    )
    {
        var places = laid.Max(p => p.Part.Sitting is { } s ? sittings[s].Angles.Count : 0);
        var rolls = Enumerable.Range(0, places).Select(_ => new List<PlanRange>()).ToList();
        var covers = Enumerable.Range(0, places).Select(_ => new List<CoveredAt>()).ToList();
        var tighter = Enumerable.Range(0, places).Select(_ => new List<PlanRange>()).ToList();
        var (speech, crowd, locks) = (new List<PlanTurn>(), new List<PlanRange>(), new List<LockedAngle>());
        foreach (var (part, at) in laid.Where(p => p.Part.Sitting is not null))
        {
            var sitting = sittings[part.Sitting!.Value];
            var (whole, by) = (new PlanRange(at, at + part.Range.Length), at - part.Range.In);
            for (var place = 0; place < sitting.Angles.Count; place++)
            {
                var angle = sitting.Angles[place];
                var own = Within(angle.Rolls, part.Range, by).ToList();
                rolls[place].AddRange(own);
                tighter[place].AddRange(angle.IsTighter ? [whole] : []);
                covers[place].AddRange(CoversIn(angle, part.Range, by));
                locks.AddRange(
                    own.SelectMany(r => ChosenOf(sitting, part, angle.Id, by).Where(r.Meets).Select(l => Shifted(l, MediaTime.Zero, r)))
                        .Select(l => new LockedAngle(Name(place), l))
                );
            }
            speech.AddRange(
                sitting.Speech.Where(t => t.Range.Meets(part.Range)).Select(t => t with { Range = Shifted(t.Range, by, whole) })
            );
            crowd.AddRange(Within(sitting.Crowd, part.Range, by));
        }
        var joins = laid.Zip(laid.Skip(1), (one, next) => (one.Part, Next: next.Part, next.At)).ToList();
        return new CameraProblem(
            laid[^1].At + laid[^1].Part.Range.Length,
            [.. rolls.Select((r, place) => new PlanAngle(Name(place), [], r) { Changes = covers[place], Tighter = tighter[place] })],
            speech,
            crowd,
            locks,
            rules
        )
        {
            Seams = [.. joins.Where(j => j.Part.Sitting == j.Next.Sitting && j.Part.Range.Out != j.Next.Range.In).Select(j => j.At)],
            Elsewhere = [.. joins.Where(j => j.Part.Sitting != j.Next.Sitting).Select(j => j.At)],
        };
    }

    // Angles cover nobody but by these: the same place in the list is another camera in another sitting.
    private static IEnumerable<CoveredAt> CoversIn(StoryAngle angle, PlanRange part, MediaTime by)
    {
        var others = angle.Changes.Where(c => c.Range.Meets(part)).ToList();
        return PlanRange
            .Without([part], [.. others.Select(c => c.Range)])
            .Select(r => new CoveredAt(r, angle.Covers))
            .Concat(others)
            .SelectMany(c => Within([c.Range], part, by).Select(r => new CoveredAt(r, c.People)));
    }

    // An angle that was chosen for the whole piece goes before what was chosen in its sitting.
    private static IEnumerable<PlanRange> ChosenOf(StorySitting sitting, StoryPart part, long angle, MediaTime by) =>
        part.Angle is { } chosen
            ? chosen == angle
                ? Within([part.Range], part.Range, by)
                : []
            : Within(sitting.Locks.Where(l => l.Angle == angle).Select(l => l.Range), part.Range, by);

    private static IEnumerable<PlanRange> Within(IEnumerable<PlanRange> ranges, PlanRange part, MediaTime by) =>
        ranges.Where(r => r.Meets(part)).Select(r => Shifted(r, by, new PlanRange(part.In + by, part.Out + by)));

    private static PlanRange Shifted(PlanRange range, MediaTime by, PlanRange within) =>
        new(MediaTime.Max(range.In + by, within.In), MediaTime.Min(range.Out + by, within.Out));

    private static string Name(int place) => place.ToString(System.Globalization.CultureInfo.InvariantCulture);
}
