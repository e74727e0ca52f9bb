namespace EmberLane.Core.Tidy;

/// <summary>
/// Where two runs of words are most alike: the first and last place of the part in each, what is the same there by weight, and how many
/// words that is.
/// </summary>
internal readonly record struct LocalMatch(int First, int Last, int OtherFirst, int OtherLast, double Same, int Words)
{
    /// <summary>What another word, or one that only one of them has, costs of its weight.</summary>
    private const double Other = 0.5,
        Missing = 0.35;

    /// <summary>
    /// The best local alignment (Smith and Waterman, 1981) of two runs of words, given by numbers and what each weighs; null when
    /// nothing is the same. Cost is the product of the lengths.
    /// </summary>
    public static LocalMatch? Of(
        ReadOnlySpan<int> one,
        ReadOnlySpan<double> oneWeighs,
        ReadOnlySpan<int> other,
        ReadOnlySpan<double> otherWeighs
    )
    {
        var width = other.Length + 1;
        var cells = new Cell[(one.Length + 1) * width];
        var best = 0;
        for (var i = 1; i <= one.Length; i++)
        {
            for (var j = 1; j <= other.Length; j++)
            {
                var at = (i * width) + j;
                var same = one[i - 1] == other[j - 1];
                var weight = Math.Min(oneWeighs[i - 1], otherWeighs[j - 1]);
                var diagonal = cells[at - width - 1];
                var paired = same
                    ? diagonal.With(weight, i, j, weight)
                    : diagonal.With(-Other * Math.Max(oneWeighs[i - 1], otherWeighs[j - 1]));
                var skipped = cells[at - width].With(-Missing * oneWeighs[i - 1]);
                var skippedOther = cells[at - 1].With(-Missing * otherWeighs[j - 1]);
                var cell =
                    paired.Score >= Math.Max(skipped.Score, skippedOther.Score) ? paired
                    : skipped.Score >= skippedOther.Score ? skipped
                    : skippedOther;
                cells[at] = cell.Score > 0 ? cell : default;
                best = cells[at].Score > cells[best].Score && same ? at : best;
            }
        }
        return best == 0
            ? null
            : new LocalMatch(
                cells[best].First - 1,
                (best / width) - 1,
                cells[best].OtherFirst - 1,
                (best % width) - 1,
                cells[best].Same,
                cells[best].Words
            );
    }

    // First and OtherFirst count from 1; 0 where nothing has begun.
    private readonly record struct Cell(double Score, int First, int OtherFirst, double Same, int Words)
    {
        public Cell With(double more) => this with { Score = First == 0 ? 0 : Score + more };

        public Cell With(double more, int i, int j, double same) =>
            First == 0 ? new Cell(more, i, j, same, 1) : this with { Score = Score + more, Same = Same + same, Words = Words + 1 };
    }
}
