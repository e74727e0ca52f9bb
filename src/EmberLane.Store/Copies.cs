using System.Globalization;
using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Copies;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// A copy of a story to hear or see: of which version, what it is called, how it was wanted, who asked for it and when; how many bytes it
/// has, 0 while it is not made; how loud it turned out, in tenths of LUFS, null where that is not known; what of which sittings it holds,
/// null where that was not kept.
/// </summary>
public sealed record StoredCopy(
    long Id,
    long ProductionId,
    long StoryId,
    long Version,
    string Name,
    CopyWish Wish,
    string Who,
    DateTimeOffset At,
    long Bytes,
    int? Loudness,
    IReadOnlyList<CopyPart>? Parts
);

/// <summary>Copies of stories that people asked for. Who asked is kept with each; they change nothing, so they are in no log.</summary>
public sealed class Copies(Database database, TimeProvider clock)
{
    /// <summary>So many are kept of a production.</summary>
    public const int Most = 200;

    private const string Select = "SELECT id, production_id, story_id, version, name, wish, who, at, bytes, loudness, parts FROM copy ";

    /// <summary>
    /// Notes a copy that somebody wants, and returns its id. Throws <see cref="EditRefusedException"/> where there are too many.
    /// </summary>
    public long Add(long productionId, long storyId, long version, string name, CopyWish wish, string who) =>
        database.Write(c =>
            c.Query("SELECT COUNT(*) FROM copy WHERE production_id = $p", r => r.GetInt64(0), ("$p", productionId)).Single() >= Most
                ? throw new EditRefusedException(
                    FormattableString.Invariant($"{Most} copies are kept already. Take away those that are no longer needed.")
                )
                : c.Insert(
                    "INSERT INTO copy (production_id, story_id, version, name, wish, who, at) VALUES ($p, $s, $v, $n, $w, $who, $at)",
                    ("$p", productionId),
                    ("$s", storyId),
                    ("$v", version),
                    ("$n", name),
                    ("$w", JsonSerializer.Serialize(wish)),
                    ("$who", who),
                    ("$at", clock.GetUtcNow().ToString("O"))
                )
        );

    /// <summary>A copy; null when there is none.</summary>
    public StoredCopy? Get(long id) => database.Read(c => c.Query(Select + "WHERE id = $id", Read, ("$id", id))).SingleOrDefault();

    /// <summary>Those of a production, the newest first.</summary>
    public IReadOnlyList<StoredCopy> Of(long productionId) =>
        database.Read(c => c.Query(Select + "WHERE production_id = $p ORDER BY id DESC", Read, ("$p", productionId)));

    /// <summary>It is made: so large, so loud, and of these stretches.</summary>
    public void Made(long id, long bytes, int? loudness, IReadOnlyList<CopyPart> parts) =>
        database.Write(c =>
            c.Execute(
                "UPDATE copy SET bytes = $b, loudness = $l, parts = $p WHERE id = $id",
                ("$b", bytes),
                ("$l", loudness),
                ("$p", JsonSerializer.Serialize(parts)),
                ("$id", id)
            )
        );

    /// <summary>Takes one of a production away; false when it is not there.</summary>
    public bool Remove(long productionId, long id) =>
        database.Write(c =>
            c.Query(
                "DELETE FROM copy WHERE id = $id AND production_id = $p RETURNING id",
                r => r.GetInt64(0),
                ("$id", id),
                ("$p", productionId)
            ).Count > 0
        );

    private static StoredCopy Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.GetInt64(1),
            r.GetInt64(2),
            r.GetInt64(3),
            r.GetString(4),
            JsonSerializer.Deserialize<CopyWish>(r.GetString(5))!,
            r.GetString(6),
            DateTimeOffset.Parse(r.GetString(7), CultureInfo.InvariantCulture),
            r.GetInt64(8),
            r.IsDBNull(9) ? null : r.GetInt32(9),
            r.IsDBNull(10) ? null : JsonSerializer.Deserialize<IReadOnlyList<CopyPart>>(r.GetString(10))
        );
}
