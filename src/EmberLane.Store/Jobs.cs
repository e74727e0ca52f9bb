using EmberLane.Core.Speech;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// A piece of background work. States: waiting, running, done, failed, cancelled. <see cref="Ended"/> is when it
/// ended, in seconds since 1970, 0 when that is not known.
/// </summary>
public sealed record Job(
    long Id,
    long ProductionId,
    string Kind,
    long SubjectId,
    string Title,
    string State,
    PerMille PerMille,
    string Detail,
    string Error,
    string Payload
)
{
    /// <summary>When it ended, in seconds since 1970; 0 while it has not.</summary>
    public long Ended { get; init; }

    /// <summary>Whether it waits or runs.</summary>
    public bool IsOpen => State is "waiting" or "running";
}

/// <summary>The queue of background work. It survives a restart and never holds the same work twice.</summary>
public sealed class Jobs(Database database)
{
    private const string Select =
        "SELECT id, production_id, kind, subject_id, title, state, per_mille, detail, error, payload, ended FROM job ";

    /// <summary>Queues work, unless the same kind for the same subject waits or runs already; then that one's id is returned.</summary>
    public long Add(long productionId, string kind, long subjectId, string title, string payload = "") =>
        database.Write(c =>
        {
            var key = FormattableString.Invariant($"{kind}/{subjectId}");
            return c.Query("SELECT id FROM job WHERE unique_key = $key", r => (long?)r.GetInt64(0), ("$key", key)).SingleOrDefault()
                ?? c.Insert(
                    "INSERT INTO job (production_id, kind, subject_id, title, state, payload, unique_key) VALUES ($p, $kind, $s, $title, "
                        + "'waiting', $payload, $key)",
                    ("$p", productionId),
                    ("$kind", kind),
                    ("$s", subjectId),
                    ("$title", title),
                    ("$payload", payload),
                    ("$key", key)
                );
        });

    /// <summary>The first waiting work of these kinds, by rank and then by age, now running; null when there is none.</summary>
    public Job? TakeNext(IReadOnlyList<string> kinds) =>
        database.Write(c =>
        {
            var list = string.Join(',', kinds.Select((_, i) => FormattableString.Invariant($"$k{i}")));
            var values = kinds.Select((k, i) => (FormattableString.Invariant($"$k{i}"), (object?)k)).ToArray();
            var next = c.Query(Select + $"WHERE state = 'waiting' AND kind IN ({list}) ORDER BY rank, id LIMIT 1", ReadJob, values)
                .SingleOrDefault();
            if (next is null)
            {
                return null;
            }
            c.Execute("UPDATE job SET state = 'running', detail = '', starts = starts + 1 WHERE id = $id", ("$id", next.Id));
            return next with { State = "running" };
        });

    /// <summary>So often work is begun that ends the server before it ends; then a person is asked.</summary>
    public const int MostStarts = 3;

    /// <summary>
    /// Called once at start: what was running when the server was stopped waits again, unless it was begun <see cref="MostStarts"/> times
    /// without getting on.
    /// </summary>
    public void TakeUpAgain() =>
        database.Write(c =>
        {
            c.Execute(
                "UPDATE job SET state = 'failed', unique_key = NULL, ended = unixepoch(), error = $why WHERE state = 'running' AND starts "
                    + ">= $most",
                ("$most", MostStarts),
                (
                    "$why",
                    "It was begun three times, and each time Ember Lane stopped before it ended. It waits for you: look at the file it "
                        + "works on, then try again or leave it."
                )
            );
            c.Execute("UPDATE job SET state = 'waiting' WHERE state = 'running'");
        });

    /// <summary>The server stops in good order: what it was doing waits, and this start does not count.</summary>
    public void Stopped(long id) =>
        database.Write(c =>
            c.Execute("UPDATE job SET state = 'waiting', starts = max(0, starts - 1) WHERE id = $id AND state = 'running'", ("$id", id))
        );

    /// <summary>Notes how far a job is, 0–1000, and what it is at.</summary>
    public void Progress(long id, PerMille perMille, string detail) =>
        database.Write(c =>
            c.Execute(
                "UPDATE job SET per_mille = $p, detail = $d WHERE id = $id AND state = 'running'",
                ("$p", perMille),
                ("$d", detail),
                ("$id", id)
            )
        );

    /// <summary>How much work waits, runs and has failed, in all productions.</summary>
    public IReadOnlyDictionary<string, int> CountsByState() =>
        new[] { "waiting", "running", "failed" }.ToDictionary(
            state => state,
            state => database.Read(c => c.Query("SELECT COUNT(*) FROM job WHERE state = $s", r => r.GetInt32(0), ("$s", state)).Single())
        );

    /// <summary>Ends work; its pieces are no longer needed. A cancelled job keeps its state whatever comes after.</summary>
    public void End(long id, string state, string detail, string error) => database.Write(c => End(c, id, state, detail, error));

    internal static void End(SqliteConnection c, long id, string state, string detail, string error)
    {
        c.Execute(
            "UPDATE job SET state = $state, detail = $detail, error = $error, per_mille = CASE WHEN $state = 'done' THEN 1000 ELSE "
                + "per_mille END, unique_key = NULL, ended = unixepoch() WHERE id = $id AND state IN ('waiting', 'running')",
            ("$state", state),
            ("$detail", detail),
            ("$error", error),
            ("$id", id)
        );
        c.Execute("DELETE FROM job_piece WHERE job_id = $id AND EXISTS (SELECT 1 FROM job WHERE id = $id AND state = 'done')", ("$id", id));
    }

    /// <summary>Puts failed or cancelled work back into the queue, with the pieces that it had made.</summary>
    public void TryAgain(long id) =>
        database.Write(c =>
        {
            var job = c.Query(Select + "WHERE id = $id AND state IN ('failed', 'cancelled')", ReadJob, ("$id", id)).SingleOrDefault();
            var key = job is null ? "" : FormattableString.Invariant($"{job.Kind}/{job.SubjectId}");
            if (job is not null && c.Query("SELECT 1 FROM job WHERE unique_key = $key", r => r.GetInt64(0), ("$key", key)).Count == 0)
            {
                c.Execute(
                    "UPDATE job SET state = 'waiting', error = '', detail = '', starts = 0, unique_key = $key WHERE id = $id",
                    ("$key", key),
                    ("$id", id)
                );
            }
        });

    /// <summary>Puts all failed work of a production back into the queue.</summary>
    public void TryAllAgain(long productionId)
    {
        foreach (
            var id in database.Read(c =>
                c.Query(
                    "SELECT id FROM job WHERE production_id = $p AND state = 'failed' ORDER BY id",
                    r => r.GetInt64(0),
                    ("$p", productionId)
                )
            )
        )
        {
            TryAgain(id);
        }
    }

    /// <summary>Puts waiting work before all other that waits, or behind it. Work that does not wait stays as it is.</summary>
    public void Reorder(long id, bool first) =>
        database.Write(c =>
            c.Execute(
                "UPDATE job SET rank = (SELECT "
                    + (first ? "MIN(rank) - 1" : "MAX(rank) + 1")
                    + " FROM job WHERE state = 'waiting') WHERE id = $id AND state = 'waiting'",
                ("$id", id)
            )
        );

    /// <summary>A job; null when there is none.</summary>
    public Job? Get(long id) => database.Read(c => c.Query(Select + "WHERE id = $id", ReadJob, ("$id", id))).SingleOrDefault();

    /// <summary>The newest work for a subject; null when there never was any.</summary>
    public Job? Newest(string kind, long subjectId) =>
        database
            .Read(c =>
                c.Query(Select + "WHERE kind = $k AND subject_id = $s ORDER BY id DESC LIMIT 1", ReadJob, ("$k", kind), ("$s", subjectId))
            )
            .SingleOrDefault();

    /// <summary>Open and failed work first, then what ended, newest first, at most <paramref name="most"/>.</summary>
    public IReadOnlyList<Job> Of(long productionId, int most) =>
        database.Read(c =>
            c.Query(
                Select
                    + "WHERE production_id = $p ORDER BY CASE state WHEN 'running' THEN 0 WHEN 'waiting' THEN 1 WHEN 'failed' THEN 2 ELSE "
                    + "3 END, CASE WHEN state = 'waiting' THEN rank ELSE 0 END, CASE WHEN state IN ('running', 'waiting') THEN id ELSE "
                    + "-id END LIMIT $most",
                ReadJob,
                ("$p", productionId),
                ("$most", most)
            )
        );

    /// <summary>Keeps a piece that is done, so that another start goes on behind it.</summary>
    public void KeepPiece(long jobId, StepRange piece, string words) =>
        database.Write(c =>
        {
            c.Execute(
                "INSERT OR REPLACE INTO job_piece VALUES ($j, $f, $e, $w)",
                ("$j", jobId),
                ("$f", piece.First),
                ("$e", piece.End),
                ("$w", words)
            );
            // It gets on: earlier starts were not in vain.
            c.Execute("UPDATE job SET starts = 1 WHERE id = $j AND starts > 1", ("$j", jobId));
        });

    /// <summary>The pieces that the work has made so far, each by the range that it covers.</summary>
    public IReadOnlyList<(StepRange Piece, string Words)> Pieces(long jobId) =>
        database.Read(c =>
            c.Query(
                "SELECT first_step, end_step, words FROM job_piece WHERE job_id = $j ORDER BY first_step",
                r => (StepRange.Of(r.GetInt32(0), r.GetInt32(1)), r.GetString(2)),
                ("$j", jobId)
            )
        );

    /// <summary>Lets go of pieces that were made of another sound.</summary>
    public void ForgetPieces(long jobId) => database.Write(c => c.Execute("DELETE FROM job_piece WHERE job_id = $j", ("$j", jobId)));

    /// <summary>Replaces the list of files that the work left out.</summary>
    public void LeaveOut(long jobId, IReadOnlyList<(string Path, string Reason)> files) =>
        database.Write(c =>
        {
            c.Execute("DELETE FROM left_out WHERE job_id = $j", ("$j", jobId));
            foreach (var (path, reason) in files)
            {
                c.Execute("INSERT INTO left_out (job_id, path, reason) VALUES ($j, $p, $r)", ("$j", jobId), ("$p", path), ("$r", reason));
            }
        });

    /// <summary>The files that a job left out, and why.</summary>
    public IReadOnlyList<(string Path, string Reason)> LeftOut(long jobId) =>
        database.Read(c =>
            c.Query("SELECT path, reason FROM left_out WHERE job_id = $j ORDER BY id", r => (r.GetString(0), r.GetString(1)), ("$j", jobId))
        );

    /// <summary>Work of one kind in a production, newest first.</summary>
    public IReadOnlyList<Job> OfKind(long productionId, string kind) =>
        database.Read(c =>
            c.Query(Select + "WHERE production_id = $p AND kind = $k ORDER BY id DESC", ReadJob, ("$p", productionId), ("$k", kind))
        );

    private static Job ReadJob(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.GetInt64(1),
            r.GetString(2),
            r.GetInt64(3),
            r.GetString(4),
            r.GetString(5),
            new PerMille(r.GetInt32(6)),
            r.GetString(7),
            r.GetString(8),
            r.GetString(9)
        )
        {
            Ended = r.GetInt64(10),
        };
}
