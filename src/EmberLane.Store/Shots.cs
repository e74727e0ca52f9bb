using System.Text.Json;
using EmberLane.Core.Finding;
using EmberLane.Core.Pictures;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A shot as it was measured, who is seen in it from left to right, and what a tagger says of it.</summary>
public sealed record StoredShot(ShotName Name, ShotFacts Facts, IReadOnlyList<SeenPerson> People, IReadOnlyList<PictureTag> Tags)
{
    /// <summary>The file that it is of.</summary>
    public long SourceId => Name.Source;

    /// <summary>Which tagger said the tags; empty where none was asked.</summary>
    public string Tagger { get; init; } = "";
}

/// <summary>What was measured of the pictures of sources: it is made of the files, and may be made again.</summary>
public sealed class Shots(Database database)
{
    private const string Select =
        "SELECT h.source_id, h.number, h.time_in, h.time_out, h.brightness, h.movement, h.colours, h.faces, h.largest_face, h.look, "
        + "h.tags, h.tagger FROM shot h JOIN source s ON s.id = h.source_id ";

    private const string Seen =
        "SELECT p.source_id, p.shot, p.x, p.y, p.width, p.height, p.best, p.seen, p.look FROM seen_person p JOIN source s ON s.id = "
        + "p.source_id ";

    private const string OfProduction = "WHERE $p IS NULL OR s.production_id = $p ";

    /// <summary>The shots of a production, by file and time.</summary>
    public IReadOnlyList<StoredShot> Of(long productionId) => database.Read(c => All(c, productionId));

    /// <summary>The shots of a source, by time.</summary>
    public IReadOnlyList<StoredShot> OfSource(long sourceId) => database.Read(c => OfSource(c, sourceId));

    /// <summary>A shot; null when there is none.</summary>
    public StoredShot? Get(ShotName name) => database.Read(c => Get(c, name));

    /// <summary>The sources of a production that were measured in this way or a later one.</summary>
    public IReadOnlySet<long> Measured(long productionId, int version) =>
        database.Read(c =>
            c.Query(
                    "SELECT m.source_id FROM picture_measure m JOIN source s ON s.id = m.source_id WHERE s.production_id = $p AND "
                        + "m.version >= $v",
                    r => r.GetInt64(0),
                    ("$p", productionId),
                    ("$v", version)
                )
                .ToHashSet()
        );

    /// <summary>Keeps what was measured of a source, in the place of what was kept of it before.</summary>
    public void Save(long sourceId, int version, IReadOnlyList<(ShotFacts Facts, IReadOnlyList<SeenPerson> People)> shots) =>
        database.Write(c =>
        {
            c.Execute("DELETE FROM shot WHERE source_id = $s", ("$s", sourceId));
            c.Execute("DELETE FROM seen_person WHERE source_id = $s", ("$s", sourceId));
            for (var i = 0; i < shots.Count; i++)
            {
                Insert(c, new ShotName(sourceId, i + 1), shots[i].Facts);
                for (var k = 0; k < shots[i].People.Count; k++)
                {
                    Insert(c, new ShotName(sourceId, i + 1), k, shots[i].People[k]);
                }
            }
            c.Execute(
                "INSERT INTO picture_measure (source_id, version) VALUES ($s, $v) ON CONFLICT (source_id) DO UPDATE SET version = $v",
                ("$s", sourceId),
                ("$v", version)
            );
        });

    /// <summary>Keeps what a tagger says of a shot.</summary>
    public void SaveTags(ShotName name, string tagger, IReadOnlyList<PictureTag> tags) =>
        database.Write(c =>
            c.Execute(
                "UPDATE shot SET tagger = $by, tags = $tags WHERE source_id = $s AND number = $n",
                ("$by", tagger),
                ("$tags", JsonSerializer.Serialize(tags)),
                ("$s", name.Source),
                ("$n", name.Number)
            )
        );

    internal static IReadOnlyList<StoredShot> All(SqliteConnection c, long? productionId) =>
        Read(
            c.Query(Select + OfProduction + "ORDER BY h.source_id, h.number", ReadShot, ("$p", productionId)),
            c.Query(Seen + OfProduction + "ORDER BY p.source_id, p.shot, p.number", ReadPerson, ("$p", productionId))
        );

    internal static IReadOnlyList<StoredShot> OfSource(SqliteConnection c, long sourceId) =>
        Read(
            c.Query(Select + "WHERE h.source_id = $s ORDER BY h.number", ReadShot, ("$s", sourceId)),
            c.Query(Seen + "WHERE p.source_id = $s ORDER BY p.shot, p.number", ReadPerson, ("$s", sourceId))
        );

    internal static IReadOnlyList<PictureTag> TagsOf(string text) =>
        text == "[]" ? [] : JsonSerializer.Deserialize<List<PictureTag>>(text)!;

    internal static StoredShot? Get(SqliteConnection c, ShotName name) =>
        Read(
                c.Query(Select + "WHERE h.source_id = $s AND h.number = $n", ReadShot, ("$s", name.Source), ("$n", name.Number)),
                c.Query(
                    Seen + "WHERE p.source_id = $s AND p.shot = $n ORDER BY p.number",
                    ReadPerson,
                    ("$s", name.Source),
                    ("$n", name.Number)
                )
            )
            .SingleOrDefault();

    private static List<StoredShot> Read(List<StoredShot> shots, List<(ShotName Shot, SeenPerson Person)> people)
    {
        var seen = people.ToLookup(p => p.Shot, p => p.Person);
        return shots.ConvertAll(s => s with { People = [.. seen[s.Name]] });
    }

    private static void Insert(SqliteConnection c, ShotName name, ShotFacts facts) =>
        c.Execute(
            "INSERT INTO shot (source_id, number, time_in, time_out, brightness, movement, colours, faces, largest_face, look) VALUES ($s, "
                + "$n, $in, $out, $bright, $move, $colours, $faces, $largest, $look)",
            ("$s", name.Source),
            ("$n", name.Number),
            ("$in", facts.Range.In.FromZero.Units),
            ("$out", facts.Range.Out.FromZero.Units),
            ("$bright", facts.Brightness),
            ("$move", facts.Movement),
            ("$colours", string.Join(',', facts.Colours)),
            ("$faces", facts.Faces),
            ("$largest", facts.LargestFace),
            ("$look", facts.Look.Numbers)
        );

    private static void Insert(SqliteConnection c, ShotName shot, int number, SeenPerson person) =>
        c.Execute(
            "INSERT INTO seen_person (source_id, shot, number, x, y, width, height, best, seen, look) VALUES ($s, $shot, $n, $x, $y, $w, "
                + "$h, $best, $seen, $look)",
            ("$s", shot.Source),
            ("$shot", shot.Number),
            ("$n", number),
            ("$x", person.Box.X),
            ("$y", person.Box.Y),
            ("$w", person.Box.Width),
            ("$h", person.Box.Height),
            ("$best", person.Best.FromZero.Units),
            ("$seen", person.Seen),
            ("$look", person.Look.Numbers)
        );

    private static StoredShot ReadShot(SqliteDataReader r) =>
        new(
            new ShotName(r.GetInt64(0), r.GetInt32(1)),
            new ShotFacts(
                new SourceRange(new SourceTime(new MediaTime(r.GetInt64(2))), new SourceTime(new MediaTime(r.GetInt64(3)))),
                new PerMille(r.GetInt32(4)),
                new PerMille(r.GetInt32(5)),
                [.. r.GetString(6).Split(',', StringSplitOptions.RemoveEmptyEntries).Select(Enum.Parse<PictureColour>)],
                r.GetInt32(7),
                new PerMille(r.GetInt32(8)),
                new PictureLook(r.GetFieldValue<byte[]>(9))
            ),
            [],
            TagsOf(r.GetString(10))
        )
        {
            Tagger = r.GetString(11),
        };

    private static (ShotName, SeenPerson) ReadPerson(SqliteDataReader r) =>
        (
            new ShotName(r.GetInt64(0), r.GetInt32(1)),
            new SeenPerson(
                new PictureBox(r.GetInt32(2), r.GetInt32(3), r.GetInt32(4), r.GetInt32(5)),
                new SourceTime(new MediaTime(r.GetInt64(6))),
                new PerMille(r.GetInt32(7)),
                new PictureLook(r.GetFieldValue<byte[]>(8))
            )
        );
}
