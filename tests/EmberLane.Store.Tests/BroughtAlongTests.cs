using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Sync;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>
/// A database that the version before the one change log made (schema 12), with a change of every kind in it, is opened by this one.
/// </summary>
public sealed class BroughtAlongTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-older").FullName;
    private readonly string path;

    public BroughtAlongTests()
    {
        path = Path.Combine(folder, "ember.sqlite");
        File.Copy(Path.Combine(AppContext.BaseDirectory, "Older", "version-12.sqlite"), path);
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private List<string> Rows(string sql)
    {
        using var connection = new SqliteConnection($"Data Source={path};Pooling=false");
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        using var reader = command.ExecuteReader();
        var rows = new List<string>();
        while (reader.Read())
        {
            rows.Add(
                string.Join(
                    '|',
                    Enumerable.Range(0, reader.FieldCount).Select(i => reader.IsDBNull(i) ? "null" : reader.GetValue(i).ToString())
                )
            );
        }
        return rows;
    }

    // The tables of that version with their columns.
    private Dictionary<string, string> Tables() =>
        Rows("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name")
            .Except(["edit", "production_setting", "bite", "aside", "settled", "flag"])
            .ToDictionary(t => t, t => string.Join(", ", Rows($"SELECT name FROM pragma_table_info('{t}')")));

    private string Decided(Dictionary<string, string> tables) =>
        string.Join('\n', tables.SelectMany(t => Rows($"SELECT {t.Value} FROM {t.Key}").Order(StringComparer.Ordinal).Prepend(t.Key)));

    private (Transcripts Transcripts, Readings Readings, Changes Changes, Database Database) Open()
    {
        var database = new Database(path);
        var transcripts = new Transcripts(database, TimeProvider.System);
        var readings = new Readings(database, transcripts);
        readings.MakeFirst();
        return (transcripts, readings, new Changes(database), database);
    }

    [Fact]
    public void Everything_that_a_person_decided_is_as_it_was_and_every_change_is_listed_in_words()
    {
        var tables = Tables();
        var before = Decided(tables);
        var log = Rows("SELECT id, aggregate, aggregate_id, who, at, state FROM edit ORDER BY id");
        var marks = Rows(
            "SELECT 'aside.hand', transcript_id, number, '' FROM aside UNION SELECT 'settled', transcript_id, number, '' FROM settled "
                + "UNION SELECT 'flag.use-this', transcript_id, number, note FROM flag WHERE kind = 1"
        );
        var bites = Rows(
            "SELECT id, sitting_id, transcript_id, first_word, last_word, time_in, time_out, theme, note, owner, aside, gone FROM bite"
        );
        Assert.Equal((7, 3), (marks.Count, bites.Count));
        var (_, readings, changes, _) = Open();
        Assert.Equal(before, Decided(tables));
        Assert.Equal(marks, Rows("SELECT kind, transcript_id, first_word, note FROM mark WHERE kind <> 'bite' ORDER BY 1, 2, 3"));
        Assert.Empty(
            Rows(
                "SELECT * FROM mark m LEFT JOIN word w ON w.transcript_id = m.transcript_id AND w.number = m.first_word WHERE m.kind <> "
                    + "'bite' AND (m.first_word <> m.last_word OR m.time_in <> w.time_in OR m.time_out <> w.time_out)"
            )
        );
        Assert.Equal(
            bites,
            Rows(
                "SELECT b.id, b.sitting_id, m.transcript_id, m.first_word, m.last_word, m.time_in, m.time_out, b.theme, m.note, m.owner, "
                    + "b.aside, b.gone FROM bite b JOIN mark m ON m.id = b.id WHERE m.kind = 'bite'"
            )
        );
        Assert.Equal(
            ["Ben|2", "Ada|1", "Ben|1", "Ember Lane|2", "Ember Lane|1"],
            Rows(
                "SELECT owner, COUNT(*) FROM mark WHERE kind <> 'bite' AND made_at IS NOT NULL GROUP BY transcript_id, owner, kind ORDER "
                    + "BY MIN(id)"
            )
        );
        Assert.Equal(log, Rows("SELECT id, aggregate, aggregate_id, who, at, state FROM change ORDER BY id"));
        Assert.Empty(readings.Rebuild());
        Assert.Equal(
            ["1|arrival.transcribe|yes", "1|story.in-hand|1"],
            Rows("SELECT production_id, name, value FROM production_setting ORDER BY name")
        );
        var listed = changes.Of(1, 100);
        Assert.Equal(log.Count, listed.Count);
        Assert.All(listed, l => Assert.NotEmpty(l.Said));
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Words, Who: "Ada", Said: "“rope” is “line”", Title: "The school hut" });
        Assert.Contains(
            listed,
            l =>
                l is { Thing: ChangedThing.Bite, Who: "Ada" }
                && l.Said.StartsWith("theme “the rope”, note “opening”", StringComparison.Ordinal)
        );
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Gather, Who: "Ben", Said: "loose.mov put into Ferry" });
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Text, Who: "Ada", Said: "read by hut.docx" });
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Place, Who: "Ada", Said: "hut-a.mov: set by hand" });
        Assert.Contains(
            listed,
            l => l.Thing == ChangedThing.Story && l.Said.StartsWith("laid as card 1: “the line went", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void What_a_place_goes_by_is_read_once_from_the_sentence_that_told_it()
    {
        var placed = Rows(
            "SELECT name, CASE WHEN start IS NULL THEN 0 WHEN evidence = 'reference' THEN 1 WHEN evidence = 'set by hand' THEN 5 ELSE 2 "
                + "END FROM source ORDER BY name"
        );
        Assert.Contains(placed, p => p.EndsWith("|5", StringComparison.Ordinal));
        var (_, _, _, database) = Open();
        Assert.Equal(placed, Rows("SELECT name, basis FROM source ORDER BY name"));
        Assert.All(
            Rows("SELECT body || inverse FROM change WHERE aggregate IN ('placing', 'gather')"),
            c => Assert.Equal(c.Split("\"Evidence\"").Length, c.Split("\"Basis\"").Length)
        );
        // A place that was set by hand is taken back to what it was, which the log kept with its sentence only.
        var footage = new Footage(database, TimeProvider.System);
        Assert.NotNull(footage.StepPlacing(1, redo: false, "Ada"));
        Assert.Equal(PlaceBasis.Sound, footage.Sources(1).Single(s => s.Name == "hut-a.mov").Placement.Basis);
    }

    [Fact]
    public void Marks_from_before_are_taken_back_and_made_again_word_by_word()
    {
        var (transcripts, _, _, _) = Open();
        Assert.Equal([5, 6], Aside());
        Assert.Equal("the turn", transcripts.Get(1).FlagsBefore(transcripts.Get(1).Record[9]).Single().Note);
        Assert.True(transcripts.Get(1).IsSettled(transcripts.Get(1).Record[3]));
        foreach (var change in new long[] { 6, 7, 10 })
        {
            transcripts.TakeBack(1, change, "Ada");
        }
        Assert.Empty(transcripts.Get(1).Layers.Marks);
        Assert.NotNull(transcripts.Step(1, redo: false, "Ada"));
        Assert.True(transcripts.Get(1).IsSettled(transcripts.Get(1).Record[3]));
        Assert.NotNull(transcripts.Step(1, redo: false, "Ada"));
        Assert.NotNull(transcripts.Step(1, redo: false, "Ada"));
        Assert.Equal([5, 6], Aside());
        // One of two words that were set aside together: the other stays, and the older change knows that it was touched.
        transcripts.Apply(1, t => Marking.TurnAside(t, t.PlaceOf(new(5))!.Value, t.PlaceOf(new(5))!.Value, new Signed("Ben", null)), "Ben");
        Assert.Equal([6], Aside());
        Assert.Throws<EditRefusedException>(() => transcripts.TakeBack(1, 6, "Ada"));

        IEnumerable<int> Aside() => transcripts.Get(1) is var now ? now.Words.Where(now.IsAside).Select(w => w.Number.Value) : [];
    }

    [Fact]
    public void A_change_of_marks_from_before_that_changed_nothing_is_passed_over_and_one_flag_in_place_of_another_is_two_marks()
    {
        using (var connection = new SqliteConnection($"Data Source={path};Pooling=false"))
        {
            connection.Open();
            using var command = connection.CreateCommand();
            command.CommandText = """
                INSERT INTO edit (aggregate, aggregate_id, who, at, body, inverse, state) VALUES
                    ('transcript', 1, 'Cleo', '2026-11-01T10:00:00.0000000+00:00', '{"$type":"set-aside","Word":5,"Aside":true}',
                        '{"$type":"set-aside","Word":5,"Aside":true}', 0),
                    ('transcript', 1, 'Cleo', '2026-11-01T11:00:00.0000000+00:00',
                        '{"$type":"set-flag","Word":9,"Flag":{"Kind":3,"Note":"why?"}}',
                        '{"$type":"set-flag","Word":9,"Flag":{"Kind":1,"Note":"the turn"}}', 0);
                UPDATE flag SET kind = 3, note = 'why?' WHERE transcript_id = 1;
                """;
            command.ExecuteNonQuery();
        }
        var (transcripts, _, _, _) = Open();
        Assert.Equal([(MarkKind.AskAbout, "why?", "Cleo")], Flags());
        Assert.NotNull(transcripts.Step(1, redo: false, "Cleo"));
        Assert.Equal([(MarkKind.UseThis, "the turn", "Ada")], Flags());
        Assert.Null(transcripts.Step(1, redo: false, "Cleo"));
        Assert.Contains("nothing", Rows("SELECT said FROM change WHERE state = 2").Single(), StringComparison.Ordinal);

        IEnumerable<(MarkKind, string, string)> Flags() =>
            transcripts.Get(1) is var now ? now.Words.SelectMany(now.FlagsBefore).Select(f => (f.Kind, f.Note, f.Owner)) : [];
    }

    [Fact]
    public void Older_changes_are_taken_back_by_the_person_who_made_them()
    {
        var (transcripts, _, _, database) = Open();
        var (stories, grouping, footage, texts) = (
            new Stories(database, new Transcripts(database, TimeProvider.System), TimeProvider.System),
            new Grouping(database, TimeProvider.System),
            new Footage(database, TimeProvider.System),
            new Texts(database, transcripts, TimeProvider.System)
        );
        var angle = stories.Step(1, redo: false, "Ada");
        Assert.Null(angle.Story.Cards.Single(c => c.BiteId == 1).Angle);
        Assert.Equal(2, stories.Step(1, redo: false, "Ben").Story.Cards[1].BiteId);
        Assert.Equal("mic 2 of hut.wav", grouping.Step(1, redo: false, "Ben"));
        Assert.Equal("labels of loose.mov", grouping.Step(1, redo: false, "Ada"));
        Assert.Equal("Hut renamed The school hut", grouping.Step(1, redo: false, "Ada"));
        Assert.Equal("Hut", footage.Sitting(1)!.Title);
        Assert.NotNull(footage.StepPlacing(1, redo: false, "Ada"));
        Assert.True(texts.Step(1, redo: false, "Ben"));
        Assert.Equal(2, footage.Sitting(1)!.TranscriptId);
        Assert.NotNull(transcripts.Step(1, redo: true, "Ben"));
        Assert.Equal("children", transcripts.Get(1).TextOf(transcripts.Get(1).Record[7]));
    }
}
