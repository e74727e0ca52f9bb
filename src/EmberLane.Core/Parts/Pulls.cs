using EmberLane.Core.Tidy;

namespace EmberLane.Core.Parts;

/// <summary>A length that is asked for, both ends included.</summary>
public sealed record PullLength(MediaTime Least, MediaTime Most)
{
    /// <summary>The lengths that are offered: under 30 s, 30 to 60 s, 60 to 90 s.</summary>
    public static readonly PullLength Short = Seconds(8, 30),
        Middle = Seconds(30, 60),
        Long = Seconds(60, 90);

    private static PullLength Seconds(int least, int most) =>
        new(MediaTime.FromMilliseconds(1000L * least), MediaTime.FromMilliseconds(1000L * most));
}

/// <summary>A stretch of talk that stands by itself: the places of its first and last word, how good it is, and why, in words.</summary>
public sealed record Pull(int First, int Last, int Score, string Reason);

/// <summary>What is known of words beside their text.</summary>
public interface IPullFacts
{
    /// <summary>Whether it is not sure what was said there.</summary>
    bool IsDoubtful(int word);

    /// <summary>Whether a word is set aside.</summary>
    bool IsAside(int word);

    /// <summary>Whether it is of a hesitation.</summary>
    bool IsHesitation(int word);
}

/// <summary>
/// Stretches of a wanted length that begin and end with a thought, hold one theme, have no doubtful ends and few hesitations.
/// </summary>
public static class Pulls
{
    private const int Best = 100;

    /// <summary>What each flaw takes away.</summary>
    private const int LinkedBegin = 20,
        OpenEnd = 20,
        DoubtfulEnd = 25,
        AnotherTheme = 25,
        Hesitation = 300,
        ThrownIn = 8,
        Aside = 15;

    /// <summary>What is less good than this is not offered.</summary>
    private const int Least = 40;

    /// <summary>A pause from which on a thought has ended, where no stop tells.</summary>
    private static readonly MediaTime Rest = MediaTime.FromMilliseconds(700);

    // A sentence that begins so leans on the one before.
    private static readonly HashSet<string> Linking =
    [
        "and",
        "but",
        "or",
        "so",
        "because",
        "then",
        "which",
        "that",
        "also",
        "too",
        "he",
        "she",
        "they",
        "it",
        "this",
        "those",
        "these",
        "him",
        "her",
        "them",
    ];

    /// <summary>
    /// The best of a talk, none over another, the best first; at most <paramref name="most"/>. <paramref name="begins"/> are the units with
    /// which its parts begin. Cost grows with the units and those that a stretch of the length holds.
    /// </summary>
    public static IReadOnlyList<Pull> Of(
        Talk talk,
        TalkUnits units,
        IReadOnlyList<int> begins,
        IPullFacts facts,
        PullLength length,
        int most
    )
    {
        var part = new int[units.Units.Count];
        for (int unit = 0, at = -1; unit < part.Length; unit++)
        {
            at += at + 1 < begins.Count && begins[at + 1] == unit ? 1 : 0;
            part[unit] = at;
        }
        var all = new List<Pull>();
        for (var from = 0; from < units.Units.Count; from++)
        {
            all.AddRange(From(talk, units.Units, part, facts, length, from));
        }
        var taken = new List<Pull>();
        foreach (var pull in all.OrderByDescending(p => p.Score).ThenBy(p => p.First))
        {
            if (taken.Count == most)
            {
                break;
            }
            if (taken.All(t => t.Last < pull.First || pull.Last < t.First))
            {
                taken.Add(pull);
            }
        }
        return taken;
    }

    // All that begin with a unit: as long as the same voice goes on, whatever is thrown in.
    private static IEnumerable<Pull> From(
        Talk talk,
        IReadOnlyList<TalkUnit> units,
        int[] part,
        IPullFacts facts,
        PullLength length,
        int from
    )
    {
        var voice = units[from].Voice;
        var own = 0;
        var others = 0;
        var last = from;
        for (var to = from; to < units.Count; to++)
        {
            var words = units[to].Last - units[to].First + 1;
            if (units[to].Voice != voice)
            {
                others += words;
                // A question, or more than a word thrown in, and another speaks.
                if (units[to].Asks || words > 4)
                {
                    yield break;
                }
                continue;
            }
            own += words;
            last = to;
            var lasts = talk.Words[units[last].Last].Out - talk.Words[units[from].First].In;
            if (lasts > length.Most)
            {
                yield break;
            }
            if (lasts >= length.Least && own > 0 && Weighed(talk, units, part, facts, from, last, others) is { Score: >= Least } pull)
            {
                yield return pull;
            }
        }
    }

    private static Pull Weighed(Talk talk, IReadOnlyList<TalkUnit> units, int[] part, IPullFacts facts, int from, int to, int thrownIn)
    {
        int first = units[from].First,
            last = units[to].Last,
            count = last - first + 1;
        var begin = talk.Words[first];
        var hesitations = Enumerable.Range(first, count).Count(facts.IsHesitation);
        var aside = Enumerable.Range(first, count).Count(facts.IsAside);
        var isLinked = Linking.Contains(begin.Key);
        var ends = talk.Words[last].EndsSentence || last + 1 >= talk.Words.Count || talk.Between(last, last + 1) >= Rest;
        var isWhole = !isLinked && ends;
        var doubtful = facts.IsDoubtful(first) || facts.IsDoubtful(last);
        var isOne = part[from] == part[to];
        var score =
            Best
            - (isLinked ? LinkedBegin : 0)
            - (ends ? 0 : OpenEnd)
            - (doubtful ? DoubtfulEnd : 0)
            - (isOne ? 0 : AnotherTheme)
            - (Hesitation * hesitations / count)
            - (thrownIn > 0 ? ThrownIn : 0)
            - (aside > 0 ? Aside : 0)
            - (units[from].Asks ? OpenEnd : 0);
        string[] reasons =
        [
            isWhole ? "whole thoughts"
            : isLinked ? $"begins with “{begin.Key}”"
            : "its end is open",
            isOne ? "one theme" : "over a change of theme",
            doubtful ? "a doubtful end" : "sure ends",
            hesitations == 0 ? "no hesitation"
            : hesitations == 1 ? "one hesitation"
            : FormattableString.Invariant($"{hesitations} hesitations"),
            aside > 0 ? "some of it is set aside" : "",
        ];
        return new Pull(first, last, score, string.Join(", ", reasons.Where(r => r.Length > 0)));
    }
}
