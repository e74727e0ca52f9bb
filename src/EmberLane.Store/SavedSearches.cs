using System.Runtime.InteropServices;
using EmberLane.Core;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A question saved with a name, and the prints of the hits that it had when it was last looked at.</summary>
public sealed record SavedSearch(
    long Id,
    long ProductionId,
    string Name,
    string Question,
    bool IsRough,
    bool IsEverywhere,
    string Owner,
    IReadOnlySet<long> Seen
)
{
    /// <summary>How many of these hits were not there when it was last looked at.</summary>
    public int NewOf(IEnumerable<FoundHit> hits) => hits.Count(IsNew);

    /// <summary>Whether a hit was not there.</summary>
    public bool IsNew(FoundHit hit) => !Seen.Contains(SavedSearches.Print(hit));
}

/// <summary>Questions that people saved, by production.</summary>
public sealed class SavedSearches(Database database)
{
    /// <summary>The longest name, in characters; and so many are kept of a production.</summary>
    public const int LongestName = 60,
        Most = 40;

    private const string Select = "SELECT id, production_id, name, question, rough, everywhere, owner, seen FROM saved_search ";

    /// <summary>Those of a production, by name.</summary>
    public IReadOnlyList<SavedSearch> Of(long productionId) =>
        database.Read(c => c.Query(Select + "WHERE production_id = $p ORDER BY name COLLATE NOCASE", Read, ("$p", productionId)));

    /// <summary>
    /// Saves a question with the hits that it has now; one of the same name is written over. Throws <see cref="EditRefusedException"/> for
    /// a name that is none or too long, or where there are too many. Returns its id.
    /// </summary>
    public long Save(
        long productionId,
        string name,
        string question,
        bool isRough,
        bool isEverywhere,
        string owner,
        IEnumerable<FoundHit> hits
    ) =>
        database.Write(c =>
        {
            if (name.Length is 0 or > LongestName)
            {
                throw new EditRefusedException(FormattableString.Invariant($"A search needs a name of at most {LongestName} letters."));
            }
            var others = c.Query(
                    "SELECT COUNT(*) FROM saved_search WHERE production_id = $p AND name <> $n",
                    r => r.GetInt64(0),
                    ("$p", productionId),
                    ("$n", name)
                )
                .Single();
            if (others >= Most)
            {
                throw new EditRefusedException(
                    FormattableString.Invariant($"{Most} searches are saved already. Take one away that is no longer needed.")
                );
            }
            c.Execute(
                """
                INSERT INTO saved_search (production_id, name, question, rough, everywhere, owner, seen)
                VALUES ($p, $n, $q, $r, $e, $o, $s) ON CONFLICT (production_id, name)
                DO UPDATE SET question = $q, rough = $r, everywhere = $e, owner = $o, seen = $s
                """,
                ("$p", productionId),
                ("$n", name),
                ("$q", question),
                ("$r", isRough ? 1 : 0),
                ("$e", isEverywhere ? 1 : 0),
                ("$o", owner),
                ("$s", Prints(hits))
            );
            return c.Query(
                    "SELECT id FROM saved_search WHERE production_id = $p AND name = $n",
                    r => r.GetInt64(0),
                    ("$p", productionId),
                    ("$n", name)
                )
                .Single();
        });

    /// <summary>It was looked at, with these hits.</summary>
    public void Look(long id, IEnumerable<FoundHit> hits) =>
        database.Write(c => c.Execute("UPDATE saved_search SET seen = $s WHERE id = $id", ("$s", Prints(hits)), ("$id", id)));

    /// <summary>Takes one of a production away; false when it is not there.</summary>
    public bool Remove(long productionId, long id) =>
        database.Write(c =>
            c.Query(
                "DELETE FROM saved_search WHERE id = $id AND production_id = $p RETURNING id",
                r => r.GetInt64(0),
                ("$id", id),
                ("$p", productionId)
            ).Count > 0
        );

    /// <summary>A hit in one number: what it is of and which words, whatever they are now (FNV-1a of 64 bits).</summary>
    internal static long Print(FoundHit hit)
    {
        var print = 14695981039346656037UL;
        foreach (
            var value in (long[])
                [
                    (long)hit.Kind,
                    hit.Sitting?.Id ?? 0,
                    hit.TextId ?? 0,
                    hit.Words?.First.Value ?? -1,
                    hit.Words?.Last.Value ?? -1,
                    hit.Of ?? -1,
                    // A file has several shots. What has none keeps the print that it had before there were any.
                    .. hit.Shot is { } shot ? [shot.Range.In.FromZero.Units] : Array.Empty<long>(),
                ]
        )
        {
            print = (print ^ (ulong)value) * 1099511628211UL;
        }
        return (long)print;
    }

    private static byte[] Prints(IEnumerable<FoundHit> hits) => MemoryMarshal.AsBytes<long>(hits.Select(Print).ToArray()).ToArray();

    private static SavedSearch Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.GetInt64(1),
            r.GetString(2),
            r.GetString(3),
            r.GetInt64(4) == 1,
            r.GetInt64(5) == 1,
            r.GetString(6),
            MemoryMarshal.Cast<byte, long>(r.GetFieldValue<byte[]>(7)).ToArray().ToHashSet()
        );
}
