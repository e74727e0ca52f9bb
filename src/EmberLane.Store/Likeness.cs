using EmberLane.Core.Sync;

namespace EmberLane.Store;

/// <summary>Which files were compared by sound before they belonged to any sitting, and what came of it.</summary>
public sealed class Likeness(Database database)
{
    /// <summary>Pairs of a production that were compared, each once; <see cref="Alike.Words"/> is empty where the two hold no sound in common.</summary>
    public IReadOnlyList<Alike> Compared(long productionId) => database.Read(c => c.Query(
        "SELECT one, other, words FROM alike JOIN source ON source.id = alike.one WHERE source.production_id = $p ORDER BY one, other", r => new Alike(r.GetInt64(0), r.GetInt64(1), r.GetString(2)), ("$p", productionId)));

    public void Add(Alike pair) => database.Write(c => c.Execute(
        "INSERT OR REPLACE INTO alike VALUES ($a, $b, $w)", ("$a", Math.Min(pair.One, pair.Other)), ("$b", Math.Max(pair.One, pair.Other)), ("$w", pair.Words)));
}
