namespace EmberLane.Store;

/// <summary>Up to which change and which comment somebody has seen a production, and when they said so (null: never).</summary>
public sealed record SeenMark(long ChangeId, long CommentId, DateTimeOffset? At);

/// <summary>What others did in a production since somebody was last there.</summary>
public sealed class SeenUntil(Database database, TimeProvider clock)
{
    /// <summary>Up to where somebody has seen it; nothing, who never said so.</summary>
    public SeenMark Of(long productionId, string who) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT change_id, comment_id, at FROM seen_until WHERE production_id = $p AND who = $w",
                    r => new SeenMark(r.GetInt64(0), r.GetInt64(1), ChangeLog.Moment(r, 2)),
                    ("$p", productionId),
                    ("$w", who)
                )
            )
            .SingleOrDefault()
        ?? new SeenMark(0, 0, null);

    /// <summary>Keeps that somebody has seen it up to there. It never goes back.</summary>
    public void Seen(long productionId, string who, long changeId, long commentId) =>
        database.Write(c =>
            c.Execute(
                "INSERT INTO seen_until VALUES ($p, $w, $change, $comment, $at) ON CONFLICT DO UPDATE SET change_id = MAX(change_id, "
                    + "$change), comment_id = MAX(comment_id, $comment), at = $at",
                ("$p", productionId),
                ("$w", who),
                ("$change", changeId),
                ("$comment", commentId),
                ("$at", clock.GetUtcNow().ToString("O"))
            )
        );

    /// <summary>How many changes others made after that one, counted up to <paramref name="most"/>.</summary>
    public int ChangesAfter(long productionId, long changeId, string who, int most) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*) FROM (SELECT 1 FROM change WHERE production_id = $p AND id > $id AND who <> $w AND state <> 2 LIMIT "
                        + "$most)",
                    r => r.GetInt32(0),
                    ("$p", productionId),
                    ("$id", changeId),
                    ("$w", who),
                    ("$most", most)
                )
                .Single()
        );
}
