namespace EmberLane.Core.Tidy;

/// <summary>
/// Finds two attempts of one voice at one thing: pieces of talk that share runs of words, and rows of such pieces, judged by how much of
/// them is the same and how far apart they are.
/// </summary>
internal sealed class RetakePairs
{
    /// <summary>Two attempts with so few words of this voice between them, and so little time, follow one another.</summary>
    private const int FewBetween = 30,
        FewOfAnybody = 60,
        FewAfterBroken = 2;

    private static readonly MediaTime Soon = MediaTime.FromMilliseconds(25_000);

    /// <summary>Words before what is the same that may be others, and of what is the same the fewest.</summary>
    private const int OtherBegin = 3,
        LeastSoon = 4,
        LeastLater = 7,
        LeastBroken = 3,
        LeastInPart = 7;

    /// <summary>What two attempts have in common of what their words weigh; rows of pieces; what a broken one has of the next.</summary>
    private const double Alike = 0.5,
        AlikeAsked = 0.75,
        AlikeLater = 0.6,
        AlikeRow = 0.45,
        AlikeInRow = 0.5,
        AlikeBroken = 0.55,
        Mostly = 0.75;

    /// <summary>In weight: what must be the same, soon after another, in a part of a piece, much later, and in rows of pieces.</summary>
    private const double TellsSoon = 1.5,
        TellsInPart = 3,
        TellsLater = 3.5,
        TellsRow = 6;

    /// <summary>A saying that comes again word for word with other talk between is a refrain, up to so many words.</summary>
    private const int Refrain = 7;

    private static readonly (int Earlier, int Later)[] Steps = [(1, 1), (0, 1), (1, 0), (1, 2), (2, 1), (2, 2)];

    private readonly Talk talk;
    private readonly IReadOnlyList<Piece> pieces;
    private readonly IReadOnlyList<PiecePair> pairs;

    public RetakePairs(Talk talk, WordWeights weights, int[] voice)
    {
        this.talk = talk;
        pieces = Pieces.Of(talk, weights, talk.Words[voice[0]].Voice);
        pairs = Pieces.Alike(pieces);
    }

    /// <summary>Pairs of attempts, the earlier one first.</summary>
    public IEnumerable<(Span Earlier, Span Later)> Found()
    {
        var rows = Rows();
        var inRows = rows.SelectMany(r => r).ToHashSet();
        return rows.Select(r => (Joined(r[0].Earlier, r[^1].Earlier), Joined(r[0].Later, r[^1].Later)))
            .Concat(pairs.Where(p => !inRows.Contains(p)).Select(Attempts).OfType<(Span, Span)>());
    }

    // Pieces that come again one after the other, at most one other in between: a whole answer given again.
    private List<List<PiecePair>> Rows()
    {
        var byPlace = pairs
            .Where(p => p.Match.Same >= TellsSoon && OfShorter(p) >= AlikeInRow && !IsQuoted(p.Earlier, p.Later, OfShorter(p)))
            .ToDictionary(p => (p.Earlier, p.Later));
        var used = new HashSet<PiecePair>();
        var rows = new List<List<PiecePair>>();
        foreach (var first in byPlace.Values.OrderBy(p => p.Later).ThenBy(p => p.Earlier))
        {
            if (!used.Add(first))
            {
                continue;
            }
            var row = new List<PiecePair> { first };
            while (Next(row[^1]) is { } next && next.Earlier < first.Later)
            {
                used.Add(next);
                row.Add(next);
            }
            if (row.Count > 1 && IsRow(row))
            {
                rows.Add(row);
            }
        }
        return rows;

        PiecePair? Next(PiecePair pair) =>
            Steps
                .Select(step => byPlace.GetValueOrDefault((pair.Earlier + step.Earlier, pair.Later + step.Later)))
                .FirstOrDefault(p => p is not null && !used.Contains(p) && Follows(pair, p));
    }

    // Others may ask in between, but an answer goes on soon.
    private bool Follows(PiecePair before, PiecePair after)
    {
        return On(before.Earlier, before.Match.Last, after.Earlier, after.Match.First)
            && On(before.Later, before.Match.OtherLast, after.Later, after.Match.OtherFirst);

        bool On(int one, int last, int other, int first) =>
            one == other ? first > last : talk.Between(pieces[one].Last, pieces[other].First) <= Soon;
    }

    private bool IsRow(List<PiecePair> row)
    {
        var same = row.Sum(p => p.Match.Same);
        return same >= TellsRow
            && same >= AlikeRow * Math.Max(Weight(row[0].Earlier, row[^1].Earlier), Weight(row[0].Later, row[^1].Later));

        double Weight(int first, int last) => pieces.Skip(first).Take(last - first + 1).Sum(p => p.Weight);
    }

    private double OfShorter(PiecePair pair) => pair.Match.Same / Math.Min(pieces[pair.Earlier].Weight, pieces[pair.Later].Weight);

    private Span Joined(int first, int last) => new([.. pieces.Skip(first).Take(last - first + 1).SelectMany(p => p.Places)]);

    private (Span Earlier, Span Later)? Attempts(PiecePair pair)
    {
        var (earlier, later, match) = (pieces[pair.Earlier], pieces[pair.Later], pair.Match);
        var between = later.WordsBefore - earlier.WordsBefore - earlier.Places.Length;
        var soon = between <= FewBetween && later.First - earlier.Last <= FewOfAnybody && talk.Between(earlier.Last, later.First) <= Soon;
        var announced = soon && Restarts.Between(talk, earlier.Last, later.First);
        var alignedBegin = match.First <= OtherBegin && match.OtherFirst <= OtherBegin;
        if (soon && IsBroken(pair) && alignedBegin && between <= (announced ? FewBetween : FewAfterBroken))
        {
            return match.Words >= LeastBroken && Tells(match) && match.Same >= AlikeBroken * earlier.Weight
                ? (new Span(earlier.Places), new Span(later.Part(0, ToBreath(later, match.OtherLast)).Places))
                : null;
        }
        if (Wide(earlier, match.First, match.Last) is not { } one || Wide(later, match.OtherFirst, match.OtherLast) is not { } other)
        {
            return null;
        }
        var inPart = one.Places.Length < earlier.Places.Length || other.Places.Length < later.Places.Length;
        var likeness = match.Same / Math.Max(one.Weight, other.Weight);
        var shorter = Math.Min(one.Places.Length, other.Places.Length);
        if (IsQuoted(pair.Earlier, pair.Later, likeness))
        {
            return null;
        }
        var again =
            soon && announced ? match.Words >= LeastBroken && Tells(match) && likeness >= Alike
            : soon && inPart ? match.Words >= LeastInPart && match.Same >= TellsInPart && likeness >= AlikeLater
            : soon && between > 0 && shorter <= Refrain && likeness >= 0.95 ? false
            : soon ? shorter >= LeastSoon && Tells(match) && match.Same >= TellsSoon && likeness >= (Asks(one) ? AlikeAsked : Alike)
            : match.Words >= LeastLater && match.Same >= TellsLater && likeness >= AlikeLater && !Asks(one);
        return again ? (new Span(one.Places), new Span(other.Places)) : null;
    }

    // At least one word that is not said all the time: “that is what is … with it” is only a way to talk.
    private static bool Tells(LocalMatch match) => match.Same - (WordWeights.Little * match.Words) >= 1 - WordWeights.Little;

    // Without stops an attempt goes on to where its speaker first catches breath.
    private int ToBreath(Piece piece, int last)
    {
        var end = last + 1;
        while (end < piece.Places.Length && (talk.HasStops || talk.Between(piece.Places[end - 1], piece.Places[end]) < Pieces.Catch))
        {
            end++;
        }
        return end;
    }

    // The earlier one is the begin of the later one and stops short.
    private bool IsBroken(PiecePair pair) =>
        talk.Words[pieces[pair.Earlier].Last] is var last
        && (last.BreaksOff || (pieces[pair.Earlier].Places.Length <= 0.8 * pieces[pair.Later].Places.Length && !last.EndsSentence));

    // Where stops tell what a sentence is it is taken whole; else a part of what is said between two pauses may be what comes again, if the
    // speaker catches breath before and behind it. Null where that is not so.
    private Piece? Wide(Piece piece, int first, int last)
    {
        if (talk.HasStops)
        {
            return piece;
        }
        var from = Enumerable.Range(0, OtherBegin + 1).Select(k => first - k).FirstOrDefault(i => i == 0 || (i > 0 && Catches(i)), -1);
        var end = Enumerable
            .Range(1, OtherBegin + 1)
            .Select(k => last + k)
            .FirstOrDefault(i => i == piece.Places.Length || (i < piece.Places.Length && Catches(i)), -1);
        var whole = piece.Weighs[first..(last + 1)].Sum() >= Mostly * piece.Weight;
        return whole ? piece
            : from < 0 || end < 0 ? null
            : piece.Part(from, end);

        bool Catches(int i) => talk.Between(piece.Places[i - 1], piece.Places[i]) >= Pieces.Catch;
    }

    // Who asks asks again, of something else: alike in all but a word.
    private bool Asks(Piece piece) =>
        talk.Words[piece.Last].Asks
        || (
            !talk.HasStops
            && Restarts.IsQuestion(talk.Words[piece.First].Key, piece.Places.Length > 1 ? talk.Words[piece.Places[1]].Key : "")
        );

    // “They ask me, how do you cross in fog? How do you cross in fog?”, or two questions that are told of in the same words.
    private bool IsQuoted(int one, int other, double likeness)
    {
        const double sameQuestion = 0.8;
        const int before = 4;
        var (first, second) = (Tells(one), Tells(other));
        return first != second || (first && likeness < sameQuestion);

        bool Tells(int piece) =>
            pieces[piece]
                .Places.Concat(piece > 0 ? pieces[piece - 1].Places.TakeLast(before) : [])
                .Any(p => Restarts.IsAsked(talk.Words[p].Key));
    }
}
