namespace EmberLane.Core.Finding;

/// <summary>
/// A phrase as it is looked for in passages: for each of its words the runs of terms that stand for it, each with how far it is from what
/// was asked, in hundredths. Mostly a run is one term.
/// </summary>
public sealed record WantedPhrase(IReadOnlyList<IReadOnlyList<(int[] Terms, int Apart)>> Words);

/// <summary>Phrases within so many words of each other.</summary>
public sealed record WantedTogether(IReadOnlyList<WantedPhrase> Phrases, int Within);

/// <summary>Where what was asked for is said: the places in the passage of the first and the last word, and how far from it.</summary>
public readonly record struct PassageHit(int First, int Last, int Apart);

/// <summary>A question put to the terms of a vocabulary.</summary>
public sealed class PassageSearch
{
    private readonly IReadOnlyList<WantedTogether> together;
    private readonly IReadOnlyList<(Starts Starts, WantedPhrase Phrase)> parts;
    private readonly IReadOnlyList<int> partOf;
    private readonly IReadOnlyList<IReadOnlyList<byte[]>> runs;
    private readonly IReadOnlyList<(Starts Starts, WantedPhrase Phrase)> without;

    private readonly record struct Start(int[] Terms, int Apart);

    /// <summary>What must be said together, and what must not be said around it.</summary>
    public PassageSearch(IReadOnlyList<WantedTogether> together, IReadOnlyList<WantedPhrase> without)
    {
        this.together = together;
        parts = [.. together.SelectMany(t => t.Phrases).Select(p => (new Starts(p), p))];
        partOf = [.. together.SelectMany((t, i) => t.Phrases.Select(_ => i))];
        runs = [.. together.SelectMany(t => t.Phrases).Where(p => p.Words.Count > 1).Select(RunsOf).Where(r => r.Count > 0)];
        this.without = [.. without.Select(p => (new Starts(p), p))];
    }

    /// <summary>
    /// Whether a passage may have a hit, told from its bytes: all phrases whose words stand for few terms must be in them.
    /// </summary>
    public bool MayBeIn(ReadOnlySpan<byte> passage)
    {
        foreach (var phrase in runs)
        {
            var any = false;
            foreach (var run in phrase)
            {
                any |= SaidPassage.MayHold(passage, run);
            }
            if (!any)
            {
                return false;
            }
        }
        return true;
    }

    // All that may be said for a phrase, where that is little.
    private static IReadOnlyList<byte[]> RunsOf(WantedPhrase phrase)
    {
        const int most = 8;
        List<int[]> all =
        [
            [],
        ];
        foreach (var word in phrase.Words)
        {
            all = [.. all.SelectMany(a => word.Select(w => (int[])[.. a, .. w.Terms]))];
            if (all.Count > most)
            {
                return [];
            }
        }
        return [.. all.Select(a => SaidPassage.RunOf(a))];
    }

    /// <summary>
    /// The hits in a passage, in order and apart, those that begin in its own words: each is as short as it can be. Linear in the passage
    /// times the phrases.
    /// </summary>
    public IReadOnlyList<PassageHit> In(SaidPassage passage, int begin = 0)
    {
        var spots = parts.Select(p => Spots(passage.Terms, p)).ToList();
        if (spots.Any(s => s.Count == 0))
        {
            return [];
        }
        var excluded = Excluded(passage);
        var hits = new List<PassageHit>();
        foreach (var hit in Windows(spots))
        {
            if ((hits.Count == 0 || hit.First > hits[^1].Last) && !excluded.Any(e => IsAround(e, hit.First, hit.Last)))
            {
                hits.Add(hit);
            }
        }
        return [.. hits.Where(h => h.First >= begin && h.First < passage.Own)];
    }

    /// <summary>Whether nothing that must not be said is said around a stretch of a passage.</summary>
    public bool Allows(SaidPassage passage, int first, int last) => !Excluded(passage).Any(e => IsAround(e, first, last));

    private List<PassageHit> Excluded(SaidPassage passage) => [.. without.SelectMany(p => Spots(passage.Terms, p))];

    private static bool IsAround(PassageHit excluded, int first, int last) =>
        excluded.Last >= first - FindQuestion.Around && excluded.First <= last + FindQuestion.Around;

    // Stretches that hold one spot of each phrase and none shorter at the same end, by their ends.
    private IEnumerable<PassageHit> Windows(List<List<PassageHit>> spots)
    {
        if (spots.Count == 1)
        {
            foreach (var spot in spots[0])
            {
                yield return spot;
            }
            yield break;
        }
        var all = spots.SelectMany((s, part) => s.Select(spot => (Part: part, Spot: spot))).OrderBy(s => s.Spot.Last).ToList();
        var latest = new PassageHit?[spots.Count];
        foreach (var (part, spot) in all)
        {
            // Of one phrase the spot that begins last serves best.
            if (latest[part] is { } known && known.First > spot.First)
            {
                continue;
            }
            latest[part] = spot;
            if (latest.Any(l => l is null))
            {
                continue;
            }
            var first = latest.Min(l => l!.Value.First);
            if (spot.Last - first < FindQuestion.Spread && IsNear(latest))
            {
                yield return new PassageHit(first, spot.Last, latest.Sum(l => l!.Value.Apart));
                // The next one is another all through.
                latest = new PassageHit?[spots.Count];
            }
        }
    }

    private bool IsNear(PassageHit?[] spots)
    {
        for (var t = 0; t < together.Count; t++)
        {
            if (together[t].Phrases.Count < 2)
            {
                continue;
            }
            int first = int.MaxValue,
                last = int.MinValue;
            for (var p = 0; p < spots.Length; p++)
            {
                if (partOf[p] == t)
                {
                    // Between the end of the first and the begin of the last.
                    first = Math.Min(first, spots[p]!.Value.Last);
                    last = Math.Max(last, spots[p]!.Value.First);
                }
            }
            if (last - first > together[t].Within)
            {
                return false;
            }
        }
        return true;
    }

    // The runs of terms that begin a phrase, by their first; most terms are told apart from them by a bit.
    private sealed class Starts
    {
        private const int Bits = 4096;

        private readonly Dictionary<int, List<Start>> byTerm = [];
        private readonly bool[] may = new bool[Bits];
        private readonly List<Start> none = [];

        public Starts(WantedPhrase phrase)
        {
            foreach (var (terms, apart) in phrase.Words[0])
            {
                if (!byTerm.TryGetValue(terms[0], out var list))
                {
                    byTerm[terms[0]] = list = [];
                }
                list.Add(new Start(terms, apart));
                may[terms[0] % Bits] = true;
            }
        }

        public List<Start> With(int term) => may[term % Bits] && byTerm.TryGetValue(term, out var starts) ? starts : none;
    }

    // Where a phrase is said, the nearest way of saying it at each place.
    private static List<PassageHit> Spots(int[] terms, (Starts Starts, WantedPhrase Phrase) wanted)
    {
        var spots = new List<PassageHit>();
        for (var i = 0; i < terms.Length; i++)
        {
            PassageHit? best = null;
            foreach (var start in wanted.Starts.With(terms[i]))
            {
                if (Goes(terms, i, start.Terms) && Rest(terms, i + start.Terms.Length, wanted.Phrase, 1) is var (end, apart))
                {
                    best = best is { } b && b.Apart <= apart + start.Apart ? b : new PassageHit(i, end - 1, apart + start.Apart);
                }
            }
            if (best is { } found)
            {
                spots.Add(found);
            }
        }
        return spots;
    }

    private static (int End, int Apart)? Rest(int[] terms, int at, WantedPhrase phrase, int word)
    {
        if (word == phrase.Words.Count)
        {
            return (at, 0);
        }
        (int End, int Apart)? best = null;
        foreach (var (run, apart) in phrase.Words[word])
        {
            if (
                Goes(terms, at, run)
                && Rest(terms, at + run.Length, phrase, word + 1) is var (end, more)
                && (best is not { } b || more + apart < b.Apart)
            )
            {
                best = (end, more + apart);
            }
        }
        return best;
    }

    private static bool Goes(int[] terms, int at, int[] run)
    {
        if (at + run.Length > terms.Length)
        {
            return false;
        }
        for (var k = 0; k < run.Length; k++)
        {
            if (terms[at + k] != run[k])
            {
                return false;
            }
        }
        return true;
    }
}
