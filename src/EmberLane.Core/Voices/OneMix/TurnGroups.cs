using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices.OneMix;

/// <summary>
/// A join of the two nearest groups: the group of each turn before it, which two, its signs (<see cref="JoinSigns"/>; null where there is
/// but one group left), and the seconds of the smaller one.
/// </summary>
internal sealed record TurnJoin(int[] Groups, (int One, int Other) Pair, double[]? Signs, double Smaller);

/// <summary>
/// Groups the turns of a sitting by voice. Ward's tree gives more groups than there are people; then, again and again, each turn goes to
/// the group that it fits best, by its features and by the kinds of sound in it, and the two nearest groups are joined.
/// </summary>
internal sealed class TurnGroups
{
    /// <summary>Groups to begin with, and how often turns change theirs at the begin and after a join.</summary>
    private const int Most = 9,
        AtFirst = 3,
        AfterJoin = 2;

    /// <summary>
    /// How heavily a turn's distance along the directions weighs beside how likely its sounds are: measured, see the bench.
    /// </summary>
    private const double Distance = 4;

    /// <summary>
    /// In seconds: more talk than this says no more of how far two groups lie apart, since nobody sounds the same all day; and who says
    /// less in all is next to nothing.
    /// </summary>
    private const double Compared = 500,
        Least = 4;

    /// <summary>
    /// A number of people that is at least so likely is not doubted: of those 97 of 100 were right, of people left out of what was learned.
    /// </summary>
    private const double Sure = 0.7;

    /// <summary>By how much a person more is preferred, as a logarithm of odds: on the tuning half it changes nothing.</summary>
    private const double More = 0.2;

    /// <summary>How likely a group of next to nothing is somebody of their own.</summary>
    private const double NextToNothing = 0.3;

    /// <summary>So many turns of each group are told to be heard.</summary>
    private const int ToHear = 3;

    private readonly double[][] rows;
    private readonly double[] seconds;
    private readonly double[] compared;
    private readonly KindCounts[] counts;
    private readonly SoundKinds kinds;

    /// <summary>
    /// Turns along the directions of a <see cref="VoiceSpace"/>, their seconds, and what they tell of the kinds of sound.
    /// </summary>
    public TurnGroups(double[][] rows, double[] seconds, KindCounts[] counts, SoundKinds kinds)
    {
        (this.rows, this.seconds, this.counts, this.kinds) = (rows, seconds, counts, kinds);
        var share = Math.Min(1, Compared / seconds.Sum());
        compared = [.. seconds.Select(s => s * share)];
    }

    /// <summary>
    /// From many groups down to one: the group of each turn before each join, and what tells whether that join is of two people. The last
    /// has one group and no signs. <paramref name="least"/> groups to begin with, where more than usual are asked for.
    /// </summary>
    public IReadOnlyList<TurnJoin> Joins(int least = 0)
    {
        var joins = new List<TurnJoin>();
        var groups = Settled(TurnTree.Groups(rows, seconds, Math.Max(Most, least)), AtFirst);
        double? before = null;
        while (true)
        {
            var voices = Voices(groups);
            if (voices.Count == 1)
            {
                joins.Add(new TurnJoin(groups, (0, 0), null, voices[0].Seconds));
                return joins;
            }
            var (one, other) = Nearest(voices);
            joins.Add(
                new TurnJoin(
                    groups,
                    (one, other),
                    JoinSigns.Of(voices[one], voices[other], before),
                    Math.Min(voices[one].Seconds, voices[other].Seconds)
                )
            );
            before = voices[one].From(voices[other]);
            groups = Settled([.. groups.Select(g => g == one ? other : g)], AfterJoin);
        }
    }

    /// <summary>The groups of the likeliest number of people (<see cref="Chances"/>).</summary>
    public static int[] Found(IReadOnlyList<TurnJoin> joins, VoiceSpace space)
    {
        var chances = Chances(joins, space);
        return joins[Array.IndexOf(chances, chances.Max())].Groups;
    }

    /// <summary>
    /// Whether there may be one person more or fewer than are likeliest, and turns of the two groups of whom that is the question. Null
    /// where the number is sure, which it is never where the talk is not <paramref name="clear"/>, and where there is but one group at all.
    /// </summary>
    public static VoiceDoubt? Doubt(IReadOnlyList<TurnJoin> joins, VoiceSpace space, IReadOnlyList<StepRange> turns, bool clear)
    {
        var chances = Chances(joins, space);
        var found = Array.IndexOf(chances, chances.Max());
        if (joins.Count < 2 || (clear && chances[found] >= Sure))
        {
            return null;
        }
        // The join before it is one that a person more would not have made, the next one that a person fewer would.
        var (join, other) = new[] { (Join: found - 1, Other: found - 1), (Join: found, Other: found + 1) }
            .Where(d => d.Other >= 0 && d.Other < joins.Count)
            .MaxBy(d => chances[d.Other]);
        return new VoiceDoubt(joins[other].Groups.Max() + 1, Heard(p => p.One), Heard(p => p.Other));

        // The longest turns of a group tell most.
        IReadOnlyList<StepRange> Heard(Func<(int One, int Other), int> side) =>
            [
                .. turns
                    .Where((_, t) => joins[join].Groups[t] == side(joins[join].Pair))
                    .OrderByDescending(t => t.Count)
                    .Take(ToHear)
                    .OrderBy(t => t.First),
            ];
    }

    /// <summary>
    /// How likely there are as many people as there are groups before each join: all joins until there were of one person, that join and
    /// all later ones of two. A group of next to nothing says little either way. Near a draw there is a person more: two voices of one
    /// person are mended by giving both one name, one voice of two people is not.
    /// </summary>
    private static double[] Chances(IReadOnlyList<TurnJoin> joins, VoiceSpace space)
    {
        const double hardly = 1e-3;
        var ofTwo = joins.Select(j => j.Signs is null ? (double?)null : space.TwoPeople(j.Signs)).ToArray();
        var logs = new double[joins.Count];
        for (var i = 0; i < logs.Length; i++)
        {
            logs[i] = More * joins[i].Groups.Max();
            for (var j = 0; j < logs.Length; j++)
            {
                logs[i] +=
                    ofTwo[j] is not { } two ? 0
                    : j >= i ? Math.Log((joins[j].Smaller >= Least ? two : NextToNothing) + hardly)
                    : joins[j].Smaller >= Least ? Math.Log(1 - two + hardly)
                    : 0;
            }
        }
        var most = logs.Max();
        var all = logs.Sum(l => Math.Exp(l - most));
        return [.. logs.Select(l => Math.Exp(l - most) / all)];
    }

    private static (int One, int Other) Nearest(List<VoiceGroup> voices)
    {
        var best = (One: 1, Other: 0);
        for (var i = 1; i < voices.Count; i++)
        {
            for (var j = 0; j < i; j++)
            {
                best = voices[i].From(voices[j]) < voices[best.One].From(voices[best.Other]) ? (i, j) : best;
            }
        }
        return best;
    }

    private int[] Settled(int[] groups, int rounds)
    {
        groups = Numbered(groups);
        for (var round = 0; round < rounds; round++)
        {
            var voices = Voices(groups);
            var next = new int[groups.Length];
            Parallel.For(
                0,
                next.Length,
                t =>
                {
                    var most = double.NegativeInfinity;
                    for (var g = 0; g < voices.Count; g++)
                    {
                        double away = 0;
                        for (var d = 0; d < rows[t].Length; d++)
                        {
                            away += (rows[t][d] - voices[g].Mean[d]) * (rows[t][d] - voices[g].Mean[d]);
                        }
                        var fits = counts[t].Fits(voices[g].Moves) - (Distance * seconds[t] * away);
                        (next[t], most) = fits > most ? (g, fits) : (next[t], most);
                    }
                }
            );
            next = Numbered(next);
            if (next.SequenceEqual(groups))
            {
                break;
            }
            groups = next;
        }
        return groups;
    }

    // From 0, without gaps, in the order of their numbers.
    private static int[] Numbered(int[] groups)
    {
        var names = groups.Distinct().Order().Select((g, i) => (g, i)).ToDictionary(p => p.g, p => p.i);
        return [.. groups.Select(g => names[g])];
    }

    private List<VoiceGroup> Voices(int[] groups) =>
        [.. Enumerable.Range(0, groups.Max() + 1).Select(g => Voice([.. Enumerable.Range(0, groups.Length).Where(t => groups[t] == g)]))];

    private VoiceGroup Voice(List<int> turns)
    {
        var all = turns.Sum(t => compared[t]);
        var mean = new double[rows[0].Length];
        var variance = new double[mean.Length];
        for (var d = 0; d < mean.Length; d++)
        {
            mean[d] = turns.Sum(t => compared[t] * rows[t][d]) / all;
            variance[d] = turns.Sum(t => compared[t] * (rows[t][d] - mean[d]) * (rows[t][d] - mean[d])) / all;
        }
        var said = new KindCounts(kinds);
        foreach (var turn in turns)
        {
            said.Add(counts[turn]);
        }
        return new VoiceGroup(mean, variance, all, said.Moves());
    }
}
