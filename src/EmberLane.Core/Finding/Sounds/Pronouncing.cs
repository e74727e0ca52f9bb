namespace EmberLane.Core.Finding.Sounds;

/// <summary>
/// How words are said: as an open pronouncing dictionary of English has it, else by the rules of spelling. A dictionary is text with a line
/// for each way of saying a word: the word, and behind it the names of its sounds; a further way of saying it is marked
/// <c>word(2)</c>.
/// </summary>
public sealed class Pronouncing
{
    /// <summary>Ways of saying a question are tried up to this many.</summary>
    private const int MostWays = 4;

    private readonly IReadOnlyDictionary<string, byte[][]> ways;

    private Pronouncing(IReadOnlyDictionary<string, byte[][]> ways) => this.ways = ways;

    /// <summary>By the rules of spelling alone.</summary>
    public static Pronouncing BySpelling { get; } = new(new Dictionary<string, byte[][]>());

    /// <summary>By a dictionary; lines that are none are passed over.</summary>
    public static Pronouncing Read(IEnumerable<string> lines)
    {
        var ways = new Dictionary<string, byte[][]>(StringComparer.Ordinal);
        foreach (var line in lines)
        {
            var parts = line.Split([' ', '\t'], StringSplitOptions.RemoveEmptyEntries);
            if (parts.Length < 2)
            {
                continue;
            }
            var sounds = parts.Skip(1).Select(p => Phonemes.CodeOf(p)).ToList();
            var bracket = parts[0].IndexOf('(', 1);
            // As talk is folded, so that the words of both meet.
            if (sounds.All(s => s is not null) && FoldedWords.Of(bracket > 0 ? parts[0][..bracket] : parts[0]) is [var word])
            {
                byte[] way = [.. sounds.Select(s => s!.Value)];
                ways[word] = ways.TryGetValue(word, out var known) ? [.. known, way] : [way];
            }
        }
        return new Pronouncing(ways);
    }

    /// <summary>The sounds of a folded word of a language; the dictionary's only where it is English.</summary>
    public byte[] Of(string word, string language = "en") =>
        language == "en" && ways.TryGetValue(word, out var known) ? known[0]
        : SpellingSounds.Of(word) is { Length: > 0 } spelled ? spelled
        : [Phonemes.Unknown];

    /// <summary>The ways in which folded words, one behind the other, may be said.</summary>
    public IReadOnlyList<byte[]> WaysOf(IReadOnlyList<string> words)
    {
        List<byte[]> all =
        [
            [],
        ];
        foreach (var word in words)
        {
            byte[][] own = ways.TryGetValue(word, out var known) ? [.. known, SpellingSounds.Of(word)] : [SpellingSounds.Of(word)];
            // The likely ones first: those of the dictionary with each other.
            all =
            [
                .. all.SelectMany((a, i) => own.Select((o, j) => (Rank: i + j, Said: (byte[])[.. a, .. o])))
                    .OrderBy(a => a.Rank)
                    .Select(a => a.Said)
                    .DistinctBy(Convert.ToHexString)
                    .Take(MostWays),
            ];
        }
        return all;
    }
}
