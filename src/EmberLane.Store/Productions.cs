using System.Globalization;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A production; one that was put away is out of the list and is brought back as it was.</summary>
public sealed record Production(long Id, string Name)
{
    public bool IsAway { get; init; }
}

/// <summary>What the first page tells of a production: how much it holds and when somebody last worked on it (null: never).</summary>
public sealed record ProductionFigures(int Sittings, int Sources, MediaTime Footage, DateTimeOffset? WorkedOn);

/// <summary>Productions, their names, and what was chosen for each.</summary>
public sealed class Productions(Database database)
{
    public const int LongestName = 120;

    /// <summary>All productions in the order in which they were begun, also those that were put away.</summary>
    public IReadOnlyList<Production> All() =>
        database.Read(c => c.Query("SELECT id, name, away FROM production ORDER BY id", r => new Production(r.GetInt64(0), r.GetString(1)) { IsAway = r.GetInt64(2) != 0 }));

    /// <summary>Gives a production another name. What was typed is checked by the caller.</summary>
    public void Rename(long id, string name) => database.Write(c => c.Execute("UPDATE production SET name = $n WHERE id = $id", ("$n", name), ("$id", id)));

    /// <summary>Puts a production away, or brings it back.</summary>
    public void PutAway(long id, bool away) => database.Write(c => c.Execute("UPDATE production SET away = $a WHERE id = $id", ("$a", away ? 1 : 0), ("$id", id)));

    public ProductionFigures Figures(long id) => database.Read(c =>
    {
        var sittings = c.Query("SELECT COUNT(*) FROM sitting WHERE production_id = $p AND gone = 0", r => r.GetInt32(0), ("$p", id)).Single();
        var (sources, footage) = c.Query("SELECT COUNT(*), COALESCE(SUM(json_extract(facts, '$.Duration')), 0) FROM source WHERE production_id = $p", r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))), ("$p", id)).Single();
        return new ProductionFigures(sittings, sources, footage, WorkedOn(c, id));
    });

    // The newest entry of any log of the production.
    private static DateTimeOffset? WorkedOn(SqliteConnection c, long id) => c.Query(
        """
        SELECT MAX(at) FROM edit e WHERE (aggregate IN ('gather', 'bites') AND aggregate_id = $p)
            OR (aggregate = 'story' AND aggregate_id IN (SELECT id FROM story WHERE production_id = $p))
            OR (aggregate IN ('placing', 'texts') AND aggregate_id IN (SELECT id FROM sitting WHERE production_id = $p))
            OR (aggregate = 'transcript' AND aggregate_id IN (SELECT t.id FROM transcript t JOIN sitting s ON s.id = t.sitting_id WHERE s.production_id = $p))
        """, r => r.IsDBNull(0) ? null : r.GetString(0), ("$p", id)).Single() is { } at ? DateTimeOffset.Parse(at, CultureInfo.InvariantCulture) : null;

    /// <summary>What was chosen for a production under a name; null when nothing was.</summary>
    public string? Setting(long id, string name) =>
        database.Read(c => c.Query("SELECT value FROM production_setting WHERE production_id = $p AND name = $n", r => r.GetString(0), ("$p", id), ("$n", name))).SingleOrDefault();

    /// <summary>Chooses several things at once, all or none.</summary>
    public void Choose(long id, params IReadOnlyList<(string Name, string Value)> settings) => database.Write(c =>
    {
        foreach (var (name, value) in settings)
        {
            c.Execute("INSERT OR REPLACE INTO production_setting VALUES ($p, $n, $v)", ("$p", id), ("$n", name), ("$v", value));
        }
    });
}
