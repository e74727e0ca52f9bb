using System.Text;

namespace EmberLane.Core.Finding;

/// <summary>
/// How far apart two words sound: what a recogniser writes for a name that it does not know is another word that sounds like it.
/// </summary>
public static class SoundsLike
{
    /// <summary>
    /// Costs in hundredths: of a vowel for another, of one more or less, of a consonant for one said nearly alike, of any other; and more
    /// where a word begins otherwise.
    /// </summary>
    private const int OtherVowel = 30,
        VowelMore = 55,
        NearConsonant = 50,
        Other = 110,
        First = 60;

    /// <summary>Words are alike as far as they differ by this much for each of their sounds, in hundredths.</summary>
    private const int Share = 19;

    // What is written otherwise than it is said: the longest first.
    private static readonly (string Written, string Said)[] Spellings =
    [
        ("tion", "sn"),
        ("sion", "sn"),
        ("ough", "o"),
        ("augh", "o"),
        ("igh", "i"),
        ("tch", "c"),
        ("sch", "s"),
        ("ph", "f"),
        ("gh", ""),
        ("ck", "k"),
        ("ch", "c"),
        ("sh", "s"),
        ("th", "t"),
        ("wh", "w"),
        ("wr", "r"),
        ("kn", "n"),
        ("gn", "n"),
        ("mb", "m"),
        ("qu", "kw"),
        ("ea", "i"),
        ("ee", "i"),
        ("ie", "i"),
        ("ei", "i"),
        ("ey", "i"),
        ("ay", "e"),
        ("ai", "e"),
        ("oa", "o"),
        ("ow", "o"),
        ("ou", "o"),
        ("oo", "u"),
        ("au", "o"),
        ("aw", "o"),
        ("ew", "u"),
        ("ue", "u"),
        ("oe", "o"),
    ];

    private static readonly string[] Near = ["td", "pb", "kg", "szcj", "fv", "mn", "lr", "wv", "hw"];

    /// <summary>A folded word as it is said, by the rules of English spelling and roughly.</summary>
    public static string Said(string word)
    {
        var said = new StringBuilder();
        for (var i = 0; i < word.Length;)
        {
            var spelled = Spellings.FirstOrDefault(s => word.AsSpan(i).StartsWith(s.Written, StringComparison.Ordinal));
            if (spelled.Written is not null)
            {
                said.Append(spelled.Said);
                i += spelled.Written.Length;
                continue;
            }
            var c = word[i];
            var soft = i + 1 < word.Length && word[i + 1] is 'e' or 'i' or 'y';
            said.Append(
                c switch
                {
                    'c' => soft ? "s" : "k",
                    'g' => soft && i > 0 ? "j" : "g",
                    'q' => "k",
                    'x' => "ks",
                    'z' => "s",
                    'y' => i == 0 ? "j" : "i",
                    'h' when i > 0 => "",
                    'e' when i == word.Length - 1 && word.Length > 3 => "",
                    _ => c.ToString(),
                }
            );
            i++;
        }
        // Twice the same is said once.
        for (var i = said.Length - 1; i > 0; i--)
        {
            if (said[i] == said[i - 1])
            {
                said.Remove(i, 1);
            }
        }
        return said.ToString();
    }

    /// <summary>
    /// How far apart two words are as they are said (<see cref="Said"/>), in hundredths of a sound; null where they are not alike. The
    /// product of their lengths.
    /// </summary>
    public static int? Apart(string one, string other)
    {
        int most = Share * Math.Max(one.Length, other.Length),
            more = Math.Abs(one.Length - other.Length);
        if (one == other)
        {
            return 0;
        }
        if (more * VowelMore > most)
        {
            return null;
        }
        Span<int> before = stackalloc int[other.Length + 1],
            here = stackalloc int[other.Length + 1];
        for (var j = 1; j <= other.Length; j++)
        {
            before[j] = before[j - 1] + More(other[j - 1]);
        }
        for (var i = 1; i <= one.Length; i++)
        {
            here[0] = before[0] + More(one[i - 1]);
            var least = here[0];
            for (var j = 1; j <= other.Length; j++)
            {
                here[j] = Math.Min(
                    before[j - 1] + Instead(one[i - 1], other[j - 1]) + (i == 1 && j == 1 && one[0] != other[0] ? First : 0),
                    Math.Min(before[j] + More(one[i - 1]), here[j - 1] + More(other[j - 1]))
                );
                least = Math.Min(least, here[j]);
            }
            if (least > most)
            {
                return null;
            }
            here.CopyTo(before);
        }
        return before[other.Length] <= most ? before[other.Length] : null;
    }

    private static int More(char c) => IsVowel(c) ? VowelMore : Other;

    private static int Instead(char one, char other) =>
        one == other ? 0
        : IsVowel(one) && IsVowel(other) ? OtherVowel
        : !IsVowel(one) && !IsVowel(other) && Near.Any(n => n.Contains(one) && n.Contains(other)) ? NearConsonant
        : Other;

    private static bool IsVowel(char c) => c is 'a' or 'e' or 'i' or 'o' or 'u';
}
