using System.Collections.Immutable;
using EmberLane.Core;
using EmberLane.Core.Productions;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A production; one that was put away is out of the list and is brought back as it was.</summary>
public sealed record Production(long Id, string Name)
{
    /// <summary>Put away, to be brought back.</summary>
    public bool IsAway { get; init; }
}

/// <summary>What the first page tells of a production: how much it holds and when somebody last worked on it (null: never).</summary>
public sealed record ProductionFigures(int Sittings, int Sources, MediaTime Footage, DateTimeOffset? WorkedOn);

/// <summary>Productions, their names, and what was chosen for each.</summary>
public sealed class Productions(Database database, TimeProvider clock)
{
    /// <summary>The longest name, in characters.</summary>
    public const int LongestName = ProductionEdit.LongestName;

    /// <summary>All productions in the order in which they were begun, also those that were put away.</summary>
    public IReadOnlyList<Production> All() =>
        database.Read(c =>
            c.Query(
                "SELECT id, name, away FROM production ORDER BY id",
                r => new Production(r.GetInt64(0), r.GetString(1)) { IsAway = r.GetInt64(2) != 0 }
            )
        );

    /// <summary>
    /// Gives a production another name. Throws <see cref="EditRefusedException"/> for an empty one or one that is too long.
    /// </summary>
    public void Rename(long id, string name, string who) =>
        database.Write(c => Apply(c, id, ProductionEdit.Rename(name), who, $"named “{TypedText.OneLine(name)}”"));

    /// <summary>Puts a production away, or brings it back.</summary>
    public void PutAway(long id, bool away, string who) =>
        database.Write(c => Apply(c, id, ProductionEdit.PutAway(away), who, away ? "put away" : "brought back"));

    /// <summary>
    /// Takes one change alone back, as a change of its own. Throws <see cref="EditRefusedException"/> when it is not in force, or somebody
    /// changed the same since, with who did.
    /// </summary>
    public void TakeBack(long id, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<ProductionState, ProductionEdit>(c, About.ProductionItself(id), change);
            Apply(
                c,
                id,
                step.Edit,
                who,
                "taken back: " + c.Query("SELECT said FROM change WHERE id = $id", r => r.GetString(0), ("$id", change)).Single(),
                change
            );
        });

    /// <summary>What the list of productions shows of one. A few queries.</summary>
    public ProductionFigures Figures(long id) =>
        database.Read(c =>
        {
            var sittings = c.Query("SELECT COUNT(*) FROM sitting WHERE production_id = $p AND gone = 0", r => r.GetInt32(0), ("$p", id))
                .Single();
            var (sources, footage) = c.Query(
                    "SELECT COUNT(*), COALESCE(SUM(json_extract(facts, '$.Duration')), 0) FROM source WHERE production_id = $p",
                    r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))),
                    ("$p", id)
                )
                .Single();
            return new ProductionFigures(sittings, sources, footage, WorkedOn(c, id));
        });

    private static DateTimeOffset? WorkedOn(SqliteConnection c, long id) =>
        c.Query(
                "SELECT MAX(at) FROM change WHERE production_id = $p",
                r => r.IsDBNull(0) ? null : (DateTimeOffset?)ChangeLog.Moment(r, 0),
                ("$p", id)
            )
            .Single();

    /// <summary>What was chosen for a production under a name; null when nothing was.</summary>
    public string? Setting(long id, string name) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT value FROM production_setting WHERE production_id = $p AND name = $n",
                    r => r.GetString(0),
                    ("$p", id),
                    ("$n", name)
                )
            )
            .SingleOrDefault();

    /// <summary>Chooses several things at once, all or none; <paramref name="said"/> is what was chosen, in words.</summary>
    public void Choose(long id, string who, string said, params IReadOnlyList<(string Name, string Value)> settings) =>
        database.Write(c => Apply(c, id, ProductionEdit.Choose(settings.Select(s => (s.Name, (string?)s.Value))), who, said));

    private void Apply(SqliteConnection c, long id, ProductionEdit edit, string who, string said, long? takesBack = null)
    {
        var before = StateOf(c, id);
        var (after, inverse) = edit.Apply(before);
        if (after.Name == before.Name && after.IsAway == before.IsAway && after.Choices.SequenceEqual(before.Choices))
        {
            return;
        }
        c.Execute(
            "UPDATE production SET name = $n, away = $a WHERE id = $id",
            ("$n", after.Name),
            ("$a", after.IsAway ? 1 : 0),
            ("$id", id)
        );
        c.Execute(
            "DELETE FROM production_setting WHERE production_id = $p AND name <> $hand",
            ("$p", id),
            ("$hand", Stories.InHandSetting)
        );
        foreach (var (name, value) in after.Choices)
        {
            c.Execute("INSERT INTO production_setting VALUES ($p, $n, $v)", ("$p", id), ("$n", name), ("$v", value));
        }
        ChangeLog.Append(c, About.ProductionItself(id), who, clock.GetUtcNow(), edit, inverse, said, takesBack: takesBack);
    }

    // Which story is in hand is where somebody was, and no decision.
    private static ProductionState StateOf(SqliteConnection c, long id) =>
        c.Query(
                "SELECT name, away FROM production WHERE id = $id",
                r => new ProductionState(
                    r.GetString(0),
                    r.GetInt64(1) != 0,
                    c.Query(
                            "SELECT name, value FROM production_setting WHERE production_id = $p AND name <> $hand",
                            s => KeyValuePair.Create(s.GetString(0), s.GetString(1)),
                            ("$p", id),
                            ("$hand", Stories.InHandSetting)
                        )
                        .ToImmutableSortedDictionary()
                ),
                ("$id", id)
            )
            .SingleOrDefault()
        ?? throw new EditRefusedException("That production is no longer there.");
}
