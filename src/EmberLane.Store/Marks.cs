using System.Collections.Immutable;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The rows of marks, of every kind. Marks of a text are changed with it, bites by <see cref="Bites"/>.</summary>
internal static class Marks
{
    /// <summary>The columns that <see cref="Read"/> takes, of the table named m.</summary>
    public const string MarkColumns = "m.id, m.kind, m.first_word, m.last_word, m.time_in, m.time_out, m.owner, m.note, m.made_at";

    public const int Count = 9;

    /// <summary>The marks of a text but for its bites, by id.</summary>
    public static ImmutableSortedDictionary<long, Mark> OfText(SqliteConnection c, long transcript) =>
        c.Query(
                $"SELECT {MarkColumns} FROM mark m WHERE m.transcript_id = $t AND m.kind <> $bite",
                Read,
                ("$t", transcript),
                ("$bite", MarkKind.Bite.Key)
            )
            .ToImmutableSortedDictionary(m => m.Id, m => m);

    /// <summary>An id that no mark has had.</summary>
    public static long Next(SqliteConnection c) =>
        c.Query("SELECT seq + 1 FROM sqlite_sequence WHERE name = 'mark'", r => r.GetInt64(0)).SingleOrDefault(1);

    /// <summary>Whether anything of a text is set aside, in whatever layer.</summary>
    public static bool SetsAside(SqliteConnection c, long transcript) =>
        MarkKind
            .All.Where(k => k.Layer is not null)
            .Any(k =>
                c.Query(
                    "SELECT 1 FROM mark WHERE transcript_id = $t AND kind = $k LIMIT 1",
                    r => r.GetInt64(0),
                    ("$t", transcript),
                    ("$k", k.Key)
                ).Count > 0
            );

    public static void Save(
        SqliteConnection c,
        long transcript,
        ImmutableSortedDictionary<long, Mark> before,
        ImmutableSortedDictionary<long, Mark> after
    )
    {
        foreach (var gone in before.Keys.Where(k => !after.ContainsKey(k)))
        {
            c.Execute("DELETE FROM mark WHERE id = $id", ("$id", gone));
        }
        foreach (var mark in after.Values.Where(m => !before.ContainsKey(m.Id)))
        {
            Add(c, transcript, mark);
        }
    }

    /// <summary>Writes a mark; one whose id is 0 gets the next one. Returns its id.</summary>
    public static long Add(SqliteConnection c, long transcript, Mark mark) =>
        c.Insert(
            "INSERT INTO mark VALUES ($id, $t, $kind, $first, $last, $in, $out, $owner, $note, $at)",
            ("$id", mark.Id == 0 ? null : mark.Id),
            ("$t", transcript),
            ("$kind", mark.Kind.Key),
            ("$first", mark.First),
            ("$last", mark.Last),
            ("$in", mark.Range.In.FromZero.Units),
            ("$out", mark.Range.Out.FromZero.Units),
            ("$owner", mark.Owner),
            ("$note", mark.Note),
            ("$at", mark.When?.ToString("O"))
        );

    public static void SaveNote(SqliteConnection c, long id, string note) =>
        c.Execute("UPDATE mark SET note = $note WHERE id = $id", ("$note", note), ("$id", id));

    /// <summary>Writes where a mark lies.</summary>
    public static void SavePlace(SqliteConnection c, long id, BitePlace place) =>
        c.Execute(
            "UPDATE mark SET transcript_id = $t, first_word = $first, last_word = $last, time_in = $in, time_out = $out WHERE id = $id",
            ("$t", place.Text),
            ("$first", place.First),
            ("$last", place.Last),
            ("$in", place.Range.In.FromZero.Units),
            ("$out", place.Range.Out.FromZero.Units),
            ("$id", id)
        );

    public static Mark Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            MarkKind.Find(r.GetString(1))
                ?? throw new InvalidOperationException($"A mark of kind “{r.GetString(1)}” is kept, which this version does not know."),
            Columns.Word(r, 2),
            Columns.Word(r, 3),
            Columns.Range(r, 4),
            r.GetString(6),
            r.GetString(7),
            r.IsDBNull(8) ? null : ChangeLog.Moment(r, 8)
        );
}
