namespace EmberLane.Core.Finding.Sounds;

/// <summary>
/// The sounds of speech as words are made of them, by the names that open pronouncing dictionaries of English give them, each as a code
/// from 1; and how far they are from each other to an ear, or a recogniser, that expects another word. Costs are in units of
/// <see cref="Unit"/> hundredths of a sound, so that those of a name fit into a byte.
/// </summary>
public static class Phonemes
{
    /// <summary>What a unit of cost is, in hundredths of a sound.</summary>
    public const int Unit = 5;

    /// <summary>There are so many codes: of sounds, of none (0), and of a word that nothing is known of (the last).</summary>
    public const int Codes = 48;

    /// <summary>The code of a word that nothing is known of.</summary>
    public const byte Unknown = 40;

    /// <summary>What stands where there is no sound costs so much that nothing goes over it.</summary>
    public const byte Never = 200;

    private static readonly string[] Vowels = ["AA", "AE", "AH", "AO", "AW", "AY", "EH", "ER", "EY", "IH", "IY", "OW", "OY", "UH", "UW"];

    private static readonly string[] Names =
    [
        "",
        .. Vowels,
        "B",
        "CH",
        "D",
        "DH",
        "F",
        "G",
        "HH",
        "JH",
        "K",
        "L",
        "M",
        "N",
        "NG",
        "P",
        "R",
        "S",
        "SH",
        "T",
        "TH",
        "V",
        "W",
        "Y",
        "Z",
        "ZH",
    ];

    private static readonly string[] Stops = ["P", "T", "K", "B", "D", "G"],
        Rubbed = ["F", "V", "S", "Z", "SH", "ZH", "TH", "DH", "HH", "CH", "JH"],
        Nasals = ["M", "N", "NG"],
        Gliding = ["L", "R", "W", "Y"];

    // Pairs that are taken for each other more easily than others of their kinds, with the cost in hundredths.
    private static readonly (int Cost, string Pairs)[] Easily =
    [
        (20, "IY-IH EH-IH EH-AE EH-EY AH-AA AA-AO AO-OW UH-UW AH-UH ER-AH AH-IH AE-AH OW-UH AO-AH EH-AH AY-AA AW-AO OW-AW AE-AA"),
        (30, "P-B T-D K-G F-V S-Z SH-ZH CH-JH TH-DH"),
        (50, "S-SH S-ZH S-CH S-JH S-TH S-F Z-SH Z-ZH Z-CH Z-JH Z-TH Z-F SH-CH SH-JH SH-TH SH-F ZH-CH ZH-JH CH-TH CH-F JH-TH JH-F TH-F"),
        (50, "B-V P-F T-CH D-JH D-DH T-TH V-W N-L N-D B-M"),
        (50, "ER-R UW-W IY-Y OW-L AO-L AO-R OW-R UH-L AH-L OW-W"),
    ];

    private static readonly byte[,] Costs = MakeCosts();

    private static readonly byte[] MoreCosts = [.. Enumerable.Range(0, Codes).Select(MoreOf)];

    /// <summary>The code of a sound by its name, without the mark of its stress; null where it is none.</summary>
    public static byte? CodeOf(ReadOnlySpan<char> name)
    {
        var plain = name.TrimEnd("012");
        for (byte code = 1; code < Names.Length; code++)
        {
            if (plain.SequenceEqual(Names[code]))
            {
                return code;
            }
        }
        return null;
    }

    /// <summary>The codes of sounds by their names with blanks between.</summary>
    public static byte[] CodesOf(string names) => [.. names.Split(' ').Select(n => CodeOf(n) ?? throw new FormatException(n))];

    /// <summary>What it costs to hear one sound for another.</summary>
    public static byte Instead(byte one, byte other) => Costs[one, other];

    /// <summary>What it costs that a sound is heard, or left out, that should not be.</summary>
    public static byte More(byte code) => MoreCosts[code];

    /// <summary>What it would cost to hear nothing right of sounds, by which a cost is told to be small or large.</summary>
    public static int Full(ReadOnlySpan<byte> sounds)
    {
        var full = 0;
        foreach (var code in sounds)
        {
            full += IsVowel(code) ? MoreCosts[code] : 100 / Unit;
        }
        return full;
    }

    private static bool IsVowel(int code) => code >= 1 && code <= Vowels.Length;

    private static byte MoreOf(int code) =>
        code == 0 || code > Unknown ? Never
        : code == Unknown ? (byte)(100 / Unit)
        : (byte)(
            Names[code] switch
            {
                "AH" or "IH" or "ER" => 40,
                _ when IsVowel(code) => 60,
                "HH" or "T" or "D" or "Y" or "W" or "R" => 55,
                _ => 80,
            } / Unit
        );

    private static byte[,] MakeCosts()
    {
        var costs = new byte[Codes, Codes];
        for (var a = 0; a < Codes; a++)
        {
            for (var b = 0; b < Codes; b++)
            {
                costs[a, b] =
                    a == 0 || b == 0 || a > Unknown || b > Unknown ? Never
                    : a == Unknown || b == Unknown ? (byte)(120 / Unit)
                    : a == b ? (byte)0
                    : (byte)(Kinds(a, b) / Unit);
            }
        }
        // What is taken for each other most easily stands first.
        foreach (var (cost, pairs) in Easily.Reverse())
        {
            foreach (var pair in pairs.Split(' '))
            {
                var sounds = pair.Split('-').Select(n => CodeOf(n)!.Value).ToList();
                costs[sounds[0], sounds[1]] = costs[sounds[1], sounds[0]] = (byte)(cost / Unit);
            }
        }
        return costs;
    }

    private static int Kinds(int a, int b)
    {
        bool Both(string[] kind) => kind.Contains(Names[a]) && kind.Contains(Names[b]);
        return IsVowel(a) && IsVowel(b) ? 45
            : IsVowel(a) != IsVowel(b) ? 120
            : Both(Stops) || Both(Nasals) || Both(Rubbed) ? 55
            : Both(Gliding) ? 70
            : 100;
    }
}
