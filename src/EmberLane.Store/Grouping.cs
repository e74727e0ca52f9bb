using System.Globalization;
using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Sittings;
using EmberLane.Core.Sync;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// What people change in Gather: which files make a sitting, their titles, what is written on files, and what the mics are. Each change is one entry in the production's log and can be taken back.
/// </summary>
public sealed class Grouping(Database database, TimeProvider clock)
{
    private const string Log = "gather";

    public const int LongestTitle = 120;

    // The rows that a change touched, as they were before or are after it.
    private sealed record Rows(string What, List<SittingRow> Sittings, List<PlaceRow> Places, List<LabelRow> Labels, List<MicRow> Mics)
    {
        public static Rows None(string what) => new(what, [], [], [], []);
    }

    private sealed record SittingRow(long Id, string Title, long? Sound, bool Gone);

    private sealed record PlaceRow(long Source, long? Sitting, Placement Placement);

    private sealed record LabelRow(long Source, Labels Labels);

    private sealed record MicRow(long Source, int Channel, MicChoice Choice);

    /// <summary>
    /// Puts files into a sitting, into a new one of this title, or out of any sitting; those that come from one sitting into a new one keep how they lie to each other. A sitting that is left empty goes. Returns the
    /// sitting. Throws <see cref="ConflictException"/> when a file or the sitting is not here, or <paramref name="onlyLoose"/> is asked for and a file belongs to a sitting by now, and
    /// <see cref="EditRefusedException"/> when a text was made of a file's sound, in use or not.
    /// </summary>
    public long? Move(long productionId, IReadOnlyList<long> sourceIds, long? into, string? newTitle, string who, bool onlyLoose = false) => database.Write<long?>(c =>
    {
        var sources = Here(c, productionId, sourceIds);
        if (onlyLoose && sources.FirstOrDefault(s => s.SittingId is not null) is { } taken)
        {
            throw new ConflictException($"{taken.Name} belongs to a sitting by now. Load the page again.");
        }
        var target = into is { } id ? SittingHere(c, productionId, id) : null;
        var moving = sources.Where(s => target is null || s.SittingId != target.Id).ToList();
        if (moving.Count == 0)
        {
            return target?.Id;
        }
        var title = newTitle is null ? null : Title(newTitle);
        var left = moving.Select(s => s.SittingId).OfType<long>().Distinct().Select(s => OneSitting(c, s)).ToList();
        foreach (var sitting in left)
        {
            RefuseLosingTheSound(c, sitting, moving);
        }
        var made = title is null ? null : (long?)c.Insert("INSERT INTO sitting (production_id, title) VALUES ($p, $t)", ("$p", productionId), ("$t", title));
        var goal = made ?? target?.Id;
        var what = goal is null ? $"{Files(moving)} taken out" : made is null ? $"{Files(moving)} put into {target!.Title}" : $"{title} made of {Files(moving)}";
        Rows before = Rows.None(what), after = Rows.None(what);
        foreach (var sitting in left)
        {
            var staying = Footage.SourcesIn(c, sitting.Id).Where(s => moving.All(m => m.Id != s.Id)).ToList();
            Settled(before, after, sitting, staying, staying, sitting.SoundSourceId);
        }
        if (goal is null)
        {
            Lay(before, after, moving, [.. moving.Select(s => (s.Id, Regroup.Nowhere))], null);
        }
        else if (made is { } fresh)
        {
            var oneClock = left.Count == 1 && moving.All(s => s.SittingId == left[0].Id);
            var sitting = new Sitting(fresh, productionId, title!, null, null);
            Settled(before, after, sitting, moving, [.. moving.Select(s => oneClock ? s : s with { Place = null, Evidence = "", PlacedByHand = false })], null);
            before.Sittings[^1] = before.Sittings[^1] with { Gone = true };
        }
        else
        {
            var there = Footage.SourcesIn(c, target!.Id);
            Settled(before, after, target, [.. there, .. moving], [.. there, .. moving.Select(s => s with { Place = null, Evidence = "", PlacedByHand = false })], target.SoundSourceId);
        }
        Commit(c, productionId, who, before, after);
        return goal;
    });

    /// <summary>
    /// Makes one sitting of two: the files of <paramref name="from"/> come into <paramref name="into"/>, whose title and clock hold. Throws <see cref="EditRefusedException"/> when the sitting that goes has a text, in use or not.
    /// </summary>
    public void Merge(long productionId, long from, long into, string who)
    {
        var ids = database.Read(c => Footage.SourcesIn(c, SittingHere(c, productionId, from).Id)).Select(s => s.Id).ToList();
        Move(productionId, ids, into, null, who);
    }

    /// <summary>Gives a sitting another title. Throws <see cref="EditRefusedException"/> for an empty one or one that is too long.</summary>
    public void Rename(long productionId, long sittingId, string title, string who) => database.Write(c =>
    {
        var sitting = SittingHere(c, productionId, sittingId);
        var clean = Title(title);
        var what = $"{sitting.Title} renamed {clean}";
        Commit(c, productionId, who, Rows.None(what) with { Sittings = [Row(sitting)] }, Rows.None(what) with { Sittings = [Row(sitting) with { Title = clean }] });
    });

    /// <summary>Writes on files, all or none. <paramref name="change"/> may throw <see cref="EditRefusedException"/>; then nothing changes.</summary>
    public void Label(long productionId, IReadOnlyList<long> sourceIds, Func<Labels, Labels> change, string who) => database.Write(c =>
    {
        var sources = Here(c, productionId, sourceIds);
        var what = $"labels of {Files(sources)}";
        Commit(c, productionId, who, Rows.None(what) with { Labels = [.. sources.Select(s => new LabelRow(s.Id, s.Labels))] },
            Rows.None(what) with { Labels = [.. sources.Select(s => new LabelRow(s.Id, change(s.Labels)))] });
    });

    /// <summary>Decides about a channel of a source.</summary>
    public void SetMic(long productionId, long sourceId, int channel, Func<MicChoice, MicChoice> change, string who) => database.Write(c =>
    {
        var source = Here(c, productionId, [sourceId])[0];
        if (channel < 0 || channel >= source.Facts.Channels)
        {
            throw new EditRefusedException($"{source.Name} has no channel {channel + 1}.");
        }
        var was = Mics.ChoiceOf(c, sourceId, channel);
        var what = string.Create(CultureInfo.InvariantCulture, $"mic {channel + 1} of {source.Name}");
        Commit(c, productionId, who, Rows.None(what) with { Mics = [new MicRow(sourceId, channel, was)] }, Rows.None(what) with { Mics = [new MicRow(sourceId, channel, change(was))] });
    });

    /// <summary>
    /// Takes the newest change back, or brings the one last taken back again; returns what it was, or null when there is none. Throws <see cref="EditRefusedException"/> when a sitting that would go was transcribed since.
    /// </summary>
    public string? Step(long productionId, bool redo) => database.Write(c =>
    {
        if (EditLog.Next(c, Log, productionId, redo) is not { } logged)
        {
            return null;
        }
        var rows = JsonSerializer.Deserialize<Rows>(redo ? logged.Body : logged.Inverse)!;
        foreach (var row in rows.Sittings.Where(r => r.Gone))
        {
            if (Footage.OneSitting(c, row.Id) is { } read && Texts.Any(c, read.Id))
            {
                throw new EditRefusedException($"{read.Title} was transcribed since; it stays, so that nothing of that is lost.");
            }
        }
        Save(c, rows);
        EditLog.Mark(c, logged.Id, takenBack: !redo);
        return rows.What;
    });

    private static void Settled(Rows before, Rows after, Sitting sitting, List<Source> were, List<Source> are, long? reference)
    {
        var (sources, sound) = Regroup.Settle([.. are.Select(s => new Grouped(s.Id, s.Placement, s.Facts.Picture is not null, s.Facts.Channels > 0))], reference);
        var heard = are.Any(s => s.Id == sound && s.Facts.Channels > 0) ? sound : null;
        before.Sittings.Add(Row(sitting));
        after.Sittings.Add(Row(sitting) with { Sound = heard, Gone = are.Count == 0 });
        Lay(before, after, were, [.. sources.Select(s => (s.Id, s.Placement))], sitting.Id);
    }

    private static void Lay(Rows before, Rows after, List<Source> were, List<(long Id, Placement Placement)> are, long? sitting)
    {
        foreach (var source in were)
        {
            var placement = are.First(a => a.Id == source.Id).Placement;
            if (source.SittingId != sitting || source.Placement != placement)
            {
                before.Places.Add(new PlaceRow(source.Id, source.SittingId, source.Placement));
                after.Places.Add(new PlaceRow(source.Id, sitting, placement));
            }
        }
    }

    // Words and bites are known by the moments of that sound, whether the sitting is read by them now or not: without it nobody could hear them again.
    private static void RefuseLosingTheSound(SqliteConnection c, Sitting sitting, IReadOnlyList<Source> moving)
    {
        if (!Texts.Any(c, sitting.Id))
        {
            return;
        }
        if (moving.FirstOrDefault(s => s.Id == sitting.SoundSourceId) is { } sound)
        {
            throw new EditRefusedException($"{sitting.Title} is transcribed, and its texts and bites go by the sound of {sound.Name}. That file stays there; the others can be moved.");
        }
        if (Footage.SourcesIn(c, sitting.Id).All(s => moving.Any(m => m.Id == s.Id)))
        {
            throw new EditRefusedException($"{sitting.Title} has texts, so it stays, and with it at least one of its files.");
        }
    }

    private void Commit(SqliteConnection c, long productionId, string who, Rows before, Rows after)
    {
        EditLog.Append(c, Log, productionId, who, clock.GetUtcNow(), JsonSerializer.Serialize(after), JsonSerializer.Serialize(before));
        Save(c, after);
    }

    private static void Save(SqliteConnection c, Rows rows)
    {
        foreach (var s in rows.Sittings)
        {
            c.Execute("UPDATE sitting SET title = $t, sound_source_id = $sound, gone = $gone WHERE id = $id", ("$t", s.Title), ("$sound", s.Sound), ("$gone", s.Gone ? 1 : 0), ("$id", s.Id));
        }
        foreach (var p in rows.Places)
        {
            c.Execute("UPDATE source SET sitting_id = $s, start = $start, drift = $drift, evidence = $why, by_hand = $hand WHERE id = $id", ("$s", p.Sitting), ("$start", p.Placement.Place?.Start.FromZero.Units),
                ("$drift", p.Placement.Place?.DriftPerBillion), ("$why", p.Placement.Evidence), ("$hand", p.Placement.ByHand ? 1 : 0), ("$id", p.Source));
        }
        foreach (var l in rows.Labels)
        {
            c.Execute("UPDATE source SET labels = $l WHERE id = $id", ("$l", LabelsText.Write(l.Labels)), ("$id", l.Source));
        }
        foreach (var m in rows.Mics)
        {
            Mics.SaveChoice(c, m.Source, m.Channel, m.Choice);
        }
    }

    private static SittingRow Row(Sitting sitting) => new(sitting.Id, sitting.Title, sitting.SoundSourceId, false);

    private static List<Source> Here(SqliteConnection c, long productionId, IReadOnlyList<long> ids) =>
        ids.Count == 0 ? throw new EditRefusedException("Tick the files first.")
        : [.. ids.Distinct().Select(id => Footage.OneSource(c, id) is { } source && source.ProductionId == productionId ? source : throw new ConflictException("One of these files is no longer in the production. Load the page again."))];

    private static Sitting SittingHere(SqliteConnection c, long productionId, long id) =>
        Footage.OneSitting(c, id) is { } sitting && sitting.ProductionId == productionId ? sitting : throw new ConflictException("That sitting is no longer there. Load the page again.");

    private static Sitting OneSitting(SqliteConnection c, long id) => Footage.OneSitting(c, id) ?? throw new ConflictException("A sitting of these files is no longer there. Load the page again.");

    private static string Title(string title) => TypedText.OneLine(title) is { Length: > 0 and <= LongestTitle } clean ? clean
        : throw new EditRefusedException(string.Create(CultureInfo.InvariantCulture, $"Give the sitting a title of at most {LongestTitle} characters."));

    private static string Files(List<Source> sources) => sources.Count == 1 ? sources[0].Name : string.Create(CultureInfo.InvariantCulture, $"{sources.Count} files");
}
