using EmberLane.Core.Finding;

namespace EmberLane.Core.Import;

/// <summary>
/// How alike two words are to the eye or the ear, 0–1: the edit distance (Levenshtein) of their letters, or of their letters with those
/// that sound alike made one, over the longer one's length.
/// </summary>
public static class SoundsLike
{
    private static readonly (string From, string To)[] Alike =
    [
        ("tion", "shn"),
        ("ough", "o"),
        ("ght", "t"),
        ("ph", "f"),
        ("ck", "k"),
        ("wh", "w"),
        ("wr", "r"),
        ("kn", "n"),
        ("gn", "n"),
        ("qu", "kw"),
        ("x", "ks"),
        ("dge", "j"),
        ("tch", "ch"),
        ("ce", "se"),
        ("ci", "si"),
        ("c", "k"),
        ("z", "s"),
        ("y", "i"),
        ("ou", "u"),
        ("ow", "u"),
        ("ee", "i"),
        ("ea", "i"),
        ("oo", "u"),
    ];

    /// <summary>What is alike only to the ear counts so much less.</summary>
    internal const double ByEar = 0.95;

    /// <summary>Case and punctuation do not count. Two words of nothing but punctuation are not alike.</summary>
    public static double Of(string one, string other) => Of(SoundForm.Of(one), SoundForm.Of(other));

    /// <summary>The same of forms that are at hand.</summary>
    public static double Of(SoundForm one, SoundForm other)
    {
        if (one.Plain.Length == 0 || other.Plain.Length == 0)
        {
            return 0;
        }
        return one.Plain == other.Plain ? 1 : Math.Max(Near(one.Plain, other.Plain), ByEar * Near(one.Heard, other.Heard));
    }

    internal static string Heard(string word)
    {
        foreach (var (from, to) in Alike)
        {
            word = word.Replace(from, to, StringComparison.Ordinal);
        }
        // A doubled letter sounds once, an e at the end not at all.
        var single = string.Concat(word.Where((c, i) => i == 0 || c != word[i - 1]));
        return single.Length > 2 && single[^1] == 'e' ? single[..^1] : single;
    }

    private static double Near(string a, string b) => 1 - ((double)EditDistance.Between<char>(a, b).Changes / Math.Max(a.Length, b.Length));
}
