using System.Collections.Immutable;
using System.Globalization;
using EmberLane.Core.Edits;
using CameraEdit = EmberLane.Core.Edits.ChoiceEdit<EmberLane.Core.Cameras.CameraSetup>;

namespace EmberLane.Core.Cameras;

/// <summary>
/// What people chose for the cameras of a sitting, each choice under its name: whom an angle covers and from when on others, the pace and
/// single rules, where an angle is locked or framed tighter too, where people laugh or clap. What nobody chose is as it is proposed. Angles
/// are named by a number that the caller gives.
/// </summary>
public sealed record CameraSetup(ImmutableSortedDictionary<string, string> Choices) : IChoices<CameraSetup>
{
    private const string Cover = "cover ",
        Turn = "turn ",
        Rule = "rule ",
        Lock = "lock ",
        CrowdAt = "crowd ",
        Punch = "punch ",
        Place = "place ",
        PaceOf = "pace";

    /// <summary>The name of the choice that stories and lists follow the plan.</summary>
    public const string FollowedBy = "followed";

    /// <summary>The name of the choice that lists open the mics of the plan.</summary>
    public const string MicsFollowedBy = "mics";

    /// <summary>
    /// A choice as it is named and kept where files have other numbers, which <paramref name="source"/> gives; a value of null stays so.
    /// </summary>
    public static (string Name, string? Value) Renumbered(string name, string? value, Func<long, long> source)
    {
        if (name.StartsWith(Lock, StringComparison.Ordinal))
        {
            return (name, value?.Split(' ') is [var end, var angle] ? end + " " + Text(Angle(angle)) : value);
        }
        foreach (var kind in (ReadOnlySpan<string>)[Cover, Turn, Punch, Place])
        {
            if (name.StartsWith(kind, StringComparison.Ordinal))
            {
                var rest = name[kind.Length..].Split(' ', 2);
                return (kind + Text(Angle(rest[0])) + (rest.Length > 1 ? " " + rest[1] : ""), value);
            }
        }
        return (name, value);

        // The tighter framing of an angle has its number, below nothing.
        long Angle(string written) => Whole(written) is var number && number < 0 ? CloserOf(source(-number)) : source(number);
    }

    /// <summary>Nothing was chosen.</summary>
    public static readonly CameraSetup Empty = new(ImmutableSortedDictionary.Create<string, string>(StringComparer.Ordinal));

    /// <inheritdoc/>
    public static CameraSetup Of(ImmutableSortedDictionary<string, string> choices) => new(choices);

    /// <summary>Whom a person said that an angle covers; null where nobody did.</summary>
    public IReadOnlyList<string>? CoversOf(long angle) =>
        Choices.TryGetValue(Cover + Text(angle), out var people) ? people.Split('\n', StringSplitOptions.RemoveEmptyEntries) : null;

    /// <summary>Where an angle begins to show others than before, in order.</summary>
    public IReadOnlyList<CoverMark> MarksOf(long angle) =>
        [
            .. Choices
                .Where(c => c.Key.StartsWith(Turn + Text(angle) + " ", StringComparison.Ordinal))
                .Select(c => new CoverMark(
                    At(c.Key[(Turn + Text(angle) + " ").Length..]),
                    c.Value.Split('\n', StringSplitOptions.RemoveEmptyEntries)
                ))
                .OrderBy(m => m.At),
        ];

    /// <summary>Says whom an angle shows from a moment on, until its next mark; null takes the mark of that moment away.</summary>
    public static CameraEdit CoversFrom(long angle, MediaTime at, IReadOnlyList<string>? people) =>
        ChoiceEdit.Of<CameraSetup>((Turn + Text(angle) + " " + Key(at), people is null ? null : string.Join('\n', people)));

    /// <summary>By which number the tighter framing of an angle is chosen, and told whom it covers.</summary>
    public static long CloserOf(long angle) => -angle;

    /// <summary>The tighter framing of an angle; null where it has none.</summary>
    public PunchIn? PunchOf(long angle) => Choices.TryGetValue(Punch + Text(angle), out var text) ? PunchIn.Read(text) : null;

    /// <summary>
    /// Gives an angle a tighter framing, or takes it away with null. Throws <see cref="EditRefusedException"/> for one that can not be.
    /// </summary>
    public static CameraEdit Closer(long angle, PunchIn? framing) =>
        ChoiceEdit.Of<CameraSetup>((Punch + Text(angle), framing?.Check().Written));

    /// <summary>
    /// Where people are in the picture of an angle, in hundredths of its width, as far as somebody said it: what copies of narrower shapes
    /// are cut around.
    /// </summary>
    public IReadOnlyDictionary<string, int> PlacesOf(long angle) =>
        Choices
            .Where(c => c.Key.StartsWith(Place + Text(angle) + " ", StringComparison.Ordinal))
            .ToDictionary(c => c.Key[(Place + Text(angle) + " ").Length..], c => (int)Whole(c.Value), StringComparer.Ordinal);

    /// <summary>
    /// Says where a person is in the picture of an angle, or forgets it with null. Throws <see cref="EditRefusedException"/> for a place
    /// outside of it.
    /// </summary>
    public static CameraEdit Placed(long angle, string person, int? across) =>
        across is < 0 or > 100
            ? throw new EditRefusedException("A person is at 0 to 100 % of the picture's width.")
            : ChoiceEdit.Of<CameraSetup>((Place + Text(angle) + " " + person, across is { } at ? Text(at) : null));

    /// <summary>Whether stories and lists show the sitting by its plan.</summary>
    public bool IsFollowed => Choices.ContainsKey(FollowedBy);

    /// <summary>Has stories and lists follow the plan, or not.</summary>
    public static CameraEdit Follow(bool follow) => ChoiceEdit.Of<CameraSetup>((FollowedBy, follow ? "yes" : null));

    /// <summary>Whether lists open the mics as they are planned.</summary>
    public bool MicsAreFollowed => Choices.ContainsKey(MicsFollowedBy);

    /// <summary>Has lists open the mics as they are planned, or take the sitting's sound as it is.</summary>
    public static CameraEdit FollowMics(bool follow) => ChoiceEdit.Of<CameraSetup>((MicsFollowedBy, follow ? "yes" : null));

    /// <summary>The name of the pace.</summary>
    public string Pace => Choices.GetValueOrDefault(PaceOf, "even");

    /// <summary>The rules of the pace with those that were chosen one by one.</summary>
    public CameraRules Rules =>
        CameraRule
            .All.Where(r => Choices.ContainsKey(Rule + r.Name))
            .Aggregate(CameraRules.Paces.GetValueOrDefault(Pace) ?? CameraRules.Even, (rules, r) => r.Read(rules, Choices[Rule + r.Name]));

    /// <summary>Which rules were chosen one by one.</summary>
    public bool IsOwn(CameraRule rule) => Choices.ContainsKey(Rule + rule.Name);

    /// <summary>Where angles were chosen by hand, in order.</summary>
    public IReadOnlyList<(long Angle, PlanRange Range)> Locks =>
        [
            .. Choices
                .Where(c => c.Key.StartsWith(Lock, StringComparison.Ordinal))
                .Select(c => (Whole(c.Value.Split(' ')[1]), new PlanRange(At(c.Key[Lock.Length..]), At(c.Value.Split(' ')[0]))))
                .OrderBy(l => l.Item2.In),
        ];

    /// <summary>Where people laugh, clap or cheer, in order.</summary>
    public IReadOnlyList<PlanRange> Crowd =>
        [
            .. Choices
                .Where(c => c.Key.StartsWith(CrowdAt, StringComparison.Ordinal))
                .Select(c => new PlanRange(At(c.Key[CrowdAt.Length..]), At(c.Value)))
                .OrderBy(r => r.In),
        ];

    /// <summary>Says whom an angle covers; null gives it back to what is proposed.</summary>
    public static CameraEdit Covers(long angle, IReadOnlyList<string>? people) =>
        ChoiceEdit.Of<CameraSetup>((Cover + Text(angle), people is null ? null : string.Join('\n', people)));

    /// <summary>Chooses a pace; rules chosen one by one are let go. Throws <see cref="EditRefusedException"/> for another.</summary>
    public CameraEdit AtPace(string pace) =>
        CameraRules.Paces.ContainsKey(pace)
            ? ChoiceEdit.Of<CameraSetup>([
                (PaceOf, pace),
                .. Choices.Keys.Where(k => k.StartsWith(Rule, StringComparison.Ordinal)).Select(k => (k, (string?)null)),
            ])
            : throw new EditRefusedException($"There is no pace “{pace}”.");

    /// <summary>
    /// Chooses rules, as they are typed; one that is as the pace has it is none of its own. Throws <see cref="EditRefusedException"/> that
    /// names what contradicts what.
    /// </summary>
    public CameraEdit WithRules(IReadOnlyDictionary<string, string> typed)
    {
        var pace = CameraRules.Paces.GetValueOrDefault(Pace) ?? CameraRules.Even;
        try
        {
            var asked = CameraRule.All.Where(r => typed.ContainsKey(r.Name)).ToList();
            asked.Aggregate(Rules, (rules, r) => r.Read(rules, typed[r.Name].Trim())).Check();
            return ChoiceEdit.Of<CameraSetup>([
                .. asked.Select(r =>
                {
                    var written = r.Written(r.Read(pace, typed[r.Name].Trim()));
                    return (Rule + r.Name, written == r.Written(pace) ? null : written);
                }),
            ]);
        }
        catch (FormatException bad)
        {
            throw new EditRefusedException(bad.Message);
        }
    }

    /// <summary>Shows an angle in a range, in place of whatever was chosen there; without an angle the plan chooses again.</summary>
    public CameraEdit Show(long? angle, PlanRange range)
    {
        var changes = new Dictionary<string, string?>(StringComparer.Ordinal);
        foreach (var (own, was) in Locks.Where(l => l.Range.Meets(range)))
        {
            changes[Lock + Key(was.In)] = null;
            if (was.In < range.In)
            {
                changes[Lock + Key(was.In)] = Locked(own, range.In);
            }
            if (range.Out < was.Out)
            {
                changes[Lock + Key(range.Out)] = Locked(own, was.Out);
            }
        }
        if (angle is { } chosen)
        {
            changes[Lock + Key(range.In)] = Locked(chosen, range.Out);
        }
        return ChoiceEdit.Of<CameraSetup>([.. changes.Select(c => (c.Key, c.Value))]);

        static string Locked(long angle, MediaTime until) => $"{Key(until)} {Text(angle)}";
    }

    /// <summary>Shows two angles one behind the other, in place of whatever was chosen there.</summary>
    public CameraEdit Show((long Angle, PlanRange Range) one, (long Angle, PlanRange Range) next)
    {
        var first = Show(one.Angle, one.Range);
        return first.Then(first.Apply(this).State.Show(next.Angle, next.Range));
    }

    /// <summary>Says that people laugh, clap or cheer in a range, or that they do not.</summary>
    public CameraEdit MarkCrowd(PlanRange range, bool isCrowd)
    {
        var met = Crowd.Where(c => c.Meets(range)).ToList();
        var stays = isCrowd ? PlanRange.Joined([.. met, range]) : PlanRange.Without(met, [range]);
        return ChoiceEdit.Of<CameraSetup>([
            .. met.Where(m => stays.All(s => s.In != m.In)).Select(m => (CrowdAt + Key(m.In), (string?)null)),
            .. stays.Select(s => (CrowdAt + Key(s.In), (string?)Key(s.Out))),
        ]);
    }

    private static string Text(long number) => number.ToString(CultureInfo.InvariantCulture);

    private static string Key(MediaTime at) => Text(at.Units);

    private static MediaTime At(string text) => new(Whole(text));

    private static long Whole(string text) => long.Parse(text, NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture);
}
