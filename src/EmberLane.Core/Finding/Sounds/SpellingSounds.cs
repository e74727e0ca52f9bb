namespace EmberLane.Core.Finding.Sounds;

/// <summary>How a word that stands in no dictionary is said, by the rules of English spelling and roughly.</summary>
public static class SpellingSounds
{
    // The longest first.
    private static readonly (string Written, byte[] Said)[] Together =
    [
        .. new (string Written, string Said)[]
        {
            ("ough", "OW"),
            ("tion", "SH AH N"),
            ("tch", "CH"),
            ("sch", "S"),
            ("igh", "AY"),
            ("ph", "F"),
            ("ck", "K"),
            ("ch", "CH"),
            ("sh", "SH"),
            ("th", "TH"),
            ("wh", "W"),
            ("qu", "K W"),
            ("kn", "N"),
            ("ng", "NG"),
            ("ee", "IY"),
            ("ea", "IY"),
            ("oo", "UW"),
            ("ou", "AW"),
            ("ow", "OW"),
            ("ai", "EY"),
            ("ay", "EY"),
            ("oa", "OW"),
            ("er", "ER"),
            ("ir", "ER"),
            ("ur", "ER"),
            ("ar", "AA R"),
            ("or", "AO R"),
            ("aw", "AO"),
            ("au", "AO"),
            ("ey", "IY"),
            ("ie", "IY"),
            ("ei", "AY"),
            ("x", "K S"),
        }.Select(s => (s.Written, Phonemes.CodesOf(s.Said))),
    ];

    private static readonly Dictionary<char, byte> Letters =
        "a AE b B c K d D e EH f F g G h HH i IH j JH k K l L m M n N o AA p P q K r R s S t T u AH v V w W y IY z Z"
            .Split(' ')
            .Chunk(2)
            .ToDictionary(l => l[0][0], l => Phonemes.CodeOf(l[1])!.Value);

    private static readonly byte Y = Phonemes.CodeOf("Y")!.Value,
        S = Phonemes.CodeOf("S")!.Value,
        Ah = Phonemes.CodeOf("AH")!.Value,
        Ow = Phonemes.CodeOf("OW")!.Value;

    /// <summary>The codes of a folded word's sounds; none where it has no Latin letters.</summary>
    public static byte[] Of(string word)
    {
        var said = new List<byte>(word.Length);
        for (var i = 0; i < word.Length;)
        {
            var spelled = Together.FirstOrDefault(s => word.AsSpan(i).StartsWith(s.Written, StringComparison.Ordinal));
            if (spelled.Written is not null)
            {
                said.AddRange(spelled.Said);
                i += spelled.Written.Length;
                continue;
            }
            if (OfLetter(word, i) is { } sound)
            {
                said.Add(sound);
            }
            i++;
        }
        return [.. said];
    }

    private static byte? OfLetter(string word, int i)
    {
        var isLast = i == word.Length - 1;
        return word[i] switch
        {
            'e' when isLast && word.Length > 3 => null,
            // Twice the same is said once.
            var twice when i > 0 && twice == word[i - 1] => null,
            'y' when i == 0 => Y,
            'c' when !isLast && word[i + 1] is 'e' or 'i' or 'y' => S,
            'a' when isLast => Ah,
            'o' when isLast => Ow,
            var letter => Letters.TryGetValue(letter, out var sound) ? sound : null,
        };
    }
}
