using System.Text.Json;
using EmberLane.Core.Media;
using EmberLane.Core.Sittings;
using EmberLane.Core.Sync;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A sitting: which source's sound is read, and its current transcript.</summary>
public sealed record Sitting(long Id, long ProductionId, string Title, long? SoundSourceId, long? TranscriptId);

/// <summary>
/// How far a production's footage is: its sittings, how many of them have all their sources placed, how many are read by a text, and its
/// sources with the loose ones.
/// </summary>
public sealed record FootageFigures(int Sittings, int InStep, int Read, int Sources);

/// <summary>Productions with their sittings and sources.</summary>
public sealed partial class Footage(Database database, TimeProvider clock)
{
    private const string SourceColumns =
        "SELECT id, production_id, sitting_id, path, name, size, fingerprint, facts, start, drift, evidence, by_hand, labels, state, "
        + "modified, said, basis FROM source ";

    private const string SittingColumns = "SELECT id, production_id, title, sound_source_id, transcript_id FROM sitting WHERE gone = 0 ";

    /// <summary>The productions that were not put away, in the order in which they were begun.</summary>
    public IReadOnlyList<Production> Productions() =>
        database.Read(c =>
            c.Query("SELECT id, name FROM production WHERE away = 0 ORDER BY id", r => new Production(r.GetInt64(0), r.GetString(1)))
        );

    /// <summary>A production, also one that was put away.</summary>
    public Production? Production(long id) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT id, name, away FROM production WHERE id = $id",
                    r => new Production(r.GetInt64(0), r.GetString(1)) { IsAway = r.GetInt64(2) != 0 },
                    ("$id", id)
                )
            )
            .SingleOrDefault();

    /// <summary>Begins a production and returns its id.</summary>
    public long AddProduction(string name) =>
        database.Write(c => c.Insert("INSERT INTO production (name) VALUES ($name)", ("$name", name)));

    /// <summary>The sittings of a production, in the order in which they were made.</summary>
    public IReadOnlyList<Sitting> Sittings(long productionId) =>
        database.Read(c => c.Query(SittingColumns + "AND production_id = $p ORDER BY id", ReadSitting, ("$p", productionId)));

    /// <summary>How far a production's footage is. One query.</summary>
    public FootageFigures Figures(long productionId) =>
        database.Read(c =>
            c.Query(
                    """
                    SELECT COUNT(*), COALESCE(SUM(NOT EXISTS (SELECT 1 FROM source x WHERE x.sitting_id = s.id AND x.start IS NULL)), 0),
                        COUNT(s.transcript_id), (SELECT COUNT(*) FROM source WHERE production_id = $p)
                    FROM sitting s WHERE s.production_id = $p AND s.gone = 0
                    """,
                    r => new FootageFigures(r.GetInt32(0), r.GetInt32(1), r.GetInt32(2), r.GetInt32(3)),
                    ("$p", productionId)
                )
                .Single()
        );

    /// <summary>A sitting; null when there is none, or it is gone.</summary>
    public Sitting? Sitting(long id) => database.Read(c => OneSitting(c, id));

    /// <summary>The productions that sittings and files belong to, in the order in which they were made. One query.</summary>
    public IReadOnlyList<long> ProductionsOf(IReadOnlyCollection<long> sittings, IReadOnlyCollection<long> sources) =>
        database.Read(c =>
            c.Query(
                $"SELECT production_id FROM sitting WHERE id IN ({string.Join(',', sittings)}) UNION SELECT production_id FROM source "
                    + $"WHERE id IN ({string.Join(',', sources)}) ORDER BY 1",
                r => r.GetInt64(0)
            )
        );

    /// <summary>All files of a production, in the order in which they came.</summary>
    public IReadOnlyList<Source> Sources(long productionId) =>
        database.Read(c => c.Query(SourceColumns + "WHERE production_id = $p ORDER BY id", ReadSource, ("$p", productionId)));

    /// <summary>The files of a sitting, in the order in which they came.</summary>
    public IReadOnlyList<Source> SourcesOf(long sittingId) => database.Read(c => SourcesIn(c, sittingId));

    /// <summary>A file; null when there is none.</summary>
    public Source? Source(long id) => database.Read(c => OneSource(c, id));

    /// <summary>The file of a production with this content; null when there is none.</summary>
    public Source? SourceByFingerprint(long productionId, string fingerprint) =>
        database
            .Read(c =>
                c.Query(
                    SourceColumns + "WHERE production_id = $p AND fingerprint = $f",
                    ReadSource,
                    ("$p", productionId),
                    ("$f", fingerprint)
                )
            )
            .SingleOrDefault();

    /// <summary>
    /// Makes a sitting of files, all or none; without a title they come in as loose footage. The first source with sound and without
    /// picture is read, else the first with sound; it is the reference, at the clock's zero. Throws <see cref="ConflictException"/> when a
    /// file is in the production already.
    /// </summary>
    public long? BringIn(long productionId, string? title, IReadOnlyList<NewSource> sources) =>
        database.Write<long?>(c =>
        {
            long? sitting = title is null
                ? null
                : c.Insert("INSERT INTO sitting (production_id, title) VALUES ($p, $t)", ("$p", productionId), ("$t", title));
            var reference = sources[
                (int)
                    Regroup
                        .ReferenceOf([
                            .. sources.Select(
                                (s, i) => new Grouped(i, Placement.Nowhere(), s.Facts.Picture is not null, s.Facts.Channels > 0)
                            ),
                        ])!
                        .Id
            ];
            foreach (var source in sources)
            {
                var isReference = sitting is not null && source == reference;
                try
                {
                    var id = c.Insert(
                        "INSERT INTO source (production_id, sitting_id, path, name, size, fingerprint, facts, modified) VALUES ($p, $s, "
                            + "$path, $name, $size, $print, $facts, $modified)",
                        ("$p", productionId),
                        ("$s", sitting),
                        ("$path", source.Path),
                        ("$name", source.Name),
                        ("$size", source.Size),
                        ("$print", source.Fingerprint),
                        ("$facts", FactsText.Write(source.Facts)),
                        ("$modified", source.Modified)
                    );
                    SavePlacement(c, id, isReference ? Placement.Reference : Placement.Nowhere());
                    if (isReference && source.Facts.Channels > 0)
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

    /// <summary>Notes whether a file is in its place, and when it was last changed there.</summary>
    public void SetState(long sourceId, FileState state, long modified) =>
        database.Write(c =>
            c.Execute(
                "UPDATE source SET state = $state, modified = $m WHERE id = $id",
                ("$state", StateText(state)),
                ("$m", modified),
                ("$id", sourceId)
            )
        );

    /// <summary>
    /// The same content was found elsewhere: the source has its file there from now on, under the name that it has there.
    /// </summary>
    public void FoundAt(long sourceId, string path, string name, long modified) =>
        database.Write(c =>
            c.Execute(
                "UPDATE source SET path = $path, name = $name, modified = $m, state = '' WHERE id = $id",
                ("$path", path),
                ("$name", name),
                ("$m", modified),
                ("$id", sourceId)
            )
        );

    /// <summary>Writes labels that came with the files rather than from a person at work: there is nothing to take back.</summary>
    public void SetLabels(long sourceId, Labels labels) =>
        database.Write(c => c.Execute("UPDATE source SET labels = $l WHERE id = $id", ("$l", LabelsText.Write(labels)), ("$id", sourceId)));

    /// <summary>Notes what is said aloud at a file's start.</summary>
    public void SetSaid(long sourceId, string said) =>
        database.Write(c => c.Execute("UPDATE source SET said = $said WHERE id = $id", ("$said", said), ("$id", sourceId)));

    internal static Source? OneSource(SqliteConnection c, long id) =>
        c.Query(SourceColumns + "WHERE id = $id", ReadSource, ("$id", id)).SingleOrDefault();

    internal static List<Source> SourcesOfAll(SqliteConnection c, long? production) =>
        c.Query(SourceColumns + "WHERE $p IS NULL OR production_id = $p ORDER BY id", ReadSource, ("$p", production));

    internal static List<Source> SourcesIn(SqliteConnection c, long sittingId) =>
        c.Query(SourceColumns + "WHERE sitting_id = $s ORDER BY id", ReadSource, ("$s", sittingId));

    internal static Sitting? OneSitting(SqliteConnection c, long id) =>
        c.Query(SittingColumns + "AND id = $id", ReadSitting, ("$id", id)).SingleOrDefault();

    private static string StateText(FileState state) =>
        state switch
        {
            FileState.Missing => "missing",
            FileState.Replaced => "replaced",
            _ => "",
        };

    private static Sitting ReadSitting(SqliteDataReader r) => new(r.GetInt64(0), r.GetInt64(1), r.GetString(2), r.Number(3), r.Number(4));

    private static Source ReadSource(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.GetInt64(1),
            r.Number(2),
            r.GetString(3),
            r.GetString(4),
            r.GetInt64(5),
            r.GetString(6),
            FactsText.Read(r.GetString(7)),
            new Placement(
                r.Number(8) is { } start ? new ClockMap(new SittingTime(new MediaTime(start)), r.Number(9) ?? 0) : null,
                (PlaceBasis)r.GetInt32(16),
                r.GetString(10),
                r.GetInt64(11) != 0
            )
        )
        {
            Labels = LabelsText.Read(r.GetString(12)),
            State = r.GetString(13) switch
            {
                "missing" => FileState.Missing,
                "replaced" => FileState.Replaced,
                _ => FileState.Here,
            },
            Modified = r.GetInt64(14),
            Said = r.IsDBNull(15) ? null : r.GetString(15),
        };
}
