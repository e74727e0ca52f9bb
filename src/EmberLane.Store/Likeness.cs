using EmberLane.Core.Sync;

namespace EmberLane.Store;

/// <summary>Which files were compared by sound before they belonged to any sitting, and what came of it.</summary>
public sealed class Likeness(Database database)
{
    /// <summary>Pairs of a production that hold sound in common.</summary>
    public IReadOnlyList<Alike> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT one, other, words FROM alike JOIN source ON source.id = alike.one WHERE source.production_id = $p AND words <> '' "
                    + "ORDER BY one, other",
                r => new Alike(r.GetInt64(0), r.GetInt64(1), r.GetString(2)),
                ("$p", productionId)
            )
        );

    /// <summary>The files of a production each two of which have been compared.</summary>
    public IReadOnlySet<long> Compared(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT source_id FROM compared JOIN source ON source.id = source_id WHERE source.production_id = $p",
                    r => r.GetInt64(0),
                    ("$p", productionId)
                )
            )
            .ToHashSet();

    /// <summary>Notes that a file was compared with all that were before, and what it is alike to; all or nothing.</summary>
    public void Add(long sourceId, IReadOnlyList<Alike> alike) =>
        database.Write(c =>
        {
            foreach (var pair in alike)
            {
                c.Execute(
                    "INSERT OR REPLACE INTO alike VALUES ($a, $b, $w)",
                    ("$a", Math.Min(pair.One, pair.Other)),
                    ("$b", Math.Max(pair.One, pair.Other)),
                    ("$w", pair.Words)
                );
            }
            c.Execute("INSERT OR IGNORE INTO compared VALUES ($id)", ("$id", sourceId));
        });
}
