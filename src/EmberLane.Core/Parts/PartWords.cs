namespace EmberLane.Core.Parts;

/// <summary>A term with how often it is said, and the units in which it is.</summary>
public sealed record TermCount(string Word, int Count, IReadOnlyList<int> Units);

/// <summary>What a part is about: its most telling words, and the units that tell most of it, in their order.</summary>
public sealed record PartText(IReadOnlyList<string> Words, IReadOnlyList<int> Sentences);

/// <summary>By which words parts differ from each other.</summary>
public static class PartWords
{
    /// <summary>So many words name a part, and so many sentences stand for it.</summary>
    private const int Named = 3,
        Shown = 2;

    /// <summary>A sentence stands for a part when it has so many words at least; longer ones than the other count as no longer.</summary>
    private const int Short = 5,
        Long = 30;

    /// <summary>
    /// Of each of the parts that begin with these units. A word tells the more the oftener it is said in the part and the fewer other parts
    /// have it.
    /// </summary>
    public static IReadOnlyList<PartText> Of(TalkUnits talk, IReadOnlyList<int> begins)
    {
        var parts = begins.Select((b, i) => (First: b, End: i + 1 < begins.Count ? begins[i + 1] : talk.Units.Count)).ToList();
        var counts = parts.Select(p => Counts(talk, p.First, p.End)).ToList();
        var within = new int[talk.Terms.Count];
        foreach (var term in counts.SelectMany(c => c.Keys))
        {
            within[term]++;
        }
        return [.. parts.Zip(counts, (p, c) => Of(talk, p.First, p.End, term => Weight(c[term], within[term])))];

        double Weight(int times, int partsWith) => (1 + Math.Log(times)) * Math.Log(1.0 + ((double)parts.Count / partsWith));
    }

    private static PartText Of(TalkUnits talk, int first, int end, Func<int, double> weight)
    {
        var terms = Counts(talk, first, end);
        var telling = terms.Keys.OrderByDescending(weight).ThenBy(t => t).Take(Named).Select(t => talk.Terms[t]).ToList();
        var sentences = Enumerable
            .Range(first, end - first)
            .Select(u => (Unit: u, Length: talk.Units[u].Last - talk.Units[u].First + 1))
            .Where(u => u.Length >= Short && !talk.Units[u.Unit].Asks)
            .OrderByDescending(u => talk.Units[u.Unit].Terms.Distinct().Sum(weight) / Math.Sqrt(Math.Clamp(u.Length, Short, Long)))
            .ThenBy(u => u.Unit)
            .Take(Shown)
            .Select(u => u.Unit)
            .Order()
            .ToList();
        return new PartText(telling, sentences);
    }

    /// <summary>The terms that are said most in a talk, at least twice, with the units that hold them; at most so many.</summary>
    public static IReadOnlyList<TermCount> KeyTerms(TalkUnits talk, int most) =>
        [
            .. talk
                .Units.SelectMany((u, i) => u.Terms.Select(t => (Term: t, Unit: i)))
                .GroupBy(t => t.Term)
                .Where(g => g.Count() > 1)
                .OrderByDescending(g => g.Count())
                .ThenBy(g => g.Key)
                .Take(most)
                .Select(g => new TermCount(talk.Terms[g.Key], g.Count(), [.. g.Select(t => t.Unit).Distinct()])),
        ];

    private static Dictionary<int, int> Counts(TalkUnits talk, int first, int end) =>
        Enumerable.Range(first, end - first).SelectMany(u => talk.Units[u].Terms).CountBy(t => t).ToDictionary();
}
