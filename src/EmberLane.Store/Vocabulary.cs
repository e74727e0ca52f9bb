using EmberLane.Core.Finding;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// What stands for a word that is asked for, among the terms of all languages. How terms are said is kept in memory from the first rough
/// question on, about 100 bytes each.
/// </summary>
internal sealed class Vocabulary
{
    /// <summary>A word that is looked for roughly stands for so many terms at most, the nearest ones.</summary>
    private const int MostRough = 60;

    private readonly Lock gate = new();
    private readonly List<(int Id, string Term, string Said)> terms = [];
    private readonly Dictionary<string, List<int>> bySound = [];

    /// <summary>The runs of terms that stand for a word, each with how far from it; and the terms' letters.</summary>
    public IReadOnlyList<WantedTerm> Of(SqliteConnection c, AskedWord word, IReadOnlyDictionary<string, Inflection> languages) =>
        word.How switch
        {
            WordFit.Exact => c.Query(
                "SELECT id, term FROM find_term WHERE language IN (SELECT value FROM json_each($l)) AND term = $t",
                Read,
                ("$l", Json(languages.Keys)),
                ("$t", word.Key)
            ),
            WordFit.Inflected =>
            [
                .. languages.SelectMany(l =>
                    c.Query(
                        "SELECT id, term FROM find_term WHERE language = $l AND stem = $s",
                        Read,
                        ("$l", l.Key),
                        ("$s", l.Value.StemOf(word.Key))
                    )
                ),
            ],
            _ => Rough(c, word.Key),
        };

    /// <summary>What two words that are asked for one behind the other may have been written down as: one word.</summary>
    public IReadOnlyList<WantedTerm> Joined(SqliteConnection c, string one, string other)
    {
        var said = SoundsLike.Said(one + other);
        lock (gate)
        {
            Load(c);
            return Near(said);
        }
    }

    private List<WantedTerm> Rough(SqliteConnection c, string key)
    {
        const int least = 2;
        var said = SoundsLike.Said(key);
        lock (gate)
        {
            Load(c);
            var near = Near(said);
            // Written down as two words that sound like it together.
            for (var i = least; i <= said.Length - least; i++)
            {
                if (bySound.TryGetValue(said[..i], out var ones) && bySound.TryGetValue(said[i..], out var others))
                {
                    near.AddRange(
                        from a in ones
                        from b in others
                        select new WantedTerm([terms[a].Id, terms[b].Id], [terms[a].Term, terms[b].Term], 20)
                    );
                }
            }
            return near;
        }
    }

    private List<WantedTerm> Near(string said) =>
        [
            .. terms
                .Select(t => (t.Id, t.Term, Apart: SoundsLike.Apart(said, t.Said)))
                .Where(t => t.Apart is not null)
                .OrderBy(t => t.Apart)
                .Take(MostRough)
                .Select(t => new WantedTerm([t.Id], [t.Term], t.Apart!.Value)),
        ];

    // Terms are only ever added.
    private void Load(SqliteConnection c)
    {
        var last = terms.Count == 0 ? 0 : terms[^1].Id;
        foreach (
            var term in c.Query(
                "SELECT id, term, said FROM find_term WHERE id > $id ORDER BY id",
                r => (r.GetInt32(0), r.GetString(1), r.GetString(2)),
                ("$id", last)
            )
        )
        {
            if (!bySound.TryGetValue(term.Item3, out var same))
            {
                bySound[term.Item3] = same = [];
            }
            same.Add(terms.Count);
            terms.Add(term);
        }
    }

    private static WantedTerm Read(SqliteDataReader r) => new([r.GetInt32(0)], [r.GetString(1)], 0);

    private static string Json(IEnumerable<string> values) => System.Text.Json.JsonSerializer.Serialize(values);
}

/// <summary>Terms, one behind the other, that stand for a word, and how far they are from it.</summary>
internal sealed record WantedTerm(int[] Ids, string[] Terms, int Apart);
