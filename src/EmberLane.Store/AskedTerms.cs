using EmberLane.Core.Finding;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What stands for the words of one question, each looked up once.</summary>
internal sealed class AskedTerms(SqliteConnection c, Vocabulary vocabulary)
{
    private readonly Dictionary<string, Inflection> languages = Languages(c);
    private readonly Dictionary<AskedWord, IReadOnlyList<WantedTerm>> known = [];
    private readonly Dictionary<(string, string), IReadOnlyList<WantedTerm>> joined = [];

    /// <summary>Of a word.</summary>
    public IReadOnlyList<WantedTerm> Of(AskedWord word) =>
        known.TryGetValue(word, out var terms) ? terms : known[word] = vocabulary.Of(c, word, languages);

    /// <summary>Of two words that may have been written down as one.</summary>
    public IReadOnlyList<WantedTerm> Joined(string one, string other) =>
        joined.TryGetValue((one, other), out var terms) ? terms : joined[(one, other)] = vocabulary.Joined(c, one, other);

    private static Dictionary<string, Inflection> Languages(SqliteConnection c) =>
        c.Query(
                """
                WITH RECURSIVE l(language) AS (
                    SELECT MIN(language) FROM find_term
                    UNION ALL
                    SELECT (SELECT MIN(language) FROM find_term WHERE language > l.language) FROM l WHERE l.language IS NOT NULL
                )
                SELECT language FROM l WHERE language IS NOT NULL
                """,
                r => r.GetString(0)
            )
            .ToDictionary(l => l, l => new Inflection(l));
}
