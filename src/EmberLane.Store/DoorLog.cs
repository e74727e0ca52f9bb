using EmberLane.Core.People;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Something that happened at the door: when, what, who it was about or who did it, in which production (null: none), in words.
/// </summary>
public sealed record DoorLine(long Id, DateTimeOffset At, DoorEvent Event, string Who, long? ProductionId, string Said);

/// <summary>What happened at the door, the newest first. So many lines are kept; the oldest go.</summary>
public sealed class DoorLog(Database database, TimeProvider clock)
{
    /// <summary>The most that are kept: whoever tries passwords must not fill the disk.</summary>
    public const int Most = 20_000;

    private const int LongestSaid = 300;

    /// <summary>Writes one down, in a change of its own.</summary>
    public void Add(DoorEvent what, string who, string said, long? productionId = null) =>
        database.Write(c => Append(c, clock.GetUtcNow(), what, who, said, productionId));

    /// <summary>
    /// The newest <paramref name="most"/> before a line (null: of all), of one production and of none (null: of everything).
    /// </summary>
    public IReadOnlyList<DoorLine> Newest(int most, long? before = null, long? productionId = null) =>
        database.Read(c =>
            c.Query(
                "SELECT id, at, kind, who, production_id, said FROM door_event WHERE ($b IS NULL OR id < $b) AND ($p IS NULL OR "
                    + "production_id = $p) ORDER BY id DESC LIMIT $n",
                r => new DoorLine(
                    r.GetInt64(0),
                    ChangeLog.Moment(r, 1),
                    (DoorEvent)r.GetInt32(2),
                    r.GetString(3),
                    r.Number(4),
                    r.GetString(5)
                ),
                ("$b", before),
                ("$p", productionId),
                ("$n", most)
            )
        );

    internal static void Append(SqliteConnection c, DateTimeOffset at, DoorEvent what, string who, string said, long? productionId = null)
    {
        var id = c.Insert(
            "INSERT INTO door_event (at, kind, who, production_id, said) VALUES ($at, $k, $who, $p, $said)",
            ("$at", at.ToString("O")),
            ("$k", (int)what),
            ("$who", who.Length > SignInName.Longest * 2 ? who[..(SignInName.Longest * 2)] : who),
            ("$p", productionId),
            ("$said", said.Length > LongestSaid ? said[..LongestSaid] : said)
        );
        c.Execute("DELETE FROM door_event WHERE id <= $last", ("$last", id - Most));
    }
}
