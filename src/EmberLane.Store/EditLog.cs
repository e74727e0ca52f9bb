using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>An edit of the log, with the edit that takes it back, both as JSON.</summary>
public sealed record LoggedEdit(long Id, string Who, string At, string Body, string Inverse);

/// <summary>The log of what people changed, one order for each transcript and story. Lives in the caller's transaction.</summary>
internal static class EditLog
{
    private const int InForce = 0, TakenBack = 1, PassedOver = 2;

    /// <summary>A new edit passes over what was taken back; only over what <paramref name="who"/> took back where each person has an undo of their own.</summary>
    public static void Append(SqliteConnection c, string aggregate, long id, string who, DateTimeOffset at, string body, string inverse, bool ownUndo = false)
    {
        c.Execute("UPDATE edit SET state = $passed WHERE aggregate = $a AND aggregate_id = $id AND state = $back" + (ownUndo ? " AND who = $who" : ""),
            ("$passed", PassedOver), ("$a", aggregate), ("$id", id), ("$back", TakenBack), ("$who", who));
        c.Execute("INSERT INTO edit (aggregate, aggregate_id, who, at, body, inverse) VALUES ($a, $id, $who, $at, $body, $inverse)",
            ("$a", aggregate), ("$id", id), ("$who", who), ("$at", at.ToString("O")), ("$body", body), ("$inverse", inverse));
    }

    /// <summary>The edit that undo would take back (the newest in force), or that redo would bring again (the oldest taken back); of one person alone when <paramref name="who"/> is given.</summary>
    public static LoggedEdit? Next(SqliteConnection c, string aggregate, long id, bool redo, string? who = null) => c.Query(
        "SELECT id, who, at, body, inverse FROM edit WHERE aggregate = $a AND aggregate_id = $id AND state = $state AND who = COALESCE($who, who) ORDER BY id " + (redo ? "ASC" : "DESC") + " LIMIT 1",
        r => new LoggedEdit(r.GetInt64(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4)),
        ("$a", aggregate), ("$id", id), ("$state", redo ? TakenBack : InForce), ("$who", who)).SingleOrDefault();

    /// <summary>All entries that were not passed over, the newest first, and whether each is in force.</summary>
    public static IReadOnlyList<(LoggedEdit Edit, bool InForce)> All(SqliteConnection c, string aggregate, long id, int most) => c.Query(
        "SELECT id, who, at, body, inverse, state FROM edit WHERE aggregate = $a AND aggregate_id = $id AND state <> $passed ORDER BY id DESC LIMIT $most",
        r => (new LoggedEdit(r.GetInt64(0), r.GetString(1), r.GetString(2), r.GetString(3), r.GetString(4)), r.GetInt32(5) == EditLog.InForce),
        ("$a", aggregate), ("$id", id), ("$passed", PassedOver), ("$most", most));

    public static void PassOver(SqliteConnection c, long edit) => c.Execute("UPDATE edit SET state = $state WHERE id = $id", ("$state", PassedOver), ("$id", edit));

    public static void Mark(SqliteConnection c, long edit, bool takenBack) =>
        c.Execute("UPDATE edit SET state = $state WHERE id = $id", ("$state", takenBack ? TakenBack : InForce), ("$id", edit));
}
