using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <content>Bites kept, described, moved, merged and split; each change in the log, and taken back.</content>
public sealed partial class Bites
{
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

    /// <summary>
    /// As <see cref="Add(Bite)"/>, several of one production and one owner, as one change that is taken back at once; their ids in order.
    /// </summary>
    public IReadOnlyList<long> AddTogether(IReadOnlyList<Bite> bites) =>
        database.Write(c =>
        {
            var ids = bites.Select(b => Insert(c, b)).ToList();
            foreach (var sitting in bites.Select(b => b.SittingId).Distinct())
            {
                Readings.Refresh(c, transcripts, sitting);
            }
            if (ids.Count > 0)
            {
                var kept = ids.Select(id => (Id: id, State: StateOf(c, id))).ToList();
                Append(
                    c,
                    new BitesEdit([.. kept.Select(k => BiteEdit.Of(k.Id, k.State))]),
                    new BitesEdit([.. kept.Select(k => BiteEdit.Of(k.Id, k.State with { Gone = true }))]),
                    bites[0].Owner
                );
            }
            return (IReadOnlyList<long>)ids;
        });

    /// <summary>As <see cref="Add(Bite)"/>, several in the transaction of something else, each a change; their ids in order.</summary>
    internal IReadOnlyList<long> Add(SqliteConnection c, IReadOnlyList<Bite> bites)
    {
        var ids = bites.Select(b => Insert(c, b)).ToList();
        foreach (var sitting in bites.Select(b => b.SittingId).Distinct())
        {
            Readings.Refresh(c, transcripts, sitting);
        }
        foreach (var (id, bite) in ids.Zip(bites))
        {
            var kept = StateOf(c, id);
            Append(c, new BitesEdit([BiteEdit.Of(id, kept)]), new BitesEdit([BiteEdit.Of(id, kept with { Gone = true })]), bite.Owner);
        }
        return ids;
    }

    private long Insert(SqliteConnection c, Bite bite)
    {
        var kept = new BiteState(BiteThemes.Written(bite.Theme), bite.Note, false, false) { Grade = bite.Grade, Kind = bite.Kind };
        BiteEdit.Of(0, kept).Apply(kept);
        var id = Marks.Add(c, bite.TranscriptId, bite.Mark with { Id = 0, When = clock.GetUtcNow() });
        c.Execute("INSERT INTO bite (id, sitting_id, theme) VALUES ($id, $s, '')", ("$id", id), ("$s", bite.SittingId));
        Save(c, id, kept);
        return id;
    }

    /// <summary>Throws <see cref="EditRefusedException"/> for a theme or note that is too long.</summary>
    public void Describe(long id, string theme, string note, string who) =>
        Change([id], (_, state) => state with { Theme = BiteThemes.Written(theme), Note = note }, who);

    /// <summary>Sets a bite aside, or brings it back.</summary>
    public void SetAside(long id, bool aside, string who) => Change([id], (_, state) => state with { Aside = aside }, who);

    /// <summary>
    /// Changes several bites at once, each from how it is now, and writes it down as one change, that is taken back as one. Throws
    /// <see cref="EditRefusedException"/> for a bite that is not there, or a change that does not fit; then none is changed.
    /// </summary>
    public void Change(IReadOnlyCollection<long> ids, Func<long, BiteState, BiteState> change, string who) =>
        database.Write(c => Change(c, ids, change, who));

    /// <summary>
    /// Keeps one of <paramref name="ids"/> in place of all: over all of their stretches, with all their themes and notes, the best of their
    /// grades. Those that go are taken back with it. Throws <see cref="EditRefusedException"/> where they are of several sittings or texts,
    /// or one that would go lies in a story. Returns the one that stays.
    /// </summary>
    public long Merge(IReadOnlyCollection<long> ids, string who) =>
        database.Write(c =>
        {
            var all = Of(c, ids).OrderBy(b => b.Range.In).ThenBy(b => b.Id).ToList();
            var merged = MergedBite.Of(all);
            var stays = all.FirstOrDefault(b => IsInStory(c, b.Id)) ?? all[0];
            Change(
                c,
                [stays.Id, .. all.Where(b => b.Id != stays.Id).Select(b => b.Id)],
                (id, state) => id == stays.Id ? merged with { Aside = state.Aside } : state with { Gone = true },
                who
            );
            return stays.Id;
        });

    /// <summary>
    /// Makes two of a bite: the words before one, and those from it on, which is kept by the same person with the same themes. Both are one
    /// change. Throws <see cref="EditRefusedException"/> where the word is its first or not its own. Returns the second one's id.
    /// </summary>
    public long Split(long id, WordNumber at, string who) =>
        database.Write(c =>
        {
            var bite = Of(c, [id]).SingleOrDefault() ?? throw new EditRefusedException(NotThere);
            var textId = Texts.Current(c, bite.SittingId) ?? bite.TranscriptId;
            var (before, behind) = BiteSplit.At(bite, textId, transcripts.Get(c, textId), at);
            var second = Insert(
                c,
                bite with
                {
                    Mark = bite.Mark with { First = behind.First, Last = behind.Last, Range = behind.Range },
                    TranscriptId = behind.Text,
                }
            );
            var kept = StateOf(c, second);
            var was = StateOf(c, id);
            var now = was with { Place = before };
            Save(c, id, now);
            Readings.Refresh(c, transcripts, bite.SittingId);
            Append(
                c,
                new BitesEdit([BiteEdit.Of(id, now), BiteEdit.Of(second, kept)]),
                new BitesEdit([BiteEdit.Of(id, was), BiteEdit.Of(second, kept with { Gone = true })]),
                who
            );
            return second;
        });

    /// <summary>
    /// Takes a person's newest change of a production's bites back, or brings the one last taken back again; false when there is none.
    /// Throws <see cref="EditRefusedException"/> when somebody changed the same of a bite since, or a bite that would go lies in a story.
    /// </summary>
    public bool Step(long productionId, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<IReadOnlyDictionary<long, BiteState>, BitesEdit>(c, About.Bites(productionId), redo, who) is not { } step)
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
            var step = ChangeLog.One<IReadOnlyDictionary<long, BiteState>, BitesEdit>(c, About.Bites(productionId), change);
            var (edit, inverse) = Make(c, step);
            Append(c, edit, inverse, who, change);
        });

    private const string NotThere = "That bite is no longer there.";

    private (BitesEdit Edit, BitesEdit Inverse) Make(SqliteConnection c, LogStep<BitesEdit> step)
    {
        var before = step.Edit.Edits.ToDictionary(e => e.Id, e => StateOf(c, e.Id));
        return Make(c, step.Edit.Against(step.Opposite, before), before);
    }

    private (BitesEdit Edit, BitesEdit Inverse) Make(SqliteConnection c, BitesEdit edit, Dictionary<long, BiteState> before)
    {
        if (edit.Edits.Any(e => e.Gone && !before[e.Id].Gone && IsInStory(c, e.Id)))
        {
            throw new EditRefusedException("This bite lies in a story. Take it out there first.");
        }
        var (after, inverse) = edit.Apply(before);
        foreach (var (id, state) in after)
        {
            Save(c, id, state);
        }
        if (edit.Edits.Any(e => e.Place != before[e.Id].Place))
        {
            foreach (var sitting in Of(c, [.. after.Keys], gone: true).Select(b => b.SittingId).Distinct())
            {
                Readings.Refresh(c, transcripts, sitting);
            }
        }
        return (edit, inverse);
    }

    private void Change(SqliteConnection c, IReadOnlyCollection<long> ids, Func<long, BiteState, BiteState> change, string who)
    {
        var before = ids.Distinct().ToDictionary(id => id, id => StateOf(c, id));
        if (before.Values.Any(s => s.Gone))
        {
            throw new EditRefusedException(NotThere);
        }
        BiteEdit[] edits =
        [
            .. before.Select(b => BiteEdit.Of(b.Key, change(b.Key, b.Value))).Where(e => e != BiteEdit.Of(e.Id, before[e.Id])),
        ];
        if (edits.Length > 0)
        {
            var (edit, inverse) = Make(c, new BitesEdit(edits), edits.ToDictionary(e => e.Id, e => before[e.Id]));
            Append(c, edit, inverse, who);
        }
    }

    private static bool IsInStory(SqliteConnection c, long id) =>
        c.Query("SELECT 1 FROM card WHERE bite_id = $id LIMIT 1", r => r.GetInt64(0), ("$id", id)).Count > 0;

    private void Append(SqliteConnection c, BitesEdit edit, BitesEdit inverse, string who, long? takesBack = null)
    {
        var (production, said) = c.Query(
                "SELECT s.production_id, COALESCE(r.said, '') FROM bite b JOIN sitting s ON s.id = b.sitting_id LEFT JOIN bite_reading r "
                    + "ON r.bite_id = b.id WHERE b.id = $id",
                r => (r.GetInt64(0), r.GetString(1)),
                ("$id", edit.Edits[0].Id)
            )
            .Single();
        ChangeLog.Append(
            c,
            About.Bites(production),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            BiteWords.OfMany(edit, inverse, said),
            takesBack: takesBack
        );
    }

    private static BiteState StateOf(SqliteConnection c, long id) =>
        c.Query(
                "SELECT b.theme, m.note, b.aside, b.gone, b.grade, b.kind, m.transcript_id, m.first_word, m.last_word, m.time_in, "
                    + "m.time_out FROM bite b JOIN mark m ON m.id = b.id WHERE b.id = $id",
                r => new BiteState(r.GetString(0), r.GetString(1), r.GetInt64(2) != 0, r.GetInt64(3) != 0)
                {
                    Grade = r.GetInt32(4),
                    Kind = r.GetString(5),
                    Place = new BitePlace(r.GetInt64(6), Columns.Word(r, 7), Columns.Word(r, 8), Columns.Range(r, 9)),
                },
                ("$id", id)
            )
            .SingleOrDefault()
        ?? throw new EditRefusedException(NotThere);

    private static void Save(SqliteConnection c, long id, BiteState state)
    {
        Marks.SaveNote(c, id, state.Note);
        if (state.Place is { } place)
        {
            Marks.SavePlace(c, id, place);
        }
        c.Execute(
            "UPDATE bite SET theme = $theme, aside = $aside, gone = $gone, grade = $grade, kind = $kind WHERE id = $id",
            ("$theme", state.Theme),
            ("$aside", state.Aside ? 1 : 0),
            ("$gone", state.Gone ? 1 : 0),
            ("$grade", state.Grade),
            ("$kind", state.Kind),
            ("$id", id)
        );
        c.Execute("DELETE FROM bite_theme WHERE bite_id = $id", ("$id", id));
        foreach (var (position, theme) in BiteThemes.Of(state.Theme).Index())
        {
            c.Execute("INSERT INTO bite_theme VALUES ($id, $n, $theme)", ("$id", id), ("$n", position), ("$theme", theme));
        }
    }

    internal static List<Bite> Of(SqliteConnection c, IReadOnlyCollection<long> ids, bool gone = false) =>
        c.Query(Select + $"WHERE b.id IN ({string.Join(',', ids)}) AND b.gone <= $gone", ReadBite, ("$gone", gone ? 1 : 0));
}
