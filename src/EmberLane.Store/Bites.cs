using EmberLane.Core.Bites;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The bites that people kept.</summary>
public sealed class Bites(Database database)
{
    private const string Select =
        "SELECT b.id, b.sitting_id, b.transcript_id, b.first_word, b.last_word, b.time_in, b.time_out, b.theme, b.note, b.owner, b.aside FROM bite b JOIN sitting s ON s.id = b.sitting_id ";

    public IReadOnlyList<Bite> Of(long productionId) => database.Read(c => c.Query(Select + "WHERE s.production_id = $p ORDER BY b.sitting_id, b.time_in, b.id", ReadBite, ("$p", productionId)));

    public Bite? Get(long id) => database.Read(c => c.Query(Select + "WHERE b.id = $id", ReadBite, ("$id", id))).SingleOrDefault();

    /// <summary>Keeps a bite; its id is given here.</summary>
    public long Add(Bite bite) => database.Write(c => c.Insert(
        "INSERT INTO bite (sitting_id, transcript_id, first_word, last_word, time_in, time_out, theme, note, owner) VALUES ($s, $t, $first, $last, $in, $out, $theme, $note, $owner)",
        ("$s", bite.SittingId), ("$t", bite.TranscriptId), ("$first", bite.FirstWord), ("$last", bite.LastWord),
        ("$in", bite.Range.In.FromZero.Units), ("$out", bite.Range.Out.FromZero.Units), ("$theme", bite.Theme), ("$note", bite.Note), ("$owner", bite.Owner)));

    public void Describe(long id, string theme, string note) =>
        database.Write(c => c.Execute("UPDATE bite SET theme = $theme, note = $note WHERE id = $id", ("$theme", theme), ("$note", note), ("$id", id)));

    public void SetAside(long id, bool aside) => database.Write(c => c.Execute("UPDATE bite SET aside = $aside WHERE id = $id", ("$aside", aside ? 1 : 0), ("$id", id)));

    private static Bite ReadBite(SqliteDataReader r) => new(
        r.GetInt64(0), r.GetInt64(1), r.GetInt64(2), r.GetInt32(3), r.GetInt32(4), Columns.Range(r, 5), r.GetString(7), r.GetString(8), r.GetString(9), r.GetInt64(10) == 1);
}
