namespace EmberLane.Core.Captions;

/// <summary>Brings two changed wordings of one text together.</summary>
public static class WordMerge
{
    /// <summary>
    /// The words of <paramref name="typed"/>, with what <paramref name="now"/> made of <paramref name="before"/> in it; line ends of the
    /// typed text stay where they are. Null where both changed the same words, each in a way of its own. Source: three-way merging by
    /// longest common subsequences, as Khanna, Kunal and Pierce, A Formal Investigation of Diff3, 2007. Squares with the words.
    /// </summary>
    public static string? Of(string before, string typed, string now)
    {
        string[] old = WordsOf(before),
            mended = WordsOf(now);
        // Of the typed words, those that begin a line behind another.
        var begins = new HashSet<int>();
        var own = new List<string>();
        foreach (var line in typed.Split('\n'))
        {
            if (own.Count > 0)
            {
                begins.Add(own.Count);
            }
            own.AddRange(WordsOf(line));
        }
        var (inOwn, inMended) = (Beside(old, [.. own]), Beside(old, mended));
        var merged = new List<(string Text, bool BeginsLine)>();
        int o = 0,
            t = 0,
            m = 0;
        while (true)
        {
            // The next word that all three have; what lies before it is a place that somebody may have changed.
            var next = o;
            while (next < old.Length && (inOwn[next] < t || inMended[next] < m))
            {
                next++;
            }
            var (ownEnd, mendedEnd) = next < old.Length ? (inOwn[next], inMended[next]) : (own.Count, mended.Length);
            var was = old[o..next];
            var (typedHere, nowHere) = (own[t..ownEnd], mended[m..mendedEnd]);
            if (was.SequenceEqual(typedHere))
            {
                merged.AddRange(nowHere.Select((w, i) => (w, i == 0 && Enumerable.Range(t, ownEnd - t).Any(begins.Contains))));
            }
            else if (was.SequenceEqual(nowHere) || typedHere.SequenceEqual(nowHere))
            {
                merged.AddRange(typedHere.Select((w, i) => (w, begins.Contains(t + i))));
            }
            else
            {
                return null;
            }
            if (next == old.Length)
            {
                return Written(merged);
            }
            merged.Add((own[ownEnd], begins.Contains(ownEnd)));
            (o, t, m) = (next + 1, ownEnd + 1, mendedEnd + 1);
        }
    }

    /// <summary>
    /// For each of our words the place of theirs that it lies beside, or −1; in order, only the same beside each other, as many as can be.
    /// </summary>
    public static int[] Beside(IReadOnlyList<string> ours, IReadOnlyList<string> theirs)
    {
        var longest = new int[ours.Count + 1, theirs.Count + 1];
        for (var i = ours.Count - 1; i >= 0; i--)
        {
            for (var j = theirs.Count - 1; j >= 0; j--)
            {
                longest[i, j] = ours[i] == theirs[j] ? longest[i + 1, j + 1] + 1 : Math.Max(longest[i + 1, j], longest[i, j + 1]);
            }
        }
        var beside = new int[ours.Count];
        Array.Fill(beside, -1);
        for (int i = 0, j = 0; i < ours.Count && j < theirs.Count;)
        {
            if (ours[i] == theirs[j])
            {
                beside[i++] = j++;
            }
            else if (longest[i + 1, j] >= longest[i, j + 1])
            {
                i++;
            }
            else
            {
                j++;
            }
        }
        return beside;
    }

    /// <summary>The words of a text.</summary>
    public static string[] WordsOf(string text) => text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries);

    private static string Written(List<(string Text, bool BeginsLine)> words) =>
        string.Concat(words.Select((w, i) => i == 0 ? w.Text : (w.BeginsLine ? '\n' : ' ') + w.Text));
}
