using EmberLane.Core.Marks;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Which stretches of a sitting people have read or heard, on its clock, so that it holds whichever text is read. It is nobody's decision:
/// it is not in the log.
/// </summary>
public sealed class ReadTimes(Database database)
{
    /// <summary>What anybody has read of each sitting of a production, in order and apart.</summary>
    public IReadOnlyDictionary<long, IReadOnlyList<SittingRange>> Of(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT r.sitting_id, r.time_in, r.time_out FROM read_time r JOIN sitting s ON s.id = r.sitting_id WHERE "
                        + "s.production_id = $p",
                    r => (Sitting: r.GetInt64(0), Range: Columns.Range(r, 1)),
                    ("$p", productionId)
                )
            )
            .GroupBy(r => r.Sitting)
            .ToDictionary(g => g.Key, g => AsideStretches.Union([.. g.Select(r => r.Range)]));

    /// <summary>Notes that somebody has read some stretches; those that meet become one.</summary>
    public void Add(long sittingId, string who, IReadOnlyList<SittingRange> ranges) =>
        database.Write(c =>
        {
            var before = c.Query(
                "SELECT time_in, time_out FROM read_time WHERE sitting_id = $s AND who = $w",
                r => Columns.Range(r, 0),
                ("$s", sittingId),
                ("$w", who)
            );
            var after = AsideStretches.Union([.. before, .. ranges]);
            foreach (var gone in before.Except(after))
            {
                c.Execute(
                    "DELETE FROM read_time WHERE sitting_id = $s AND who = $w AND time_in = $in",
                    ("$s", sittingId),
                    ("$w", who),
                    ("$in", gone.In.FromZero.Units)
                );
            }
            foreach (var fresh in after.Except(before))
            {
                c.Execute(
                    "INSERT INTO read_time (sitting_id, who, time_in, time_out) VALUES ($s, $w, $in, $out)",
                    ("$s", sittingId),
                    ("$w", who),
                    ("$in", fresh.In.FromZero.Units),
                    ("$out", fresh.Out.FromZero.Units)
                );
            }
        });
}
