namespace EmberLane.Core.Stories;

/// <summary>What became of a piece from one version to another.</summary>
public enum Became
{
    /// <summary>It is where and as it was.</summary>
    Same,

    /// <summary>It is new.</summary>
    CameIn,

    /// <summary>It is there no more.</summary>
    WentOut,

    /// <summary>It lies elsewhere in the order.</summary>
    Moved,

    /// <summary>It is where it was, and something of it is not as it was.</summary>
    Changed,

    /// <summary>It lies elsewhere, and is not as it was.</summary>
    MovedAndChanged,
}

/// <summary>
/// A line of two versions side by side: the piece as it was and as it is; one of them is null where it went out or came in.
/// </summary>
/// <param name="WasAt">The place that it had, from 0; −1 where it came in.</param>
public sealed record ComparedPiece(Became Became, Piece? Was, Piece? Is, int WasAt = -1);

/// <summary>Two versions of a story, or two stories, compared as a script.</summary>
public static class StoryCompare
{
    /// <summary>
    /// The pieces of the second in their order, with those that went out where they were. Pieces are the same by id; where two stories have
    /// no ids in common, by what they show. As few as possible count as moved. n log n in the pieces.
    /// </summary>
    public static IReadOnlyList<ComparedPiece> Of(Story was, Story now)
    {
        var partners = Partners(was, now);
        var paired = partners.Where(p => p >= 0).ToList();
        var stays = RisingRun.Of(paired).Select(i => paired[i]).ToHashSet();
        var pairs = partners.Where(p => p >= 0).ToHashSet();
        var lines = new List<ComparedPiece>();
        var told = 0;
        for (var i = 0; i < now.Pieces.Count; i++)
        {
            var partner = partners[i];
            if (partner >= 0 && stays.Contains(partner))
            {
                GoneBefore(partner);
            }
            var before = partner < 0 ? null : was.Pieces[partner];
            var isChanged = before is not null && before with { Id = now.Pieces[i].Id } != now.Pieces[i];
            lines.Add(
                new ComparedPiece(
                    before is null ? Became.CameIn
                        : !stays.Contains(partner)
                            ? isChanged ? Became.MovedAndChanged
                                : Became.Moved
                        : isChanged ? Became.Changed
                        : Became.Same,
                    before,
                    now.Pieces[i],
                    partner
                )
            );
        }
        GoneBefore(was.Pieces.Count);
        return lines;

        void GoneBefore(int place)
        {
            for (; told < place; told++)
            {
                if (!pairs.Contains(told))
                {
                    lines.Add(new ComparedPiece(Became.WentOut, was.Pieces[told], null, told));
                }
            }
        }
    }

    /// <summary>
    /// What is told of lines: each that is not the same with so many around it, and in place of every further row of lines how many they
    /// are. A row of one is told itself.
    /// </summary>
    public static IEnumerable<(ComparedPiece? Line, int Same)> Told(IReadOnlyList<ComparedPiece> lines, int around)
    {
        var next = NextChanges(lines);
        int last = -1,
            passed = 0;
        for (var i = 0; i < lines.Count; i++)
        {
            last = lines[i].Became == Became.Same ? last : i;
            if ((last < 0 || i - last > around) && next[i] - i > around && around < lines.Count)
            {
                passed++;
                continue;
            }
            if (passed > 0)
            {
                yield return passed == 1 ? (lines[i - 1], 0) : (null, passed);
                passed = 0;
            }
            yield return (lines[i], 0);
        }
        if (passed > 0)
        {
            yield return passed == 1 ? (lines[^1], 0) : (null, passed);
        }
    }

    // For each line the place of the next, itself included, that is not the same; far beyond the end where none is.
    private static int[] NextChanges(IReadOnlyList<ComparedPiece> lines)
    {
        var next = new int[lines.Count];
        for (var i = lines.Count - 1; i >= 0; i--)
        {
            next[i] =
                lines[i].Became != Became.Same ? i
                : i + 1 < lines.Count ? next[i + 1]
                : int.MaxValue;
        }
        return next;
    }

    // For each piece now the place that it had, or −1.
    private static int[] Partners(Story was, Story now)
    {
        var places = was.Pieces.Index().ToDictionary(p => p.Item.Id, p => p.Index);
        var partners = now.Pieces.Select(p => places.GetValueOrDefault(p.Id, -1)).ToArray();
        var taken = partners.Where(p => p >= 0).ToHashSet();
        var alike = new Dictionary<Piece, Queue<int>>();
        foreach (var (i, piece) in was.Pieces.Index().Where(p => !taken.Contains(p.Index)))
        {
            if (!alike.TryGetValue(Bare(piece), out var queue))
            {
                alike[Bare(piece)] = queue = new Queue<int>();
            }
            queue.Enqueue(i);
        }
        for (var i = 0; i < partners.Length; i++)
        {
            if (partners[i] < 0 && alike.TryGetValue(Bare(now.Pieces[i]), out var queue) && queue.Count > 0)
            {
                partners[i] = queue.Dequeue();
            }
        }
        return partners;
    }

    private static Piece Bare(Piece piece) => piece with { Id = Guid.Empty };
}
