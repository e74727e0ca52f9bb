namespace EmberLane.Core.Tidy;

/// <summary>
/// A take of a line: the places of its first and last word, and how much of the line and of what was said is the same, 0–1.
/// </summary>
public sealed record ScriptTake(int First, int Last, double Score);

/// <summary>
/// A line with its takes in the order in which they were said, and the proposed one's place among them; null where it is missing.
/// </summary>
public sealed record MatchedLine(ScriptLine Line, IReadOnlyList<ScriptTake> Takes, int? Best);

/// <summary>
/// Finds the takes of each line of a written script in a talk: stretches of one voice that share runs of words with the line, aligned with
/// it word by word. A stretch belongs to the line that it fits best; among lines of the same words to the one that comes next.
/// </summary>
public static class ScriptTakes
{
    /// <summary>A take is as good as the best when its score is so near.</summary>
    private const double AsGood = 0.1;

    /// <summary>Two takes of one line, or of two, do not share more of their words than this.</summary>
    private const double Shared = 0.3;

    /// <summary>Lines in order, each with its takes. Close to linear in the words said and in the words of the script.</summary>
    public static IReadOnlyList<MatchedLine> Of(Talk talk, IReadOnlyList<ScriptLine> lines)
    {
        var same = lines.GroupBy(l => string.Join(' ', l.Keys)).Select(g => g.ToList()).ToList();
        var weights = new WordWeights(talk);
        var searches = talk.Voices.Select(v => new TakeSearch(talk, weights, v)).ToList();
        var found = same.SelectMany((g, n) => searches.SelectMany(s => s.Of(g[0]).Select(t => (Group: n, Take: t))))
            .OrderByDescending(f => f.Take.Score)
            .ThenBy(f => f.Take.First)
            .ToList();
        var takes = lines.ToDictionary(l => l.Number, _ => new List<ScriptTake>());
        var last = 0;
        foreach (var (group, take) in Apart(found).OrderBy(f => f.Take.First))
        {
            // Of lines with the same words the next one after the line said last; a line that is said again at once stays the same.
            var line =
                same[group].FirstOrDefault(l => l.Number == last) ?? same[group].FirstOrDefault(l => l.Number > last) ?? same[group][0];
            last = line.Number;
            takes[line.Number].Add(take);
        }
        return [.. lines.Select(l => new MatchedLine(l, takes[l.Number], Best(takes[l.Number])))];
    }

    // The last of those that are as good as the best.
    private static int? Best(List<ScriptTake> takes) =>
        takes.Count == 0 ? null : takes.FindLastIndex(t => t.Score >= takes.Max(x => x.Score) - AsGood);

    // The best first: what shares words with a better one is no take of its own.
    private static List<(int Group, ScriptTake Take)> Apart(List<(int Group, ScriptTake Take)> found)
    {
        var kept = new List<(int Group, ScriptTake Take)>();
        var byFirst = new SortedSet<(int First, int Last)>();
        var longest = 0;
        foreach (var one in found)
        {
            var (first, last) = (one.Take.First, one.Take.Last);
            var near = byFirst.GetViewBetween((first - longest, 0), (last, int.MaxValue));
            if (
                near.All(k =>
                    Math.Min(k.Last, last) - Math.Max(k.First, first) + 1 <= Shared * (Math.Min(k.Last - k.First, last - first) + 1)
                )
            )
            {
                kept.Add(one);
                byFirst.Add((first, last));
                longest = Math.Max(longest, last - first);
            }
        }
        return kept;
    }
}
