using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>A database that the version before the one change log made (schema 12), with a change of every kind in it, is opened by this one.</summary>
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
            rows.Add(string.Join('|', Enumerable.Range(0, reader.FieldCount).Select(i => reader.IsDBNull(i) ? "null" : reader.GetValue(i).ToString())));
        }
        return rows;
    }

    // The tables of that version with their columns.
    private Dictionary<string, string> Tables() => Rows("SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name").Except(["edit", "production_setting"])
        .ToDictionary(t => t, t => string.Join(", ", Rows($"SELECT name FROM pragma_table_info('{t}')")));

    private string Decided(Dictionary<string, string> tables) => string.Join('\n', tables.SelectMany(t => Rows($"SELECT {t.Value} FROM {t.Key}").Order(StringComparer.Ordinal).Prepend(t.Key)));

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
        var (_, readings, changes, _) = Open();
        Assert.Equal(before, Decided(tables));
        Assert.Equal(log, Rows("SELECT id, aggregate, aggregate_id, who, at, state FROM change ORDER BY id"));
        Assert.Empty(readings.Rebuild());
        Assert.Equal(["1|arrival.transcribe|yes", "1|story.in-hand|1"], Rows("SELECT production_id, name, value FROM production_setting ORDER BY name"));
        var listed = changes.Of(1, 100);
        Assert.Equal(log.Count, listed.Count);
        Assert.All(listed, l => Assert.NotEmpty(l.Said));
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Words, Who: "Ada", Said: "“rope” is “line”", Title: "The school hut" });
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Bite, Who: "Ada" } && l.Said.StartsWith("theme “the rope”, note “opening”", StringComparison.Ordinal));
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Gather, Who: "Ben", Said: "loose.mov put into Ferry" });
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Text, Who: "Ada", Said: "read by hut.docx" });
        Assert.Contains(listed, l => l is { Thing: ChangedThing.Place, Who: "Ada", Said: "hut-a.mov: set by hand" });
        Assert.Contains(listed, l => l.Thing == ChangedThing.Story && l.Said.StartsWith("laid as card 1: “the line went", StringComparison.Ordinal));
    }

    [Fact]
    public void Older_changes_are_taken_back_by_the_person_who_made_them()
    {
        var (transcripts, _, _, database) = Open();
        var (stories, grouping, footage, texts) = (new Stories(database, TimeProvider.System), new Grouping(database, TimeProvider.System), new Footage(database, TimeProvider.System), new Texts(database, transcripts, TimeProvider.System));
        var angle = stories.Step(1, stories.Get(1, "Ada")!.Version, redo: false, "Ada");
        Assert.Null(angle.Story.Cards.Single(c => c.BiteId == 1).Angle);
        Assert.Equal(2, stories.Step(1, angle.Version, redo: false, "Ben").Story.Cards[1].BiteId);
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
