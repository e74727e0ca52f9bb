using EmberLane.Core;
using EmberLane.Core.Bites;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The bites that people kept. Keeping, describing and setting aside are in the production's log and are taken back by the person who did them.</summary>
public sealed class Bites(Database database, Transcripts transcripts, TimeProvider clock)
{
    private const string Select =
        "SELECT b.id, b.sitting_id, b.transcript_id, b.first_word, b.last_word, b.time_in, b.time_out, b.theme, b.note, b.owner, b.aside FROM bite b JOIN sitting s ON s.id = b.sitting_id ";

    public IReadOnlyList<Bite> Of(long productionId) =>
        database.Read(c => c.Query(Select + "WHERE s.production_id = $p AND b.gone = 0 ORDER BY b.sitting_id, b.time_in, b.id", ReadBite, ("$p", productionId)));

    /// <summary>These bites, in any order. Cost grows with their number.</summary>
    public IReadOnlyList<Bite> Of(IReadOnlyCollection<long> ids) => database.Read(c => c.Query(Select + $"WHERE b.id IN ({string.Join(',', ids)})", ReadBite));

    /// <summary>How many bites of a production are kept and not set aside, and how long what is in use of them lasts together.</summary>
    public (int Kept, MediaTime Length) Figures(long productionId) => database.Read(c => c.Query(
        "SELECT COUNT(*), COALESCE(SUM(r.length), 0) FROM bite b JOIN sitting s ON s.id = b.sitting_id JOIN bite_reading r ON r.bite_id = b.id WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0",
        r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))), ("$p", productionId)).Single());

    /// <summary>The bites of a production that were set aside.</summary>
    public IReadOnlySet<long> SetAsideOf(long productionId) => database.Read(c => c.Query(
        "SELECT b.id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 1", r => r.GetInt64(0), ("$p", productionId))).ToHashSet();

    public Bite? Get(long id) => database.Read(c => c.Query(Select + "WHERE b.id = $id AND b.gone = 0", ReadBite, ("$id", id))).SingleOrDefault();

    /// <summary>Keeps a bite of <see cref="Bite.Owner"/>; its id is given here.</summary>
    public long Add(Bite bite) => database.Write(c =>
    {
        var id = c.Insert(
            "INSERT INTO bite (sitting_id, transcript_id, first_word, last_word, time_in, time_out, theme, note, owner) VALUES ($s, $t, $first, $last, $in, $out, $theme, $note, $owner)",
            ("$s", bite.SittingId), ("$t", bite.TranscriptId), ("$first", bite.FirstWord), ("$last", bite.LastWord),
            ("$in", bite.Range.In.FromZero.Units), ("$out", bite.Range.Out.FromZero.Units), ("$theme", bite.Theme), ("$note", bite.Note), ("$owner", bite.Owner));
        Readings.Refresh(c, transcripts, bite.SittingId);
        var kept = new BiteState(bite.Theme, bite.Note, false, false);
        Append(c, BiteEdit.Of(id, kept), BiteEdit.Of(id, kept with { Gone = true }), bite.Owner);
        return id;
    });

    /// <summary>Throws <see cref="EditRefusedException"/> for a theme or note that is too long.</summary>
    public void Describe(long id, string theme, string note, string who) => Change(id, state => state with { Theme = theme, Note = note }, who);

    public void SetAside(long id, bool aside, string who) => Change(id, state => state with { Aside = aside }, who);

    /// <summary>
    /// Takes a person's newest change of a production's bites back, or brings the one last taken back again; false when there is none. Throws <see cref="EditRefusedException"/> when somebody changed the same of a bite since, or a bite
    /// that would go lies in a story.
    /// </summary>
    public bool Step(long productionId, bool redo, string who) => database.Write(c =>
    {
        if (ChangeLog.Next<BiteState, BiteEdit>(c, About.Bites(productionId), redo, who) is not { } step)
        {
            return false;
        }
        Make(c, step);
        ChangeLog.Made(c, step.Change.Id, redo);
        return true;
    });

    /// <summary>Takes one change of a production's bites back alone; refused as <see cref="Step"/> is.</summary>
    public void TakeBack(long productionId, long change, string who) => database.Write(c =>
    {
        var step = ChangeLog.One<BiteState, BiteEdit>(c, About.Bites(productionId), change);
        var (edit, inverse) = Make(c, step);
        Append(c, edit, inverse, who, change);
    });

    private static (BiteEdit Edit, BiteEdit Inverse) Make(SqliteConnection c, LogStep<BiteEdit> step)
    {
        var before = StateOf(c, step.Edit.Id);
        var edit = step.Edit.Against(step.Opposite, before);
        if (edit.Gone && c.Query("SELECT 1 FROM card WHERE bite_id = $id LIMIT 1", r => r.GetInt64(0), ("$id", edit.Id)).Count > 0)
        {
            throw new EditRefusedException("This bite lies in a story. Take it out there first.");
        }
        var (after, inverse) = edit.Apply(before);
        Save(c, edit.Id, after);
        return (edit, inverse);
    }

    private void Change(long id, Func<BiteState, BiteState> change, string who) => database.Write(c =>
    {
        var before = StateOf(c, id);
        var (after, inverse) = BiteEdit.Of(id, change(before)).Apply(before);
        if (before != after)
        {
            Save(c, id, after);
            Append(c, BiteEdit.Of(id, after), inverse, who);
        }
    });

    private void Append(SqliteConnection c, BiteEdit edit, BiteEdit inverse, string who, long? takesBack = null)
    {
        var (production, said) = c.Query("SELECT s.production_id, COALESCE(r.said, '') FROM bite b JOIN sitting s ON s.id = b.sitting_id LEFT JOIN bite_reading r ON r.bite_id = b.id WHERE b.id = $id",
            r => (r.GetInt64(0), r.GetString(1)), ("$id", edit.Id)).Single();
        ChangeLog.Append(c, About.Bites(production), who, clock.GetUtcNow(), edit, inverse, BiteWords.Of(edit, inverse, said), takesBack: takesBack);
    }

    private static BiteState StateOf(SqliteConnection c, long id) =>
        c.Query("SELECT theme, note, aside, gone FROM bite WHERE id = $id", r => new BiteState(r.GetString(0), r.GetString(1), r.GetInt64(2) != 0, r.GetInt64(3) != 0), ("$id", id)).SingleOrDefault()
        ?? throw new EditRefusedException("That bite is no longer there.");

    private static void Save(SqliteConnection c, long id, BiteState state) => c.Execute("UPDATE bite SET theme = $theme, note = $note, aside = $aside, gone = $gone WHERE id = $id",
        ("$theme", state.Theme), ("$note", state.Note), ("$aside", state.Aside ? 1 : 0), ("$gone", state.Gone ? 1 : 0), ("$id", id));

    /// <summary>All bites of a sitting, also those that were set aside or whose keeping was taken back.</summary>
    internal static List<Bite> OfSitting(SqliteConnection c, long sittingId) => c.Query(Select + "WHERE b.sitting_id = $s ORDER BY b.id", ReadBite, ("$s", sittingId));

    private static Bite ReadBite(SqliteDataReader r) => new(
        r.GetInt64(0), r.GetInt64(1), r.GetInt64(2), r.GetInt32(3), r.GetInt32(4), Columns.Range(r, 5), r.GetString(7), r.GetString(8), r.GetString(9), r.GetInt64(10) == 1);
}
