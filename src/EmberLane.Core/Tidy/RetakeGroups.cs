namespace EmberLane.Core.Tidy;

/// <summary>Pairs of attempts that share one are attempts at one thing.</summary>
internal static class RetakeGroups
{
    /// <summary>Two stretches that begin with the same word, or have so much in common, are one attempt.</summary>
    private const double One = 0.5;

    /// <summary>The attempts at each thing, in order; of one that was found with different ends the longest.</summary>
    public static IEnumerable<IReadOnlyList<Span>> Of(IReadOnlyList<(Span Earlier, Span Later)> pairs)
    {
        var spans = new List<Span>();
        var group = new List<int>();
        foreach (var (earlier, later) in pairs)
        {
            int one = Known(earlier),
                other = Known(later);
            int from = group[other],
                to = group[one];
            if (from != to)
            {
                for (var i = 0; i < group.Count; i++)
                {
                    group[i] = group[i] == from ? to : group[i];
                }
            }
        }
        return spans
            .Select((s, i) => (Span: s, Group: group[i]))
            .GroupBy(s => s.Group, s => s.Span)
            .Select(g => Apart([.. g]))
            .Where(g => g.Count > 1);

        int Known(Span span)
        {
            var at = spans.FindIndex(s => s.First == span.First || s.Common(span) >= One);
            if (at < 0)
            {
                spans.Add(span);
                group.Add(spans.Count - 1);
                return spans.Count - 1;
            }
            spans[at] = span.Places.Length > spans[at].Places.Length ? span : spans[at];
            return at;
        }
    }

    // A span that grew into another of its group leaves that one out.
    private static IReadOnlyList<Span> Apart(IReadOnlyList<Span> spans)
    {
        var apart = new List<Span>();
        foreach (var span in spans.OrderByDescending(s => s.Places.Length))
        {
            if (apart.TrueForAll(a => a.First > span.Last || span.First > a.Last))
            {
                apart.Add(span);
            }
        }
        return [.. apart.OrderBy(s => s.First)];
    }
}
