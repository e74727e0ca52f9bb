using System.Text.Json;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

public sealed record Production(long Id, string Name);

/// <summary>A sitting: which source's sound is read, and its current transcript.</summary>
public sealed record Sitting(long Id, long ProductionId, string Title, long? SoundSourceId, long? TranscriptId);

/// <summary>A media file of a production. It belongs to a sitting, or is loose footage. <see cref="Place"/> is null until it is placed on the sitting's clock.</summary>
public sealed record Source(long Id, long ProductionId, long? SittingId, string Path, string Name, long Size, string Fingerprint, SourceFacts Facts, ClockMap? Place, string Evidence, bool PlacedByHand)
{
    public Placement Placement => new(Place, Evidence, PlacedByHand);
}

/// <summary>A file that was measured and is about to be brought in.</summary>
public sealed record NewSource(string Path, string Name, long Size, string Fingerprint, SourceFacts Facts);

/// <summary>Productions with their sittings and sources.</summary>
public sealed class Footage(Database database, TimeProvider clock)
{
    private const string PlacingLog = "placing";

    private const string SourceColumns = "SELECT id, production_id, sitting_id, path, name, size, fingerprint, facts, start, drift, evidence, by_hand FROM source ";

    private const string SittingColumns = "SELECT id, production_id, title, sound_source_id, transcript_id FROM sitting ";

    public IReadOnlyList<Production> Productions() => database.Read(c => c.Query("SELECT id, name FROM production ORDER BY id", r => new Production(r.GetInt64(0), r.GetString(1))));

    public Production? Production(long id) => Productions().FirstOrDefault(p => p.Id == id);

    public long AddProduction(string name) => database.Write(c => c.Insert("INSERT INTO production (name) VALUES ($name)", ("$name", name)));

    public IReadOnlyList<Sitting> Sittings(long productionId) =>
        database.Read(c => c.Query(SittingColumns + "WHERE production_id = $p ORDER BY id", ReadSitting, ("$p", productionId)));

    public Sitting? Sitting(long id) => database.Read(c => c.Query(SittingColumns + "WHERE id = $id", ReadSitting, ("$id", id))).SingleOrDefault();

    public IReadOnlyList<Source> Sources(long productionId) =>
        database.Read(c => c.Query(SourceColumns + "WHERE production_id = $p ORDER BY id", ReadSource, ("$p", productionId)));

    public IReadOnlyList<Source> SourcesOf(long sittingId) =>
        database.Read(c => c.Query(SourceColumns + "WHERE sitting_id = $s ORDER BY id", ReadSource, ("$s", sittingId)));

    public Source? Source(long id) => database.Read(c => c.Query(SourceColumns + "WHERE id = $id", ReadSource, ("$id", id))).SingleOrDefault();

    public Source? SourceByFingerprint(long productionId, string fingerprint) =>
        database.Read(c => c.Query(SourceColumns + "WHERE production_id = $p AND fingerprint = $f", ReadSource, ("$p", productionId), ("$f", fingerprint))).SingleOrDefault();

    /// <summary>
    /// Makes a sitting of files, all or none; without a title they come in as loose footage. The first source with sound and without picture is read, else the first with sound; it is the
    /// reference, at the clock's zero. Throws <see cref="ConflictException"/> when a file is in the production already.
    /// </summary>
    public long? BringIn(long productionId, string? title, IReadOnlyList<NewSource> sources) => database.Write<long?>(c =>
    {
        long? sitting = title is null ? null : c.Insert("INSERT INTO sitting (production_id, title) VALUES ($p, $t)", ("$p", productionId), ("$t", title));
        var read = sources.FirstOrDefault(s => s.Facts is { Picture: null, Channels: > 0 }) ?? sources.FirstOrDefault(s => s.Facts.Channels > 0);
        var reference = read ?? sources[0];
        foreach (var source in sources)
        {
            var isReference = sitting is not null && source == reference;
            try
            {
                var id = c.Insert(
                    "INSERT INTO source (production_id, sitting_id, path, name, size, fingerprint, facts, start, drift, evidence) VALUES ($p, $s, $path, $name, $size, $print, $facts, $start, $start, $evidence)",
                    ("$p", productionId), ("$s", sitting), ("$path", source.Path), ("$name", source.Name), ("$size", source.Size), ("$print", source.Fingerprint),
                    ("$facts", FactsText.Write(source.Facts)), ("$start", isReference ? 0L : null), ("$evidence", isReference ? "reference" : ""));
                if (isReference && read is not null)
                {
                    c.Execute("UPDATE sitting SET sound_source_id = $id WHERE id = $s", ("$id", id), ("$s", sitting));
                }
            }
            catch (SqliteException e) when (e.SqliteExtendedErrorCode == 2067)
            {
                throw new ConflictException($"{source.Name} is in this production already.");
            }
        }
        return sitting;
    });

    /// <summary>
    /// Makes a sitting of loose footage, all of it or none; the reference is chosen as in <see cref="BringIn"/>. Throws <see cref="ConflictException"/> when a file belongs to a sitting by now or is not here.
    /// </summary>
    public long MakeSitting(long productionId, string title, IReadOnlyList<long> sourceIds) => database.Write(c =>
    {
        var sources = sourceIds.Distinct().Select(id => c.Query(SourceColumns + "WHERE id = $id AND production_id = $p", ReadSource, ("$id", id), ("$p", productionId)).SingleOrDefault()
            ?? throw new ConflictException("One of these files is no longer in the production. Load the page again.")).ToList();
        if (sources.FirstOrDefault(s => s.SittingId is not null) is { } taken)
        {
            throw new ConflictException($"{taken.Name} belongs to a sitting by now. Load the page again.");
        }
        var sitting = c.Insert("INSERT INTO sitting (production_id, title) VALUES ($p, $t)", ("$p", productionId), ("$t", title));
        var read = sources.FirstOrDefault(s => s.Facts is { Picture: null, Channels: > 0 }) ?? sources.FirstOrDefault(s => s.Facts.Channels > 0);
        foreach (var source in sources)
        {
            var isReference = source == (read ?? sources[0]);
            c.Execute("UPDATE source SET sitting_id = $s, start = $start, drift = $start, evidence = $why, by_hand = 0 WHERE id = $id",
                ("$s", sitting), ("$start", isReference ? 0L : null), ("$why", isReference ? "reference" : ""), ("$id", source.Id));
        }
        c.Execute("UPDATE sitting SET sound_source_id = $id WHERE id = $s", ("$id", read?.Id), ("$s", sitting));
        return sitting;
    });

    /// <summary>Places a source by what sync found, or takes it off when <paramref name="place"/> is null; the evidence says why. What a person placed stays as it is.</summary>
    public void Place(long sourceId, ClockMap? place, string evidence) => database.Write(c => c.Execute(
        "UPDATE source SET start = $start, drift = $drift, evidence = $why WHERE id = $id AND by_hand = 0",
        ("$start", place?.Start.FromZero.Units), ("$drift", place?.DriftPerBillion), ("$why", evidence), ("$id", sourceId)));

    /// <summary>
    /// Changes a source's placement as a person asks, in the log of its sitting. <paramref name="change"/> gets the placement as it is and may throw <see cref="Core.EditRefusedException"/>; then nothing changes.
    /// Returns false when the source belongs to no sitting.
    /// </summary>
    public bool PlaceByHand(long sourceId, Func<Placement, Placement> change, string who) => database.Write(c =>
    {
        if (c.Query(SourceColumns + "WHERE id = $id", ReadSource, ("$id", sourceId)).SingleOrDefault() is not { SittingId: { } sitting } source)
        {
            return false;
        }
        var to = change(source.Placement);
        EditLog.Append(c, PlacingLog, sitting, who, clock.GetUtcNow(), JsonSerializer.Serialize(new PlaceSource(sourceId, to)), JsonSerializer.Serialize(new PlaceSource(sourceId, source.Placement)));
        SavePlacement(c, new PlaceSource(sourceId, to));
        return true;
    });

    /// <summary>Takes the sitting's newest change of a placement back, or brings the one last taken back again; returns the source's id, or null when there is none.</summary>
    public long? StepPlacing(long sittingId, bool redo) => database.Write<long?>(c =>
    {
        if (EditLog.Next(c, PlacingLog, sittingId, redo) is not { } logged)
        {
            return null;
        }
        var change = JsonSerializer.Deserialize<PlaceSource>(redo ? logged.Body : logged.Inverse)!;
        EditLog.Mark(c, logged.Id, takenBack: !redo);
        SavePlacement(c, change);
        return change.Source;
    });

    private static void SavePlacement(SqliteConnection c, PlaceSource change) => c.Execute(
        "UPDATE source SET start = $start, drift = $drift, evidence = $why, by_hand = $hand WHERE id = $id",
        ("$start", change.To.Place?.Start.FromZero.Units), ("$drift", change.To.Place?.DriftPerBillion), ("$why", change.To.Evidence), ("$hand", change.To.ByHand ? 1 : 0), ("$id", change.Source));

    private static Sitting ReadSitting(SqliteDataReader r) => new(r.GetInt64(0), r.GetInt64(1), r.GetString(2), r.Number(3), r.Number(4));

    private static Source ReadSource(SqliteDataReader r) => new(
        r.GetInt64(0), r.GetInt64(1), r.Number(2), r.GetString(3), r.GetString(4), r.GetInt64(5), r.GetString(6), FactsText.Read(r.GetString(7)),
        r.Number(8) is { } start ? new ClockMap(new SittingTime(new MediaTime(start)), r.Number(9) ?? 0) : null, r.GetString(10), r.GetInt64(11) != 0);
}
