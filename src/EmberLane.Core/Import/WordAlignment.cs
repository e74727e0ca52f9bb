using EmberLane.Core.Speech;

namespace EmberLane.Core.Import;

/// <summary>
/// Lays one text's words beside another's. Runs of words that each text has once are the fixed points (the longest chain of them in order,
/// by patience sorting); between fixed points the alignment of least cost is found (Needleman and Wunsch, 1970, with Gotoh's gaps), where
/// words that look or sound alike cost less. Cost is close to linear for texts of the same talk.
/// </summary>
public static class WordAlignment
{
    /// <summary>From this likeness on two words are taken for the same one misheard.</summary>
    public const double AlikeFrom = 0.5;

    /// <summary>
    /// Words so close to each other in both texts belong together; fewer than so many together are lonely when they lie so far out of line
    /// with the others.
    /// </summary>
    private const int Close = 4,
        Island = 4,
        Far = 10;

    private const int Open = 60,
        Gap = 60,
        Other = 120,
        Never = int.MaxValue / 4,
        MostCells = 400_000;

    private const int Paired = 0,
        Ours = 1,
        Theirs = 2;

    private static readonly int[] Runs = [4, 3, 2, 1];

    /// <summary>
    /// For each of our words the number of theirs that it lies beside, or −1; in order. Only words that are the same or alike lie beside
    /// each other.
    /// </summary>
    public static int[] Of(IReadOnlyList<string> ours, IReadOnlyList<string> theirs)
    {
        var ids = new Dictionary<string, int>();
        int Id(string word) => ids.TryGetValue(WordErrorRate.Plain(word), out var id) ? id : ids[WordErrorRate.Plain(word)] = ids.Count;
        int[] a = [.. ours.Select(Id)],
            b = [.. theirs.Select(Id)];
        var forms = ids.OrderBy(i => i.Value).Select(i => SoundForm.Of(i.Key)).ToArray();
        var beside = new int[a.Length];
        Array.Fill(beside, -1);
        var known = new Dictionary<(int, int), double>();
        double Alike(int one, int other)
        {
            if (one == other)
            {
                return forms[one].Plain.Length == 0 ? 0 : 1;
            }
            if (!known.TryGetValue((one, other), out var alike))
            {
                // How alike two words are that are not alike enough to lie beside each other does not matter.
                known[(one, other)] = alike = forms[one].AtMostLike(forms[other]) < AlikeFrom ? 0 : SoundsLike.Of(forms[one], forms[other]);
            }
            return alike;
        }
        // Parts still to do, from the last to the first, so that memory does not grow with how often a part is parted.
        var open = new Stack<(int A, int EndA, int B, int EndB)>([(0, a.Length, 0, b.Length)]);
        while (open.TryPop(out var part))
        {
            if ((long)(part.EndA - part.A) * (part.EndB - part.B) <= MostCells)
            {
                Least(a, b, part, Alike, beside);
                continue;
            }
            var points = Points(a, b, part);
            if (points.Count == 0)
            {
                Straight(a, b, part, beside);
                continue;
            }
            int atA = part.A,
                atB = part.B;
            foreach (var (i, j) in points)
            {
                open.Push((atA, i, atB, j));
                beside[i] = j;
                (atA, atB) = (i + 1, j + 1);
            }
            open.Push((atA, part.EndA, atB, part.EndB));
        }
        DropLonely(beside);
        return beside;
    }

    // A word or two that are the same by chance, far from where the words around them lie: taking them would tear a text apart. The
    // loneliest first, since without them others find their neighbours.
    private static void DropLonely(int[] beside)
    {
        var islands = new List<(int First, int Last, int Words)>();
        for (var i = 0; i < beside.Length; i++)
        {
            if (beside[i] < 0)
            {
                continue;
            }
            if (islands is [.., var last] && i - last.Last <= Close && beside[i] - beside[last.Last] <= Close)
            {
                islands[^1] = (last.First, i, last.Words + 1);
            }
            else
            {
                islands.Add((i, i, 1));
            }
        }
        for (var size = 1; size < Island; size++)
        {
            for (var n = islands.Count - 1; n >= 0 && islands.Count > 1; n--)
            {
                var before = n > 0 ? Skew(islands[n - 1].Last, islands[n].First) : int.MaxValue;
                var after = n + 1 < islands.Count ? Skew(islands[n].Last, islands[n + 1].First) : int.MaxValue;
                if (islands[n].Words == size && Math.Min(before, after) > Far)
                {
                    Array.Fill(beside, -1, islands[n].First, islands[n].Last - islands[n].First + 1);
                    islands.RemoveAt(n);
                }
            }
        }

        int Skew(int from, int to) => Math.Abs(beside[to] - beside[from] - (to - from));
    }

    // Words in runs that both texts have just once in this part, in an order that fits both.
    private static List<(int A, int B)> Points(int[] a, int[] b, (int A, int EndA, int B, int EndB) part)
    {
        foreach (var run in Runs)
        {
            Dictionary<(int, int, int, int), int> inA = Once(a, part.A, part.EndA, run),
                inB = Once(b, part.B, part.EndB, run);
            var pairs = inA.Where(p => p.Value >= 0 && inB.GetValueOrDefault(p.Key, -1) >= 0)
                .Select(p => (A: p.Value, B: inB[p.Key]))
                .OrderBy(p => p.A)
                .ToList();
            // The longest chain that grows in both texts.
            var chain = RisingRun.Of([.. pairs.Select(p => p.B)]).Select(i => pairs[i]).ToList();
            if (chain.Count > 0)
            {
                var points = new List<(int A, int B)>();
                foreach (var (i, j) in chain)
                {
                    for (var k = 0; k < run; k++)
                    {
                        if (points.Count == 0 || (i + k > points[^1].A && j + k > points[^1].B))
                        {
                            points.Add((i + k, j + k));
                        }
                    }
                }
                return points;
            }
        }
        return [];
    }

    private static Dictionary<(int, int, int, int), int> Once(int[] words, int first, int end, int run)
    {
        var once = new Dictionary<(int, int, int, int), int>();
        for (var i = first; i + run <= end; i++)
        {
            var key = (words[i], run > 1 ? words[i + 1] : -1, run > 2 ? words[i + 2] : -1, run > 3 ? words[i + 3] : -1);
            once[key] = once.ContainsKey(key) ? -1 : i;
        }
        return once;
    }

    // With gaps that cost to open and little to go on (Gotoh, 1982): a passage that is missing stays one gap, and no word within it is
    // paired with one that is the same by chance.
    private static void Least(int[] a, int[] b, (int A, int EndA, int B, int EndB) part, Func<int, int, double> alike, int[] beside)
    {
        int n = part.EndA - part.A,
            m = part.EndB - part.B,
            width = m + 1;
        if (n == 0 || m == 0)
        {
            return;
        }
        // Which of the three ways (paired, ours skipped, theirs skipped) each way came from, two bits each.
        var steps = new byte[(n + 1) * width];
        int[] paired = new int[width],
            ours = new int[width],
            theirs = new int[width];
        for (var j = 0; j <= m; j++)
        {
            (paired[j], ours[j], theirs[j]) = (j == 0 ? 0 : Never, Never, j == 0 ? Never : Open + (j * Gap));
            steps[j] = Step(Paired, Paired, j > 1 ? Theirs : Paired);
        }
        for (var i = 1; i <= n; i++)
        {
            var (diagonal, from) = Cheapest(paired[0], ours[0], theirs[0]);
            (paired[0], ours[0], theirs[0]) = (Never, Open + (i * Gap), Never);
            steps[i * width] = Step(Paired, i > 1 ? Ours : Paired, Paired);
            for (var j = 1; j <= m; j++)
            {
                var same = alike(a[part.A + i - 1], b[part.B + j - 1]);
                var (skipOurs, fromOurs) = Cheapest(paired[j] + Open, ours[j], theirs[j] + Open);
                var (skipTheirs, fromTheirs) = Cheapest(paired[j - 1] + Open, ours[j - 1] + Open, theirs[j - 1]);
                var cost = diagonal + (same >= AlikeFrom ? (int)(Other * (1 - same)) : Other);
                steps[(i * width) + j] = Step(from, fromOurs, fromTheirs);
                (diagonal, from) = Cheapest(paired[j], ours[j], theirs[j]);
                (paired[j], ours[j], theirs[j]) = (cost, skipOurs + Gap, skipTheirs + Gap);
            }
        }
        var (_, way) = Cheapest(paired[m], ours[m], theirs[m]);
        for (int i = n, j = m; i > 0 || j > 0;)
        {
            var step = steps[(i * width) + j];
            if (way == Paired && alike(a[part.A + i - 1], b[part.B + j - 1]) >= AlikeFrom)
            {
                beside[part.A + i - 1] = part.B + j - 1;
            }
            var (di, dj) = way switch
            {
                Paired => (1, 1),
                Ours => (1, 0),
                _ => (0, 1),
            };
            way = (step >> (2 * way)) & 3;
            (i, j) = (i - di, j - dj);
        }

        static byte Step(int paired, int ours, int theirs) => (byte)(paired | (ours << 2) | (theirs << 4));
    }

    private static (int Cost, int Way) Cheapest(int paired, int ours, int theirs) =>
        paired <= ours && paired <= theirs ? (paired, Paired)
        : ours <= theirs ? (ours, Ours)
        : (theirs, Theirs);

    // Nothing but the same few words again and again: whatever is the same at the same share of the way.
    private static void Straight(int[] a, int[] b, (int A, int EndA, int B, int EndB) part, int[] beside)
    {
        int n = part.EndA - part.A,
            m = part.EndB - part.B,
            next = part.B;
        for (var i = 0; i < n; i++)
        {
            var j = Math.Max(next, part.B + (int)((long)i * m / n));
            if (j < part.EndB && a[part.A + i] == b[j])
            {
                beside[part.A + i] = j;
                next = j + 1;
            }
        }
    }
}
