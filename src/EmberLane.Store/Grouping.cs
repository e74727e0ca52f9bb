using System.Collections.Immutable;
using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Sittings;
using Microsoft.Data.Sqlite;
using Rules = EmberLane.Core.Sittings.Grouping;

namespace EmberLane.Store;

/// <summary>
/// What people change in Gather: which files make a sitting, their titles, what is written on files, and what the mics are. The rules are
/// the core's; each change is one entry in the production's log and can be taken back.
/// </summary>
public sealed class Grouping(Database database, TimeProvider clock)
{
    /// <summary>The longest title of a sitting, in characters.</summary>
    public const int LongestTitle = Rules.LongestTitle;

    /// <summary>
    /// Puts files into a sitting, into a new one of this title, or out of any sitting; those that come from one sitting into a new one keep
    /// how they lie to each other. A sitting that is left empty goes. Returns the sitting. Throws <see cref="ConflictException"/> when a
    /// file or the sitting is not here, or <paramref name="onlyLoose"/> is asked for and a file belongs to a sitting by now, and
    /// <see cref="EditRefusedException"/> when a text was made of a file's sound, in use or not.
    /// </summary>
    public long? Move(long productionId, IReadOnlyList<long> sourceIds, long? into, string? newTitle, string who, bool onlyLoose = false) =>
        database.Write<long?>(c =>
        {
            var sources = Here(c, productionId, sourceIds);
            if (onlyLoose && sources.FirstOrDefault(s => s.SittingId is not null) is { } taken)
            {
                throw new ConflictException($"{taken.Name} belongs to a sitting by now. Load the page again.");
            }
            if (into is { } goal)
            {
                SittingHere(c, productionId, goal);
            }
            var touched = sources.Select(s => s.SittingId).Append(into).OfType<long>().Distinct().ToList();
            var state = StateOf(c, touched, sources);
            var made = newTitle is null
                ? null
                : (long?)
                    c.Insert(
                        "INSERT INTO sitting (production_id, title) VALUES ($p, $t)",
                        ("$p", productionId),
                        ("$t", Rules.Title(newTitle))
                    );
            if (made is { } id)
            {
                state = state with { Sittings = state.Sittings.Add(id, new GatheredSitting(id, Rules.Title(newTitle!), null, Gone: true)) };
            }
            if (Rules.Move(state, [.. sources.Select(s => s.Id)], into, made) is { } edit)
            {
                Commit(c, productionId, who, state, edit);
            }
            return made ?? into;
        });

    /// <summary>
    /// Makes one sitting of two: the files of <paramref name="from"/> come into <paramref name="into"/>, whose title and clock hold. Throws
    /// <see cref="EditRefusedException"/> when the sitting that goes has a text, in use or not.
    /// </summary>
    public void Merge(long productionId, long from, long into, string who)
    {
        var ids = database.Read(c => Footage.SourcesIn(c, SittingHere(c, productionId, from).Id)).Select(s => s.Id).ToList();
        Move(productionId, ids, into, null, who);
    }

    /// <summary>
    /// Gives a sitting another title. Throws <see cref="EditRefusedException"/> for an empty one or one that is too long.
    /// </summary>
    public void Rename(long productionId, long sittingId, string title, string who) =>
        database.Write(c =>
        {
            var state = StateOf(c, [SittingHere(c, productionId, sittingId).Id], []);
            Commit(c, productionId, who, state, Rules.Rename(state.Sittings[sittingId], title));
        });

    /// <summary>
    /// Writes on files, all or none. <paramref name="change"/> may throw <see cref="EditRefusedException"/>; then nothing changes.
    /// </summary>
    public void Label(long productionId, IReadOnlyList<long> sourceIds, Func<Labels, Labels> change, string who, string what = "labels") =>
        database.Write(c =>
        {
            var state = StateOf(c, [], Here(c, productionId, sourceIds));
            Commit(c, productionId, who, state, Rules.Label([.. state.Sources.Values], change, what));
        });

    /// <summary>Decides about a channel of a source.</summary>
    public void SetMic(long productionId, long sourceId, int channel, Func<MicChoice, MicChoice> change, string who) =>
        database.Write(c =>
        {
            var state = StateOf(c, [], Here(c, productionId, [sourceId]));
            var now = Mics.ChoiceOf(c, sourceId, channel);
            Commit(
                c,
                productionId,
                who,
                state with
                {
                    Mics = state.Mics.Add((sourceId, channel), now),
                },
                Rules.SetMic(state.Sources[sourceId], channel, now, change)
            );
        });

    /// <summary>
    /// Takes a person's newest change back, or brings the one that they last took back again; returns what it was, or null when there is
    /// none. Throws <see cref="EditRefusedException"/> when a sitting that would go was transcribed since, or somebody changed the same,
    /// with who did.
    /// </summary>
    public string? Step(long productionId, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<GatherState, GatherEdit>(c, About.Gather(productionId), redo, who) is not { } step)
            {
                return null;
            }
            Make(c, step);
            ChangeLog.Made(c, step.Change.Id, redo);
            return step.Change.Edit.What;
        });

    /// <summary>Takes one change back alone, as a change of its own; refused as <see cref="Step"/> is.</summary>
    public void TakeBack(long productionId, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<GatherState, GatherEdit>(c, About.Gather(productionId), change);
            var (edit, inverse) = Make(c, step);
            ChangeLog.Append(
                c,
                About.Gather(productionId),
                who,
                clock.GetUtcNow(),
                edit,
                inverse,
                "taken back: " + edit.What,
                takesBack: change
            );
        });

    private static (GatherEdit Edit, GatherEdit Inverse) Make(SqliteConnection c, LogStep<GatherEdit> step)
    {
        var sources = step
            .Edit.Places.Select(r => r.Source)
            .Concat(step.Edit.Labels.Select(r => r.Source))
            .Concat(step.Edit.Mics.Select(r => r.Source))
            .Distinct()
            .Select(id => Footage.OneSource(c, id))
            .OfType<Source>()
            .ToList();
        // All sittings that it could leave with too little: those that it names, and those that its files lie in or come into.
        var sittings = step
            .Edit.Sittings.Select(r => r.Id)
            .Concat(step.Edit.Places.Select(r => r.Sitting).OfType<long>())
            .Concat(sources.Select(s => s.SittingId).OfType<long>())
            .Distinct()
            .ToList();
        var state = StateOf(c, sittings, sources);
        state = state with
        {
            Mics = step.Edit.Mics.ToImmutableSortedDictionary(r => (r.Source, r.Channel), r => Mics.ChoiceOf(c, r.Source, r.Channel)),
        };
        var edit = step.Edit.Against(step.Opposite, state);
        var (_, inverse) = edit.Apply(state);
        Save(c, edit);
        return (edit, inverse);
    }

    private void Commit(SqliteConnection c, long productionId, string who, GatherState state, GatherEdit edit)
    {
        var (_, inverse) = edit.Apply(state);
        ChangeLog.Append(c, About.Gather(productionId), who, clock.GetUtcNow(), edit, inverse, edit.What);
        Save(c, edit);
    }

    // The sittings, also those that are gone, with all their sources, and further sources.
    private static GatherState StateOf(SqliteConnection c, IReadOnlyList<long> sittings, IReadOnlyList<Source> sources) =>
        GatherState.Of(
            sittings.SelectMany(id =>
                c.Query(
                    "SELECT id, title, sound_source_id, gone FROM sitting WHERE id = $id",
                    r => new GatheredSitting(r.GetInt64(0), r.GetString(1), r.Number(2), r.GetInt64(3) != 0, Texts.Any(c, r.GetInt64(0))),
                    ("$id", id)
                )
            ),
            sittings
                .SelectMany(id => Footage.SourcesIn(c, id))
                .Concat(sources)
                .DistinctBy(s => s.Id)
                .Select(s => new GatheredSource(
                    s.Id,
                    s.Name,
                    s.SittingId,
                    s.Placement,
                    s.Labels,
                    s.Facts.Picture is not null,
                    s.Facts.Channels
                ))
        );

    private static void Save(SqliteConnection c, GatherEdit edit)
    {
        foreach (var s in edit.Sittings)
        {
            c.Execute(
                "UPDATE sitting SET title = $t, sound_source_id = $sound, gone = $gone WHERE id = $id",
                ("$t", s.Title),
                ("$sound", s.Sound),
                ("$gone", s.Gone ? 1 : 0),
                ("$id", s.Id)
            );
        }
        foreach (var p in edit.Places)
        {
            c.Execute("UPDATE source SET sitting_id = $s WHERE id = $id", ("$s", p.Sitting), ("$id", p.Source));
            Footage.SavePlacement(c, p.Source, p.Placement);
        }
        foreach (var l in edit.Labels)
        {
            c.Execute("UPDATE source SET labels = $l WHERE id = $id", ("$l", LabelsText.Write(l.Labels)), ("$id", l.Source));
        }
        foreach (var m in edit.Mics)
        {
            Mics.SaveChoice(c, m.Source, m.Channel, m.Choice);
        }
    }

    private static List<Source> Here(SqliteConnection c, long productionId, IReadOnlyList<long> ids) =>
        ids.Count == 0
            ? throw new EditRefusedException("Tick the files first.")
            :
            [
                .. ids.Distinct()
                    .Select(id =>
                        Footage.OneSource(c, id) is { } source && source.ProductionId == productionId
                            ? source
                            : throw new ConflictException("One of these files is no longer in the production. Load the page again.")
                    ),
            ];

    private static Sitting SittingHere(SqliteConnection c, long productionId, long id) =>
        Footage.OneSitting(c, id) is { } sitting && sitting.ProductionId == productionId
            ? sitting
            : throw new ConflictException("That sitting is no longer there. Load the page again.");
}
