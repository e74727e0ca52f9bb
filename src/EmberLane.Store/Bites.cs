using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Bites;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The bites that people kept. Keeping, describing and setting aside are in the production's log and are taken back by the person who did them.</summary>
public sealed class Bites(Database database, TimeProvider clock)
{
    private const string Log = "bites";

    private const string Select =
        "SELECT b.id, b.sitting_id, b.transcript_id, b.first_word, b.last_word, b.time_in, b.time_out, b.theme, b.note, b.owner, b.aside FROM bite b JOIN sitting s ON s.id = b.sitting_id ";

    // What can be changed of a bite, as it was before a change or is after it.
    private sealed record Row(long Id, string Theme, string Note, bool Aside, bool Gone);

    public IReadOnlyList<Bite> Of(long productionId) =>
        database.Read(c => c.Query(Select + "WHERE s.production_id = $p AND b.gone = 0 ORDER BY b.sitting_id, b.time_in, b.id", ReadBite, ("$p", productionId)));

    public Bite? Get(long id) => database.Read(c => c.Query(Select + "WHERE b.id = $id AND b.gone = 0", ReadBite, ("$id", id))).SingleOrDefault();

    /// <summary>Keeps a bite of <see cref="Bite.Owner"/>; its id is given here.</summary>
    public long Add(Bite bite) => database.Write(c =>
    {
        var id = c.Insert(
            "INSERT INTO bite (sitting_id, transcript_id, first_word, last_word, time_in, time_out, theme, note, owner) VALUES ($s, $t, $first, $last, $in, $out, $theme, $note, $owner)",
            ("$s", bite.SittingId), ("$t", bite.TranscriptId), ("$first", bite.FirstWord), ("$last", bite.LastWord),
            ("$in", bite.Range.In.FromZero.Units), ("$out", bite.Range.Out.FromZero.Units), ("$theme", bite.Theme), ("$note", bite.Note), ("$owner", bite.Owner));
        var kept = new Row(id, bite.Theme, bite.Note, false, false);
        Append(c, kept with { Gone = true }, kept, bite.Owner);
        return id;
    });

    public void Describe(long id, string theme, string note, string who) => Change(id, row => row with { Theme = theme, Note = note }, who);

    public void SetAside(long id, bool aside, string who) => Change(id, row => row with { Aside = aside }, who);

    /// <summary>
    /// Takes a person's newest change of a production's bites back, or brings the one last taken back again; false when there is none. Throws <see cref="EditRefusedException"/> when somebody changed the same bite since, or a bite
    /// that would go lies in a story.
    /// </summary>
    public bool Step(long productionId, bool redo, string who) => database.Write(c =>
    {
        if (EditLog.Next(c, Log, productionId, redo, who) is not { } logged)
        {
            return false;
        }
        Row to = JsonSerializer.Deserialize<Row>(redo ? logged.Body : logged.Inverse)!, from = JsonSerializer.Deserialize<Row>(redo ? logged.Inverse : logged.Body)!;
        if (RowOf(c, to.Id) != from)
        {
            throw new EditRefusedException("This bite was changed again since, by you or somebody else. Change it here instead.");
        }
        if (to.Gone && c.Query("SELECT 1 FROM card WHERE bite_id = $id LIMIT 1", r => r.GetInt64(0), ("$id", to.Id)).Count > 0)
        {
            throw new EditRefusedException("This bite lies in a story. Take it out there first.");
        }
        Save(c, to);
        EditLog.Mark(c, logged.Id, takenBack: !redo);
        return true;
    });

    private void Change(long id, Func<Row, Row> change, string who) => database.Write(c =>
    {
        var before = RowOf(c, id);
        var after = change(before);
        if (before != after)
        {
            Save(c, after);
            Append(c, before, after, who);
        }
    });

    private void Append(SqliteConnection c, Row before, Row after, string who)
    {
        var production = c.Query("SELECT s.production_id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE b.id = $id", r => r.GetInt64(0), ("$id", after.Id)).Single();
        EditLog.Append(c, Log, production, who, clock.GetUtcNow(), JsonSerializer.Serialize(after), JsonSerializer.Serialize(before), ownUndo: true);
    }

    private static Row RowOf(SqliteConnection c, long id) =>
        c.Query("SELECT theme, note, aside, gone FROM bite WHERE id = $id", r => new Row(id, r.GetString(0), r.GetString(1), r.GetInt64(2) != 0, r.GetInt64(3) != 0), ("$id", id)).SingleOrDefault()
        ?? throw new EditRefusedException("That bite is no longer there.");

    private static void Save(SqliteConnection c, Row row) => c.Execute("UPDATE bite SET theme = $theme, note = $note, aside = $aside, gone = $gone WHERE id = $id",
        ("$theme", row.Theme), ("$note", row.Note), ("$aside", row.Aside ? 1 : 0), ("$gone", row.Gone ? 1 : 0), ("$id", row.Id));

    private static Bite ReadBite(SqliteDataReader r) => new(
        r.GetInt64(0), r.GetInt64(1), r.GetInt64(2), r.GetInt32(3), r.GetInt32(4), Columns.Range(r, 5), r.GetString(7), r.GetString(8), r.GetString(9), r.GetInt64(10) == 1);
}
