namespace EmberLane.Core.Speech;

/// <summary>
/// How a recognised text differs from the true one, by the usual word error rate: (substituted + deleted + inserted) over true words.
/// </summary>
public sealed record WordErrorRate(int TrueWords, int Substituted, int Deleted, int Inserted)
{
    public int Errors => Substituted + Deleted + Inserted;

    /// <summary>Errors per thousand true words; may pass 1000. Zero true words give 0 without errors, else 1000.</summary>
    public int PerMille => TrueWords == 0 ? (Errors == 0 ? 0 : 1000) : (int)Exact.RoundDivide((Int128)Errors * 1000, TrueWords);

    /// <summary>
    /// Compares after <see cref="Plain"/>. The alignment has the least number of errors (Levenshtein); cost is the product of the lengths.
    /// </summary>
    public static WordErrorRate Between(IEnumerable<string> truth, IEnumerable<string> heard)
    {
        string[] a = [.. truth.Select(Plain).Where(w => w.Length > 0)],
            b = [.. heard.Select(Plain).Where(w => w.Length > 0)];
        var row = new WordErrorRate[b.Length + 1];
        for (var j = 0; j <= b.Length; j++)
        {
            row[j] = new WordErrorRate(a.Length, 0, 0, j);
        }
        foreach (var word in a)
        {
            var diagonal = row[0];
            row[0] = row[0] with { Deleted = row[0].Deleted + 1 };
            for (var j = 1; j <= b.Length; j++)
            {
                var same = word == b[j - 1];
                var best = same ? diagonal : diagonal with { Substituted = diagonal.Substituted + 1 };
                if (row[j].Errors + 1 < best.Errors)
                {
                    best = row[j] with { Deleted = row[j].Deleted + 1 };
                }
                if (row[j - 1].Errors + 1 < best.Errors)
                {
                    best = row[j - 1] with { Inserted = row[j - 1].Inserted + 1 };
                }
                diagonal = row[j];
                row[j] = best;
            }
        }
        return row[b.Length];
    }

    /// <summary>A word without case and punctuation, apostrophes within it kept.</summary>
    public static string Plain(string word) =>
        string.Concat(word.ToLowerInvariant().Where(c => char.IsLetterOrDigit(c) || c is '\'' or '’')).Replace('’', '\'').Trim('\'');
}
