using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>How long a person's words last in the bites of a theme.</summary>
public sealed record ThemeShare(string Theme, string Name, MediaTime Said);

/// <summary>
/// The bites that people kept. Keeping, describing and setting aside are in the production's log and are taken back by the person who did
/// them.
/// </summary>
public sealed class Bites(Database database, Transcripts transcripts, TimeProvider clock)
{
    private const string Select =
        $"SELECT {Marks.MarkColumns}, b.sitting_id, m.transcript_id, b.theme, b.aside FROM bite b JOIN mark m ON m.id = b.id JOIN sitting "
        + "s ON s.id = b.sitting_id ";

    /// <summary>The kept bites of a production, in the order of their sittings and times. Cost grows with all of them.</summary>
    public IReadOnlyList<Bite> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                Select + "WHERE s.production_id = $p AND b.gone = 0 ORDER BY b.sitting_id, m.time_in, b.id",
                ReadBite,
                ("$p", productionId)
            )
        );

    /// <summary>
    /// Some of the bites of a production in their order: those that were set aside or those that were not, behind the first
    /// <paramref name="skip"/>, at most <paramref name="most"/>; without the ones that lie in a story when that is given. Cost grows with
    /// skip and most.
    /// </summary>
    public IReadOnlyList<Bite> Some(long productionId, bool aside, int skip, int most, long? notInStory = null) =>
        database.Read(c =>
            c.Query(
                Select
                    + "WHERE s.production_id = $p AND b.gone = 0 AND b.aside = $aside AND ($story IS NULL OR b.id NOT IN (SELECT bite_id "
                    + "FROM card WHERE story_id = $story)) ORDER BY b.sitting_id, m.time_in, b.id LIMIT $most OFFSET $skip",
                ReadBite,
                ("$p", productionId),
                ("$aside", aside ? 1 : 0),
                ("$story", notInStory),
                ("$most", most),
                ("$skip", skip)
            )
        );

    /// <summary>How many bites of a production are kept, not set aside, and not in a story.</summary>
    public int Unused(long productionId, long story) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*) FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND "
                        + "b.aside = 0 AND b.id NOT IN (SELECT bite_id FROM card WHERE story_id = $story)",
                    r => r.GetInt32(0),
                    ("$p", productionId),
                    ("$story", story)
                )
                .Single()
        );

    /// <summary>How long each person's words last in the kept bites of each theme, those set aside left out.</summary>
    public IReadOnlyList<ThemeShare> Shares(long productionId) =>
        database.Read(c =>
            c.Query(
                """
                SELECT b.theme, v.name, SUM(v.said), MIN(b.id)
                FROM bite b JOIN sitting s ON s.id = b.sitting_id JOIN bite_voice v ON v.bite_id = b.id
                WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0 GROUP BY b.theme, v.name ORDER BY MIN(b.id)
                """,
                r => new ThemeShare(r.GetString(0), r.GetString(1), new MediaTime(r.GetInt64(2))),
                ("$p", productionId)
            )
        );

    /// <summary>The themes of kept bites, those set aside left out; also the empty one, where some have none.</summary>
    public IReadOnlyList<string> Themes(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT DISTINCT b.theme FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND "
                    + "b.aside = 0",
                r => r.GetString(0),
                ("$p", productionId)
            )
        );

    /// <summary>These bites, in any order. Cost grows with their number.</summary>
    public IReadOnlyList<Bite> Of(IReadOnlyCollection<long> ids) =>
        database.Read(c => c.Query(Select + $"WHERE b.id IN ({string.Join(',', ids)})", ReadBite));

    /// <summary>How many bites of a production are kept and not set aside, and how long what is in use of them lasts together.</summary>
    public (int Kept, MediaTime Length) Figures(long productionId) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*), COALESCE(SUM(r.length), 0) FROM bite b JOIN sitting s ON s.id = b.sitting_id JOIN bite_reading r ON "
                        + "r.bite_id = b.id WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0",
                    r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))),
                    ("$p", productionId)
                )
                .Single()
        );

    /// <summary>The bites of a production that were set aside.</summary>
    public IReadOnlySet<long> SetAsideOf(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT b.id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND b.aside "
                        + "= 1",
                    r => r.GetInt64(0),
                    ("$p", productionId)
                )
            )
            .ToHashSet();

    /// <summary>A bite that is kept; null when there is none.</summary>
    public Bite? Get(long id) =>
        database.Read(c => c.Query(Select + "WHERE b.id = $id AND b.gone = 0", ReadBite, ("$id", id))).SingleOrDefault();

    /// <summary>
    /// Keeps a bite of <see cref="Bite.Owner"/>; its id is given here. Throws <see cref="EditRefusedException"/> for a theme or note that
    /// is too long.
    /// </summary>
    public long Add(Bite bite) => database.Write(c => Add(c, [bite])[0]);

    /// <summary>
    /// As <see cref="Add(Bite)"/>, and with it an edit of the text that the bite is of: both or neither, each in its own log.
    /// </summary>
    public long Add(Bite bite, Func<Transcript, TranscriptEdit?> wish) =>
        database.Write(c =>
        {
            transcripts.Apply(c, bite.TranscriptId, wish, bite.Owner);
            return Add(c, [bite])[0];
        });

    /// <summary>As <see cref="Add(Bite)"/>, several of one sitting in the transaction of something else; their ids in order.</summary>
    internal IReadOnlyList<long> Add(SqliteConnection c, IReadOnlyList<Bite> bites)
    {
        var ids = new List<long>();
        foreach (var bite in bites)
        {
            BiteEdit.Of(0, Kept(bite)).Apply(Kept(bite));
            ids.Add(Marks.Add(c, bite.TranscriptId, bite.Mark with { Id = 0, When = clock.GetUtcNow() }));
            c.Execute(
                "INSERT INTO bite (id, sitting_id, theme) VALUES ($id, $s, $theme)",
                ("$id", ids[^1]),
                ("$s", bite.SittingId),
                ("$theme", bite.Theme)
            );
        }
        foreach (var sitting in bites.Select(b => b.SittingId).Distinct())
        {
            Readings.Refresh(c, transcripts, sitting);
        }
        foreach (var (id, bite) in ids.Zip(bites))
        {
            Append(c, BiteEdit.Of(id, Kept(bite)), BiteEdit.Of(id, Kept(bite) with { Gone = true }), bite.Owner);
        }
        return ids;
    }

    private static BiteState Kept(Bite bite) => new(bite.Theme, bite.Note, false, false);

    /// <summary>Throws <see cref="EditRefusedException"/> for a theme or note that is too long.</summary>
    public void Describe(long id, string theme, string note, string who) =>
        Change(id, state => state with { Theme = theme, Note = note }, who);

    /// <summary>Sets a bite aside, or brings it back.</summary>
    public void SetAside(long id, bool aside, string who) => Change(id, state => state with { Aside = aside }, who);

    /// <summary>
    /// Takes a person's newest change of a production's bites back, or brings the one last taken back again; false when there is none.
    /// Throws <see cref="EditRefusedException"/> when somebody changed the same of a bite since, or a bite that would go lies in a story.
    /// </summary>
    public bool Step(long productionId, bool redo, string who) =>
        database.Write(c =>
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
    public void TakeBack(long productionId, long change, string who) =>
        database.Write(c =>
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

    private void Change(long id, Func<BiteState, BiteState> change, string who) =>
        database.Write(c =>
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
        var (production, said) = c.Query(
                "SELECT s.production_id, COALESCE(r.said, '') FROM bite b JOIN sitting s ON s.id = b.sitting_id LEFT JOIN bite_reading r "
                    + "ON r.bite_id = b.id WHERE b.id = $id",
                r => (r.GetInt64(0), r.GetString(1)),
                ("$id", edit.Id)
            )
            .Single();
        ChangeLog.Append(
            c,
            About.Bites(production),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            BiteWords.Of(edit, inverse, said),
            takesBack: takesBack
        );
    }

    private static BiteState StateOf(SqliteConnection c, long id) =>
        c.Query(
                "SELECT b.theme, m.note, b.aside, b.gone FROM bite b JOIN mark m ON m.id = b.id WHERE b.id = $id",
                r => new BiteState(r.GetString(0), r.GetString(1), r.GetInt64(2) != 0, r.GetInt64(3) != 0),
                ("$id", id)
            )
            .SingleOrDefault()
        ?? throw new EditRefusedException("That bite is no longer there.");

    private static void Save(SqliteConnection c, long id, BiteState state)
    {
        Marks.SaveNote(c, id, state.Note);
        c.Execute(
            "UPDATE bite SET theme = $theme, aside = $aside, gone = $gone WHERE id = $id",
            ("$theme", state.Theme),
            ("$aside", state.Aside ? 1 : 0),
            ("$gone", state.Gone ? 1 : 0),
            ("$id", id)
        );
    }

    /// <summary>All bites of a sitting, also those that were set aside or whose keeping was taken back.</summary>
    internal static List<Bite> OfSitting(SqliteConnection c, long sittingId) =>
        c.Query(Select + "WHERE b.sitting_id = $s ORDER BY b.id", ReadBite, ("$s", sittingId));

    private static Bite ReadBite(SqliteDataReader r) =>
        new(
            Marks.Read(r),
            r.GetInt64(Marks.Count),
            r.GetInt64(Marks.Count + 1),
            r.GetString(Marks.Count + 2),
            r.GetInt64(Marks.Count + 3) == 1
        );
}
