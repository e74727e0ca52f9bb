using EmberLane.Core.Finding;

namespace EmberLane.Core.Speech;

/// <summary>
/// How a recognised text differs from the true one, by the usual word error rate: (substituted + deleted + inserted) over true words.
/// </summary>
public sealed record WordErrorRate(int TrueWords, int Substituted, int Deleted, int Inserted)
{
    /// <summary>Errors of all kinds.</summary>
    public int Errors => Substituted + Deleted + Inserted;

    /// <summary>Errors per thousand true words; may pass 1000. Zero true words give 0 without errors, else 1000.</summary>
    public PerMille PerMille =>
        TrueWords == 0
            ? (Errors == 0 ? PerMille.None : PerMille.All)
            : new PerMille((int)Exact.RoundDivide((Int128)Errors * 1000, TrueWords));

    /// <summary>
    /// Compares after <see cref="Plain"/>, as NIST's sclite does: the alignment weighs least where a substituted word weighs 4, one deleted
    /// or inserted 3. Cost is the product of the lengths.
    /// </summary>
    public static WordErrorRate Between(IEnumerable<string> truth, IEnumerable<string> heard)
    {
        string[] a = [.. truth.Select(Plain).Where(w => w.Length > 0)],
            b = [.. heard.Select(Plain).Where(w => w.Length > 0)];
        var (substituted, deleted, inserted) = EditDistance.Between<string>(a, b, substitution: 4, rest: 3);
        return new WordErrorRate(a.Length, substituted, deleted, inserted);
    }

    /// <summary>A word without case and punctuation, apostrophes within it kept.</summary>
    public static string Plain(string word) =>
        string.Concat(word.ToLowerInvariant().Where(c => char.IsLetterOrDigit(c) || c is '\'' or '’')).Replace('’', '\'').Trim('\'');
}
