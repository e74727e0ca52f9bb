using System.Globalization;
using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Edits;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What a change is about: which kind of thing, which one, and the production that it belongs to.</summary>
internal readonly record struct About(string Aggregate, long Id, long Production)
{
    public const string TextWords = "transcript",
        StoryCards = "story",
        StoryShelf = "stories",
        KeptBites = "bites",
        Gathered = "gather",
        Places = "placing",
        Choice = "texts",
        Cameras = "cameras",
        Captions = "captions",
        Settings = "production";

    public static About Transcript(SqliteConnection c, long id) =>
        new(
            TextWords,
            id,
            c.Query(
                    "SELECT s.production_id FROM transcript t JOIN sitting s ON s.id = t.sitting_id WHERE t.id = $id",
                    r => r.GetInt64(0),
                    ("$id", id)
                )
                .Single()
        );

    public static About Story(SqliteConnection c, long id) =>
        new(StoryCards, id, c.Query("SELECT production_id FROM story WHERE id = $id", r => r.GetInt64(0), ("$id", id)).Single());

    public static About Sitting(SqliteConnection c, string aggregate, long id) =>
        new(aggregate, id, c.Query("SELECT production_id FROM sitting WHERE id = $id", r => r.GetInt64(0), ("$id", id)).Single());

    public static About Bites(long production) => new(KeptBites, production, production);

    public static About Gather(long production) => new(Gathered, production, production);

    public static About ProductionItself(long production) => new(Settings, production, production);
}

/// <summary>A change of the log with what it was and what takes it back.</summary>
internal sealed record Logged<TEdit>(long Id, string Who, DateTimeOffset At, TEdit Edit, TEdit Inverse);

/// <summary>A step along the log: the change, the edit to be made now, and the one that would lead back.</summary>
internal sealed record LogStep<TEdit>(Logged<TEdit> Change, TEdit Edit, TEdit Opposite);

/// <summary>
/// The one log of what people changed. Each change is one row: who, when, on which version, the edit and its inverse as JSON, and in words.
/// Undo and redo go by person; where somebody else touched the same since they are refused with that one's name. Lives in the caller's
/// transaction.
/// </summary>
internal static class ChangeLog
{
    private const int InForce = 0,
        TakenBack = 1,
        PassedOver = 2,
        TakenBackAlone = 3;

    private const string Columns = "SELECT id, who, at, body, inverse FROM change ";

    /// <summary>Writes a change down; what <paramref name="who"/> took back of the same before is passed over with it.</summary>
    public static void Append<TEdit>(
        SqliteConnection c,
        About about,
        string who,
        DateTimeOffset at,
        TEdit edit,
        TEdit inverse,
        string said,
        long version = 0,
        long? takesBack = null
    )
    {
        c.Execute(
            "UPDATE change SET state = $passed WHERE aggregate = $a AND aggregate_id = $id AND state = $back AND who = $who",
            ("$passed", PassedOver),
            ("$a", about.Aggregate),
            ("$id", about.Id),
            ("$back", TakenBack),
            ("$who", who)
        );
        c.Execute(
            "INSERT INTO change (aggregate, aggregate_id, production_id, who, at, body, inverse, said, version, takes_back) VALUES ($a, "
                + "$id, $p, $who, $at, $body, $inverse, $said, $version, $takes)",
            ("$a", about.Aggregate),
            ("$id", about.Id),
            ("$p", about.Production),
            ("$who", who),
            ("$at", at.ToString("O")),
            ("$body", JsonSerializer.Serialize(edit)),
            ("$inverse", JsonSerializer.Serialize(inverse)),
            ("$said", said),
            ("$version", version),
            ("$takes", takesBack)
        );
        c.Execute("UPDATE production SET changes = changes + 1 WHERE id = $p", ("$p", about.Production));
        if (takesBack is { } other)
        {
            Set(c, other, TakenBackAlone);
        }
    }

    /// <summary>Whether a person has a change of this to take back, or to bring again.</summary>
    public static bool Has(SqliteConnection c, About about, bool redo, string who) =>
        c.Query(
            "SELECT 1 FROM change WHERE aggregate = $a AND aggregate_id = $id AND state = $state AND who = $who LIMIT 1",
            r => r.GetInt64(0),
            ("$a", about.Aggregate),
            ("$id", about.Id),
            ("$state", redo ? TakenBack : InForce),
            ("$who", who)
        ).Count > 0;

    /// <summary>
    /// The change that a person's undo takes back (the newest of theirs in force), or that redo brings again (the one last taken back);
    /// null when there is none. Throws <see cref="EditRefusedException"/> with the name of who touched the same since.
    /// </summary>
    public static LogStep<TEdit>? Next<TState, TEdit>(SqliteConnection c, About about, bool redo, string who)
        where TEdit : IEdit<TState, TEdit>
    {
        var next = c.Query(
                Columns
                    + "WHERE aggregate = $a AND aggregate_id = $id AND state = $state AND who = $who ORDER BY id "
                    + (redo ? "ASC" : "DESC")
                    + " LIMIT 1",
                Read<TEdit>,
                ("$a", about.Aggregate),
                ("$id", about.Id),
                ("$state", redo ? TakenBack : InForce),
                ("$who", who)
            )
            .SingleOrDefault();
        return next is null ? null : Step<TState, TEdit>(c, about, next, redo);
    }

    /// <summary>
    /// One change, to be taken back alone. Throws <see cref="EditRefusedException"/> when it is not in force, or somebody touched the same
    /// since.
    /// </summary>
    public static LogStep<TEdit> One<TState, TEdit>(SqliteConnection c, About about, long change)
        where TEdit : IEdit<TState, TEdit> =>
        Step<TState, TEdit>(
            c,
            about,
            c.Query(
                    Columns + "WHERE id = $id AND aggregate = $a AND aggregate_id = $of AND state = $state",
                    Read<TEdit>,
                    ("$id", change),
                    ("$a", about.Aggregate),
                    ("$of", about.Id),
                    ("$state", InForce)
                )
                .SingleOrDefault()
                ?? throw new EditRefusedException("That change is not in force any more."),
            redo: false
        );

    /// <summary>Notes that a step was made.</summary>
    public static void Made(SqliteConnection c, long change, bool redo)
    {
        Set(c, change, redo ? InForce : TakenBack);
        // A change that took another back alone gives it force again when it is itself taken back.
        if (c.Query("SELECT takes_back FROM change WHERE id = $id", r => r.Number(0), ("$id", change)).Single() is { } other)
        {
            Set(c, other, redo ? TakenBackAlone : InForce);
        }
    }

    /// <summary>Notes that a change is past: what it was about lies elsewhere by now.</summary>
    public static void PassOver(SqliteConnection c, long change) => Set(c, change, PassedOver);

    /// <summary>All changes that were not passed over, the newest first, and whether each is in force.</summary>
    public static IReadOnlyList<(Logged<TEdit> Change, bool InForce)> All<TEdit>(SqliteConnection c, About about, int most) =>
        c.Query(
            "SELECT id, who, at, body, inverse, state FROM change WHERE aggregate = $a AND aggregate_id = $id AND state <> $passed ORDER "
                + "BY id DESC LIMIT $most",
            r => (Read<TEdit>(r), r.GetInt32(5) == InForce),
            ("$a", about.Aggregate),
            ("$id", about.Id),
            ("$passed", PassedOver),
            ("$most", most)
        );

    /// <summary>Which log a change stands in; empty when there is no such change.</summary>
    public static string AggregateOf(SqliteConnection c, long change) =>
        c.Query("SELECT aggregate FROM change WHERE id = $id", r => r.GetString(0), ("$id", change)).SingleOrDefault() ?? "";

    /// <summary>A change in words.</summary>
    public static string SaidOf(SqliteConnection c, long change) =>
        c.Query("SELECT said FROM change WHERE id = $id", r => r.GetString(0), ("$id", change)).Single();

    /// <summary>The version that a change was made on.</summary>
    public static long VersionOf(SqliteConnection c, long change) =>
        c.Query("SELECT version FROM change WHERE id = $id", r => r.GetInt64(0), ("$id", change)).Single();

    /// <summary>Whether a later change of the same is in force.</summary>
    public static bool HasLater(SqliteConnection c, long change) =>
        c.Query(
            "SELECT 1 FROM change l JOIN change k ON k.aggregate = l.aggregate AND k.aggregate_id = l.aggregate_id WHERE k.id = $id AND "
                + "l.state = $state AND l.id > k.id LIMIT 1",
            r => r.GetInt64(0),
            ("$id", change),
            ("$state", InForce)
        ).Count > 0;

    /// <summary>When the newest change that was not passed over was made; null when there is none.</summary>
    public static DateTimeOffset? NewestAt(SqliteConnection c, string aggregate, long id) =>
        c.Query(
                "SELECT at FROM change WHERE aggregate = $a AND aggregate_id = $id AND state <> $passed ORDER BY id DESC LIMIT 1",
                r => (DateTimeOffset?)Moment(r, 0),
                ("$a", aggregate),
                ("$id", id),
                ("$passed", PassedOver)
            )
            .SingleOrDefault();

    public static DateTimeOffset Moment(SqliteDataReader r, int column) =>
        DateTimeOffset.Parse(r.GetString(column), CultureInfo.InvariantCulture);

    private static LogStep<TEdit> Step<TState, TEdit>(SqliteConnection c, About about, Logged<TEdit> change, bool redo)
        where TEdit : IEdit<TState, TEdit>
    {
        var touched = TEdit.Touches(change.Edit, change.Inverse).ToHashSet();
        var later = c.Query(
                Columns + "WHERE aggregate = $a AND aggregate_id = $of AND state = $state AND id > $id ORDER BY id",
                Read<TEdit>,
                ("$a", about.Aggregate),
                ("$of", about.Id),
                ("$state", InForce),
                ("$id", change.Id)
            )
            .FirstOrDefault(l => TEdit.Touches(l.Edit, l.Inverse).Any(touched.Contains));
        return later is not null ? throw new EditRefusedException(TouchedSince(later.Who == change.Who ? "you" : later.Who))
            : redo ? new LogStep<TEdit>(change, change.Edit, change.Inverse)
            : new LogStep<TEdit>(change, change.Inverse, change.Edit);
    }

    /// <summary>Why a change can not be taken back or made again: who touched the same.</summary>
    public static string TouchedSince(string who) =>
        $"What this change touched was changed again later by {who}. Take that back first; the page of changes lists who changed what.";

    private static Logged<TEdit> Read<TEdit>(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.GetString(1),
            Moment(r, 2),
            JsonSerializer.Deserialize<TEdit>(r.GetString(3))!,
            JsonSerializer.Deserialize<TEdit>(r.GetString(4))!
        );

    private static void Set(SqliteConnection c, long change, int state)
    {
        c.Execute("UPDATE change SET state = $state WHERE id = $id", ("$state", state), ("$id", change));
        c.Execute(
            "UPDATE production SET changes = changes + 1 WHERE id = (SELECT production_id FROM change WHERE id = $id)",
            ("$id", change)
        );
    }
}
