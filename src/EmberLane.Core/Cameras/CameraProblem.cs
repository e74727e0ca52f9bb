namespace EmberLane.Core.Cameras;

/// <summary>Whom an angle shows for a while; overrides whom it shows else.</summary>
public sealed record CoveredAt(PlanRange Range, IReadOnlyList<string> People);

/// <summary>
/// A view that can be shown: whom it covers, and when it rolls. Where it covers nobody it is left out unless it is locked or nothing else
/// rolls.
/// </summary>
public sealed record PlanAngle(string Name, IReadOnlyList<string> Covers, IReadOnlyList<PlanRange> Rolls)
{
    /// <summary>Where it covers others, for a camera that goes to and fro; these do not overlap.</summary>
    public IReadOnlyList<CoveredAt> Changes { get; init; } = [];

    /// <summary>Where it is a tighter framing of another angle, in order.</summary>
    public IReadOnlyList<PlanRange> Tighter { get; init; } = [];

    /// <summary>Whether it covers somebody at any time.</summary>
    public bool Shows(string who) => Covers.Contains(who) || Changes.Any(c => c.People.Contains(who));

    /// <summary>Whom it covers at a moment.</summary>
    public IReadOnlyList<string> CoversAt(MediaTime at) => Changes.LastOrDefault(c => c.Range.Has(at))?.People ?? Covers;

    /// <summary>For how long of a range it covers somebody. Linear in the changes.</summary>
    public MediaTime Covered(string who, PlanRange range)
    {
        var (rest, own) = (range.Length, MediaTime.Zero);
        foreach (var change in Changes)
        {
            var shared = change.Range.Shared(range);
            rest -= shared;
            own += change.People.Contains(who) ? shared : MediaTime.Zero;
        }
        return Covers.Contains(who) ? own + rest : own;
    }
}

/// <summary>Somebody speaks.</summary>
public readonly record struct PlanTurn(string Who, PlanRange Range);

/// <summary>A person has chosen this angle here.</summary>
public readonly record struct LockedAngle(string Angle, PlanRange Range);

/// <summary>
/// What is planned: so much time, its angles, who speaks when, where people laugh, clap or cheer, what is locked, and the rules.
/// </summary>
public sealed record CameraProblem(
    MediaTime Length,
    IReadOnlyList<PlanAngle> Angles,
    IReadOnlyList<PlanTurn> Speech,
    IReadOnlyList<PlanRange> Crowd,
    IReadOnlyList<LockedAngle> Locked,
    CameraRules Rules
)
{
    /// <summary>More than this is planned by nobody.</summary>
    public static readonly MediaTime Longest = MediaTime.FromMilliseconds(24 * 3_600_000L);

    /// <summary>The most angles.</summary>
    public const int MostAngles = 32;

    /// <summary>The most people whom angles cover.</summary>
    public const int MostPeople = 64;

    /// <summary>Where the sound is cut anyhow: a shot ends there, and the same angle on both sides jumps.</summary>
    public IReadOnlyList<MediaTime> Seams { get; init; } = [];

    /// <summary>Seams at which the angles are those of another sitting: the same place in the list is no jump there.</summary>
    public IReadOnlyList<MediaTime> Elsewhere { get; init; } = [];

    /// <summary>Shots begin at whole multiples of this, and where something happens.</summary>
    public MediaTime Grid { get; init; } = MediaTime.FromMilliseconds(100);

    /// <summary>Throws <see cref="FormatException"/> that names what can not be planned, and why.</summary>
    public CameraProblem Checked()
    {
        Rules.Check();
        Refuse(Length <= MediaTime.Zero || Length > Longest, "“seconds” lies above 0, and is at most a day.");
        Refuse(Angles.Count > MostAngles, FormattableString.Invariant($"At most {MostAngles} angles are planned."));
        if (Angles.GroupBy(a => a.Name, StringComparer.Ordinal).FirstOrDefault(g => g.Count() > 1) is { } twice)
        {
            throw new FormatException($"Two angles are called “{twice.Key}”. Give each a name of its own.");
        }
        var people = Angles.SelectMany(a => a.Covers.Concat(a.Changes.SelectMany(c => c.People))).Distinct(StringComparer.Ordinal).Count();
        Refuse(people > MostPeople, FormattableString.Invariant($"Angles cover at most {MostPeople} people."));
        var rolls = Angles.ToDictionary(a => a.Name, a => PlanRange.Joined(a.Rolls), StringComparer.Ordinal);
        foreach (var own in Locked)
        {
            var rolling =
                rolls.GetValueOrDefault(own.Angle)
                ?? throw new FormatException($"“locked” names an angle “{own.Angle}”, and there is none.");
            var held = Within(own.Range);
            Refuse(
                held.In < held.Out && !(PlanRange.EndingAfter(rolling, held.In) is { } roll && roll.In <= held.In && held.Out <= roll.Out),
                $"“{own.Angle}” is locked from {own.Range.In} to {own.Range.Out}, and does not roll all along."
            );
        }
        foreach (var (one, next) in Locked.OrderBy(l => l.Range.In).Zip(Locked.OrderBy(l => l.Range.In).Skip(1)))
        {
            Refuse(
                one.Angle != next.Angle && one.Range.Meets(next.Range),
                $"“{one.Angle}” and “{next.Angle}” are both locked at {next.Range.In}."
            );
        }
        return this;
    }

    /// <summary>What of a range is planned.</summary>
    public PlanRange Within(PlanRange range) => new(MediaTime.Max(range.In, MediaTime.Zero), MediaTime.Min(range.Out, Length));

    private static void Refuse(bool when, string why)
    {
        if (when)
        {
            throw new FormatException(why);
        }
    }
}
