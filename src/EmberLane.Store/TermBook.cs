using EmberLane.Core.Finding;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// The numbers of the vocabulary's terms, kept once they are on the disk. Changes come one after another, so that one alone gives new ones.
/// </summary>
internal sealed class TermBook(Database database)
{
    /// <summary>With more than this they are forgotten, and read again as they come: no talk has so many words.</summary>
    private const int Most = 500_000;

    private readonly Dictionary<(string Language, string Term), int> known = [];
    private readonly Dictionary<(string Language, string Term), int> fresh = [];
    private readonly Dictionary<string, Inflection> inflections = [];
    private SqliteConnection? giving;

    /// <summary>The number of a term, given now where it has none. In a change only.</summary>
    public int NumberOf(SqliteConnection c, string language, string term)
    {
        if (!ReferenceEquals(giving, c))
        {
            // What the change before gave is kept by now, or was taken back with it.
            fresh.Clear();
            giving = c;
            database.WhenKept(
                c,
                () =>
                {
                    if (known.Count > Most)
                    {
                        known.Clear();
                    }
                    foreach (var (key, number) in fresh)
                    {
                        known[key] = number;
                    }
                    giving = null;
                }
            );
        }
        var asked = (language, term);
        return known.TryGetValue(asked, out var number) || fresh.TryGetValue(asked, out number)
            ? number
            : fresh[asked] = Give(c, language, term);
    }

    private int Give(SqliteConnection c, string language, string term)
    {
        var there = c.Query(
            "SELECT id FROM find_term WHERE language = $l AND term = $t",
            r => r.GetInt32(0),
            ("$l", language),
            ("$t", term)
        );
        if (there is [var number])
        {
            return number;
        }
        if (!inflections.TryGetValue(language, out var inflection))
        {
            inflections[language] = inflection = new Inflection(language);
        }
        return (int)
            c.Insert(
                "INSERT INTO find_term (language, term, stem, said) VALUES ($l, $t, $stem, $said)",
                ("$l", language),
                ("$t", term),
                ("$stem", inflection.StemOf(term)),
                ("$said", SoundsLike.Said(term))
            );
    }
}
