using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Running;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>Faults that were found from outside, each by the way in which it was met.</summary>
public sealed class MendedTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-mended").FullName;

    private string Path_ => Path.Combine(folder, "ember.sqlite");

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private sealed record Rooms(
        Database Database,
        Footage Footage,
        Transcripts Transcripts,
        Texts Texts,
        Bites Bites,
        Grouping Grouping,
        Jobs Jobs
    );

    private Rooms Open()
    {
        var database = new Database(Path_);
        var transcripts = new Transcripts(database, TimeProvider.System);
        return new Rooms(
            database,
            new Footage(database, TimeProvider.System),
            transcripts,
            new Texts(database, transcripts, TimeProvider.System),
            new Bites(database, new Transcripts(database, TimeProvider.System), TimeProvider.System),
            new Grouping(database, TimeProvider.System),
            new Jobs(database)
        );
    }

    private static NewSource File_(string name, bool picture) =>
        new(
            "/footage/" + name,
            name,
            5,
            "print-" + name,
            new SourceFacts(
                picture ? "mov" : "wav",
                MediaTime.FromMilliseconds(9000),
                picture ? new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false) : null,
                [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
                StartOfFile.Unknown,
                null,
                null,
                null
            )
        );

    private static List<RecordWord> Words(int count, string said = "w") =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => new RecordWord(
                    new(i),
                    FormattableString.Invariant($"{said}{i}"),
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(i * 100L)),
                        new SittingTime(MediaTime.FromMilliseconds((i * 100L) + 90))
                    ),
                    new(500),
                    0
                )),
        ];

    private static readonly Dictionary<int, string> NoNames = [];

    [Fact]
    public void A_sitting_with_a_text_that_is_not_in_use_can_not_be_merged_away_nor_lose_the_sound_that_its_bites_go_by()
    {
        var r = Open();
        var production = r.Footage.AddProduction("Slack Water");
        long hut = r.Footage.BringIn(production, "Hut", [File_("hut.wav", false), File_("hut.mov", true)])!.Value,
            walk = r.Footage.BringIn(production, "Walk", [File_("walk.wav", false)])!.Value;
        var text = r.Transcripts.Add(hut, "local", "en", Words(3), NoNames);
        r.Bites.Add(Bite.Of(hut, text, new(0), new(2), Words(3)[0].Range, "school", "", "producer"));
        r.Texts.Choose(hut, null, "producer");
        Assert.Contains(
            "transcribed",
            Assert.Throws<EditRefusedException>(() => r.Grouping.Merge(production, hut, walk, "producer")).Message,
            StringComparison.Ordinal
        );
        Assert.Equal([hut, walk], r.Footage.Sittings(production).Select(s => s.Id));
        Assert.Throws<EditRefusedException>(() =>
            r.Grouping.Move(production, [r.Footage.Sitting(hut)!.SoundSourceId!.Value], null, null, "producer")
        );
        // A camera may go: nothing is known by its sound.
        r.Grouping.Move(production, [r.Footage.SourcesOf(hut).Single(s => s.Name == "hut.mov").Id], walk, null, "producer");
        Assert.Equal(2, r.Footage.SourcesOf(walk).Count);
    }

    [Fact]
    public void A_sitting_that_was_merged_away_under_its_bites_is_back_when_its_database_is_opened()
    {
        DatabaseFile.Make(Path_, 11);
        DatabaseFile.Run(
            Path_,
            """
            INSERT INTO production VALUES (1, 'Slack Water');
            INSERT INTO sitting (id, production_id, title, gone) VALUES (1, 1, 'Hut', 1), (2, 1, 'Walk', 0), (3, 1, 'Empty', 1);
            INSERT INTO transcript (id, sitting_id, recogniser, language, made_at) VALUES (1, 1, 'local', 'en', '2026-09-14T00:00:00Z');
            INSERT INTO bite (id, sitting_id, transcript_id, first_word, last_word, time_in, time_out, theme, note, owner)
                VALUES (1, 1, 1, 0, 1, 0, 1000, 'school', '', 'producer');
            """
        );
        Assert.Equal(["Hut", "Walk"], Open().Footage.Sittings(1).Select(s => s.Title));
    }

    [Fact]
    public void A_record_whose_change_was_taken_back_is_not_shown_as_the_words_of_the_next_text()
    {
        var r = Open();
        var sitting = r.Footage.BringIn(r.Footage.AddProduction("Slack Water"), "Hut", [File_("hut.wav", false)])!.Value;
        Assert.Throws<EditRefusedException>(() =>
            r.Transcripts.AddBeside(
                sitting,
                "text:bad.txt",
                "en",
                Words(3, "bad"),
                NoNames,
                (text, by) =>
                    new PutMark(new Mark(1, MarkKind.UseThis, new(99), new(99), text.RangeOf(new(0), new(0)), by.Owner, "", by.When))
            )
        );
        Assert.Empty(r.Texts.Of(sitting));
        var id = r.Transcripts.AddBeside(sitting, "text:good.txt", "en", Words(3, "good"), NoNames);
        Assert.Equal("good0 good1 good2", r.Transcripts.Get(id).Said(new(0), new(2)));
    }

    [Fact]
    public void A_long_text_is_written_in_parts_between_which_others_change_theirs_and_is_there_only_when_it_is_whole()
    {
        var r = Open();
        var sitting = r.Footage.BringIn(r.Footage.AddProduction("Slack Water"), "Hut", [File_("hut.wav", false)])!.Value;
        var mine = r.Transcripts.Add(sitting, "local", "en", Words(3), NoNames);
        var between = 0;
        // A list that changes another text whenever a part of it has been written.
        var watched = Words(20_000)
            .Select(
                (w, i) =>
                {
                    if (i > 0 && i % 4_000 == 0)
                    {
                        r.Transcripts.Apply(mine, new Retype(new(0), FormattableString.Invariant($"x{++between}")), "producer");
                        Assert.Single(r.Texts.Of(sitting));
                    }
                    return w;
                }
            );
        var id = r.Transcripts.AddBeside(sitting, "text:long.txt", "en", new Lazily<RecordWord>(watched, 20_000), NoNames);
        Assert.Equal(4, between);
        Assert.Equal("x4", r.Transcripts.Get(mine).Said(new(0), new(0)));
        Assert.Equal(20_000, r.Transcripts.Get(id).Words.Count);
    }

    [Fact]
    public void A_text_that_a_stopped_server_left_half_written_is_cleared_and_the_others_stay()
    {
        var r = Open();
        var sitting = r.Footage.BringIn(r.Footage.AddProduction("Slack Water"), "Hut", [File_("hut.wav", false)])!.Value;
        var mine = r.Transcripts.Add(sitting, "local", "en", Words(3), NoNames);
        DatabaseFile.Run(
            Path_,
            $"INSERT INTO transcript (id, sitting_id, recogniser, language, made_at, whole) VALUES (77, {sitting}, 'local', 'en', '', 0); "
                + "INSERT INTO word (transcript_id, number, text, time_in, time_out, voice) VALUES (77, 0, 'half', 0, 1, 0);"
        );
        r.Transcripts.ClearHalf();
        Assert.Equal([mine], r.Texts.Of(sitting).Select(t => t.Id));
        Assert.Equal("0", DatabaseFile.Ask(Path_, "SELECT COUNT(*) FROM word WHERE transcript_id = 77"));
    }

    [Fact]
    public void Work_that_stops_the_server_three_times_waits_for_a_person_and_a_stop_in_good_order_does_not_count()
    {
        var r = Open();
        var production = r.Footage.AddProduction("Slack Water");
        var id = r.Jobs.Add(production, "folder", 1, "Files of a day");
        for (var start = 1; start <= 5; start++)
        {
            Assert.NotNull(r.Jobs.TakeNext(["folder"]));
            r.Jobs.Stopped(id);
        }
        for (var start = 1; start < Jobs.MostStarts; start++)
        {
            Assert.NotNull(r.Jobs.TakeNext(["folder"]));
            r.Jobs.TakeUpAgain();
            Assert.Equal("waiting", r.Jobs.Get(id)!.State);
        }
        Assert.NotNull(r.Jobs.TakeNext(["folder"]));
        r.Jobs.TakeUpAgain();
        Assert.Equal("failed", r.Jobs.Get(id)!.State);
        Assert.Contains("three times", r.Jobs.Get(id)!.Error, StringComparison.Ordinal);
        Assert.Null(r.Jobs.TakeNext(["folder"]));
        r.Jobs.TryAgain(id);
        Assert.NotNull(r.Jobs.TakeNext(["folder"]));
        r.Jobs.TakeUpAgain();
        Assert.Equal("waiting", r.Jobs.Get(id)!.State);
    }

    [Fact]
    public void Work_that_gets_on_between_two_ends_of_the_server_is_taken_up_as_often_as_it_needs()
    {
        var r = Open();
        var id = r.Jobs.Add(r.Footage.AddProduction("Slack Water"), "transcribe", 1, "Transcript");
        for (var start = 0; start < 10; start++)
        {
            Assert.NotNull(r.Jobs.TakeNext(["transcribe"]));
            r.Jobs.KeepPiece(id, StepRange.Of(start * 100, (start + 1) * 100), "{}");
            r.Jobs.TakeUpAgain();
            Assert.Equal("waiting", r.Jobs.Get(id)!.State);
        }
    }

    [Fact]
    public void What_is_no_database_of_ours_is_refused_with_a_sentence_and_left_as_it_is()
    {
        File.WriteAllBytes(Path_, []);
        Assert.Contains("empty (0 bytes)", Refused(), StringComparison.Ordinal);
        Assert.Empty(File.ReadAllBytes(Path_));
        File.Delete(Path_);
        Directory.CreateDirectory(Path_);
        Assert.Contains("is a folder", Refused(), StringComparison.Ordinal);
        Directory.Delete(Path_);
        DatabaseFile.Run(Path_, "CREATE TABLE recipe (name TEXT); INSERT INTO recipe VALUES ('soup')");
        Assert.Contains("another program", Refused(), StringComparison.Ordinal);
        Assert.Equal("soup", DatabaseFile.Ask(Path_, "SELECT name FROM recipe"));
        SqliteConnection.ClearAllPools();
        File.WriteAllText(Path_, "not a database, but long enough to look like one at a first glance" + new string('x', 4000));
        Assert.Contains("damaged", Refused(), StringComparison.Ordinal);
        File.Delete(Path_);
        Assert.Contains(
            "can not be written",
            Assert.Throws<StoreException>(() => new Database(Path.Combine(folder, "no such folder", "ember.sqlite"))).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_damaged_page_is_found_when_the_database_is_opened()
    {
        var r = Open();
        var sitting = r.Footage.BringIn(r.Footage.AddProduction("Slack Water"), "Hut", [File_("hut.wav", false)])!.Value;
        r.Transcripts.Add(sitting, "local", "en", Words(5_000), NoNames);
        DatabaseFile.Run(Path_, "PRAGMA wal_checkpoint(TRUNCATE)");
        SqliteConnection.ClearAllPools();
        using (var file = File.OpenWrite(Path_))
        {
            file.Position = (file.Length / 2 / 4096 * 4096) + 100;
            file.Write(Enumerable.Repeat((byte)0xEE, 5 * 4096).ToArray());
        }
        Assert.Contains("damaged", Refused(), StringComparison.Ordinal);
    }

    [Fact]
    public void The_database_is_for_its_owner_alone()
    {
        var r = Open();
        r.Footage.AddProduction("Slack Water");
        Assert.All(
            Directory.GetFiles(folder, "ember.sqlite*"),
            f => Assert.Equal(UnixFileMode.UserRead | UnixFileMode.UserWrite, File.GetUnixFileMode(f))
        );
    }

    private string Refused()
    {
        SqliteConnection.ClearAllPools();
        return Assert.Throws<StoreException>(() => new Database(Path_)).Message;
    }

    // A list whose words come when they are asked for.
    private sealed class Lazily<T>(IEnumerable<T> items, int count) : IReadOnlyList<T>
    {
        public int Count => count;

        public T this[int index] => items.ElementAt(index);

        public IEnumerator<T> GetEnumerator() => items.GetEnumerator();

        System.Collections.IEnumerator System.Collections.IEnumerable.GetEnumerator() => GetEnumerator();
    }
}
