namespace EmberLane.Core.Tidy;

/// <summary>A word of an attempt, and whether the attempt that it is laid beside has it too.</summary>
public readonly record struct AttemptWord(int Place, bool IsSame);

/// <summary>Lays attempts at one thing beside each other, word by word.</summary>
public static class AttemptWords
{
    /// <summary>Longer attempts are not aligned: all their words differ. 3,000 words are twenty minutes.</summary>
    private const int Longest = 3_000;

    /// <summary>
    /// The words of one attempt that its own voice says, each with whether it stands in the other one too, in the same order: the longest
    /// run of words, with gaps, that both have. Cost grows with the product of both lengths.
    /// </summary>
    public static IReadOnlyList<AttemptWord> Of(Talk talk, Attempt attempt, Attempt beside)
    {
        int[] own = Said(talk, attempt),
            other = Said(talk, beside);
        var same = own.Length > Longest || other.Length > Longest ? new bool[own.Length] : Common(talk, own, other);
        return [.. own.Select((p, i) => new AttemptWord(p, same[i]))];
    }

    private static int[] Said(Talk talk, Attempt attempt) =>
        [
            .. Enumerable
                .Range(attempt.First, attempt.Last - attempt.First + 1)
                .Where(p => talk.Words[p].Voice == talk.Words[attempt.First].Voice),
        ];

    private static bool[] Common(Talk talk, int[] own, int[] other)
    {
        var lengths = new int[own.Length + 1, other.Length + 1];
        for (var i = own.Length - 1; i >= 0; i--)
        {
            for (var j = other.Length - 1; j >= 0; j--)
            {
                lengths[i, j] = IsSame(i, j) ? lengths[i + 1, j + 1] + 1 : Math.Max(lengths[i + 1, j], lengths[i, j + 1]);
            }
        }
        var same = new bool[own.Length];
        for (var (i, j) = (0, 0); i < own.Length && j < other.Length;)
        {
            if (IsSame(i, j))
            {
                same[i] = true;
                (i, j) = (i + 1, j + 1);
            }
            else
            {
                (i, j) = lengths[i + 1, j] >= lengths[i, j + 1] ? (i + 1, j) : (i, j + 1);
            }
        }
        return same;

        bool IsSame(int i, int j) => talk.Words[own[i]].Key is { Length: > 0 } key && key == talk.Words[other[j]].Key;
    }
}
