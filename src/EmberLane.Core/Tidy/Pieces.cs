namespace EmberLane.Core.Tidy;

/// <summary>
/// A phrase, or a part of one that is begun anew, without its hesitations: its words by number, what they weigh, their places, and how many
/// words of the voice come before them.
/// </summary>
internal sealed record Piece(int[] Ids, double[] Weighs, int[] Places, int WordsBefore)
{
    public double Weight { get; } = Weighs.Sum();

    public int First => Places[0];

    public int Last => Places[^1];

    public Piece Part(int from, int to) =>
        from == 0 && to == Places.Length ? this : new Piece(Ids[from..to], Weighs[from..to], Places[from..to], WordsBefore + from);
}

/// <summary>Two pieces by their numbers, and where they are most alike.</summary>
internal sealed record PiecePair(int Earlier, int Later, LocalMatch Match);

/// <summary>The pieces of what one voice says, and which of them are alike.</summary>
internal static class Pieces
{
    /// <summary>So many pieces before are compared with each, and so many of the others that share most with it.</summary>
    private const int Before = 8,
        Sharing = 6,
        Comings = 12;

    /// <summary>In words: of a begin that comes again, and within how many.</summary>
    private const int Begin = 3,
        AnewWithin = 15;

    /// <summary>Hardly a pause: a speaker catches breath, or stops short.</summary>
    public static readonly MediaTime Catch = MediaTime.FromMilliseconds(80);

    /// <summary>Ends of words come and go as a sentence is said another way: so many letters are compared.</summary>
    private const int Stem = 5;

    /// <summary>In the order in which they are said.</summary>
    public static IReadOnlyList<Piece> Of(Talk talk, WordWeights weights, int voice)
    {
        var pieces = new List<Piece>();
        var ids = new Dictionary<string, int>();
        var before = 0;
        foreach (var phrase in talk.Phrases.Where(p => talk.Words[p.First].Voice == voice))
        {
            int[] all = [.. phrase.Places.ToArray().Where(p => weights.Of(p) > 0)];
            foreach (var (begin, end) in Restarts.Without([.. all.Select(p => talk.Words[p].Key)]))
            {
                var places = all[begin..end];
                int[] words = [.. places.Select(Id)];
                foreach (var (from, to) in Parts(words, i => talk.Between(places[i - 1], places[i]) >= Catch))
                {
                    pieces.Add(new Piece(words[from..to], [.. places[from..to].Select(weights.Of)], places[from..to], before));
                    before += to - from;
                }
            }
        }
        return pieces;

        int Id(int place)
        {
            var key = talk.Words[place].Key;
            var stem = key.Length > Stem ? key[..Stem] : key;
            return ids.TryGetValue(stem, out var id) ? id : ids[stem] = ids.Count;
        }
    }

    // A phrase in which the same three words come again soon is begun anew there, and parted before both: where the speaker catches a
    // breath, or begins the phrase itself again.
    private static IEnumerable<(int From, int To)> Parts(int[] words, Func<int, bool> catches)
    {
        var cuts = new SortedSet<int> { words.Length };
        for (var i = Begin; i + Begin <= words.Length; i++)
        {
            for (var from = i - Begin; from >= 0; from--)
            {
                if (
                    (catches(i) && (from == 0 || catches(from)) || (from == 0 && i <= AnewWithin))
                    && words.AsSpan(from, Begin).SequenceEqual(words.AsSpan(i, Begin))
                )
                {
                    cuts.UnionWith([from, i]);
                    i += Begin - 1;
                    break;
                }
            }
        }
        var first = 0;
        foreach (var cut in cuts.Where(c => c > 0))
        {
            yield return (first, cut);
            first = cut;
        }
    }

    /// <summary>Each piece with those before it that it may say again.</summary>
    public static IReadOnlyList<PiecePair> Alike(IReadOnlyList<Piece> pieces)
    {
        var runs = new Dictionary<(int, int, int), List<int>>();
        var pairs = new List<PiecePair>();
        for (var later = 0; later < pieces.Count; later++)
        {
            foreach (var earlier in Candidates(pieces, later, runs))
            {
                if (LocalMatch.Of(pieces[earlier].Ids, pieces[earlier].Weighs, pieces[later].Ids, pieces[later].Weighs) is { } match)
                {
                    pairs.Add(new PiecePair(earlier, later, match));
                }
            }
        }
        return pairs;
    }

    // The pieces just before, and those before them that share most runs of three words with it.
    private static IEnumerable<int> Candidates(IReadOnlyList<Piece> pieces, int later, Dictionary<(int, int, int), List<int>> runs)
    {
        var (ids, weighs) = (pieces[later].Ids, pieces[later].Weighs);
        var votes = new Dictionary<int, double>();
        for (var i = 0; i + 2 < ids.Length; i++)
        {
            var run = (ids[i], ids[i + 1], ids[i + 2]);
            var seen = runs.TryGetValue(run, out var known) ? known : runs[run] = [];
            foreach (var earlier in seen.TakeLast(Comings).Where(q => q < later - Before))
            {
                votes[earlier] = votes.GetValueOrDefault(earlier) + weighs[i] + weighs[i + 1] + weighs[i + 2];
            }
            seen.Add(later);
        }
        return votes
            .OrderByDescending(v => v.Value)
            .ThenByDescending(v => v.Key)
            .Take(Sharing)
            .Select(v => v.Key)
            .Concat(Enumerable.Range(Math.Max(0, later - Before), Math.Min(Before, later)));
    }
}
