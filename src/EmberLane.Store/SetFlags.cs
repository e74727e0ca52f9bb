using System.Globalization;
using EmberLane.Core.SetFlags;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A flag that is kept; one that was taken away stays, to be brought back.</summary>
public sealed record KeptFlag(SetFlag Flag, bool IsAway);

/// <summary>Flags from the set. One that comes again, by its id, is kept once.</summary>
public sealed class SetFlags(Database database)
{
    /// <summary>All flags of a production, the newest first, also those that were taken away.</summary>
    public IReadOnlyList<KeptFlag> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT id, day, at, who, words, away FROM set_flag WHERE production_id = $p ORDER BY day DESC, at DESC",
                r => new KeptFlag(
                    new SetFlag(
                        Guid.Parse(r.GetString(0)),
                        DateOnly.ParseExact(r.GetString(1), "yyyy-MM-dd", CultureInfo.InvariantCulture),
                        MediaTime.FromMilliseconds(r.GetInt64(2)),
                        r.GetString(3),
                        r.GetString(4)
                    ),
                    r.GetInt64(5) != 0
                ),
                ("$p", productionId)
            )
        );

    /// <summary>Keeps flags, all or none; how many of them were new.</summary>
    public int Keep(long productionId, IReadOnlyList<SetFlag> flags) => database.Write(c => flags.Sum(f => Keep(c, productionId, f)));

    /// <summary>Takes a flag of a production away, or brings it back; false when there is none.</summary>
    public bool TakeAway(long productionId, Guid id, bool away) =>
        database.Write(c =>
            c.Query(
                "UPDATE set_flag SET away = $a WHERE id = $id AND production_id = $p RETURNING id",
                r => r.GetString(0),
                ("$a", away ? 1 : 0),
                ("$id", id.ToString()),
                ("$p", productionId)
            ).Count > 0
        );

    private static int Keep(SqliteConnection c, long productionId, SetFlag flag) =>
        c.Query(
            "INSERT OR IGNORE INTO set_flag (id, production_id, day, at, who, words) VALUES ($id, $p, $day, $at, $who, $words) RETURNING "
                + "id",
            r => r.GetString(0),
            ("$id", flag.Id.ToString()),
            ("$p", productionId),
            ("$day", flag.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)),
            ("$at", flag.At.ToMillisecondsRounded()),
            ("$who", flag.Who),
            ("$words", flag.Words)
        ).Count;
}
