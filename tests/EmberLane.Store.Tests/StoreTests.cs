using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Media;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

public sealed class StoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-store").FullName;
    private readonly Database database;
    private readonly Footage footage;
    private readonly Transcripts transcripts;
    private readonly Stories stories;
    private readonly Jobs jobs;

    public StoreTests()
    {
        database = new Database(File_);
        (footage, transcripts, stories, jobs) = (
            new Footage(database, TimeProvider.System),
            new Transcripts(database, TimeProvider.System),
            new Stories(database, new Transcripts(database, TimeProvider.System), TimeProvider.System),
            new Jobs(database)
        );
    }

    private string File_ => Path.Combine(folder, "ember.sqlite");

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static readonly SourceFacts Camera = new(
        "mov",
        MediaTime.FromMilliseconds(9000),
        new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R2997, false),
        [new SoundTrack(1, "aac", 48_000, 1)],
        new StartOfFile(new TimecodeCount(FrameRate.R2997, true).Parse("00:59:58;12"), null),
        "C003C001",
        "Made-up",
        null
    );

    private static readonly SourceFacts Recorder = new(
        "wav",
        MediaTime.FromMilliseconds(9000),
        null,
        [new SoundTrack(0, "pcm_s16le", 48_000, 3)],
        new StartOfFile(null, MediaTime.FromMilliseconds(27_725_000)),
        null,
        null,
        null
    );

    private static NewSource File(string name, SourceFacts facts) => new("/footage/" + name, name, 5, "print-" + name, facts);

    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private (long Production, long Sitting) Begin()
    {
        var production = footage.AddProduction("Slack Water");
        return (production, footage.BringIn(production, "Hut", [File("cam.mov", Camera), File("snd.wav", Recorder)])!.Value);
    }

    private long Words(long sitting) =>
        transcripts.Add(
            sitting,
            "local",
            "en",
            [
                .. Enumerable
                    .Range(0, 3)
                    .Select(i => new RecordWord(new(i), "w" + i, Range(i * 100, (i * 100) + 50), i == 1 ? null : new PerMille(500), i % 2)),
            ],
            new Dictionary<int, string>()
        );

    [Fact]
    public void What_was_measured_comes_back_as_it_was_and_the_recorder_is_the_reference()
    {
        var (production, sitting) = Begin();
        var sources = footage.Sources(production);
        Assert.Equal(Camera.Picture, sources[0].Facts.Picture);
        Assert.Equal(Camera.Start, sources[0].Facts.Start);
        Assert.Equal(Recorder.Start, sources[1].Facts.Start);
        Assert.Equal(Recorder.Sound, sources[1].Facts.Sound);
        Assert.Null(sources[0].Place);
        Assert.Equal(default(ClockMap), sources[1].Place);
        Assert.Equal(sources[1].Id, footage.Sitting(sitting)!.SoundSourceId);
        footage.Place(sources[0].Id, Placement.BySound(new ClockMap(new SittingTime(new MediaTime(-77)), 30_000), "same sound"));
        Assert.Equal(new ClockMap(new SittingTime(new MediaTime(-77)), 30_000), footage.Source(sources[0].Id)!.Place);
    }

    [Fact]
    public void Files_that_are_in_already_are_refused_and_nothing_of_the_sitting_is_made()
    {
        var (production, _) = Begin();
        Assert.Throws<ConflictException>(() => footage.BringIn(production, "Again", [File("new.mov", Camera), File("cam.mov", Camera)]));
        Assert.Single(footage.Sittings(production));
        Assert.Equal(2, footage.Sources(production).Count);
    }

    [Fact]
    public void The_record_stays_while_corrections_are_made_taken_back_and_brought_again_across_a_restart()
    {
        var id = Words(Begin().Sitting);
        transcripts.Apply(id, new Retype(new(1), "Tern"), "producer");
        transcripts.Apply(id, new NameVoice(0, "Ilse"), "producer");
        var again = new Transcripts(new Database(File_), TimeProvider.System);
        Assert.Equal("w0 Tern w2", again.Get(id).Said(new(0), new(2)));
        Assert.Equal(["Ilse"], again.NamesOf(1));
        again.Step(id, redo: false, "producer");
        again.Step(id, redo: false, "producer");
        Assert.Null(again.Step(id, redo: false, "producer"));
        Assert.Equal("w0 w1 w2", again.Get(id).Said(new(0), new(2)));
        again.Step(id, redo: true, "producer");
        Assert.Equal("w0 Tern w2", again.Get(id).Said(new(0), new(2)));
        Assert.Equal(["w0", "w1", "w2"], again.Get(id).Words.Select(w => w.Text));
        // A new change passes over what was taken back.
        again.Apply(id, new Retype(new(0), "x"), "producer");
        Assert.Null(again.Step(id, redo: true, "producer"));
    }

    [Fact]
    public void A_refused_edit_changes_nothing_and_leaves_nothing_to_take_back()
    {
        var id = Words(Begin().Sitting);
        Assert.Throws<EditRefusedException>(() => transcripts.Apply(id, new Retype(new(9), "x"), "producer"));
        Assert.Equal(0, transcripts.Head(id)!.Version);
        Assert.Null(transcripts.Step(id, redo: false, "producer"));
    }

    [Fact]
    public void A_story_is_changed_and_taken_back_and_an_old_version_is_refused()
    {
        var (production, sitting) = Begin();
        var bites = new Bites(database, new Transcripts(database, TimeProvider.System), TimeProvider.System);
        var bite = bites.Add(Bite.Of(sitting, Words(sitting), new(0), new(2), Range(0, 250), "school", "", "producer"));
        var id = stories.Add(
            production,
            "First order",
            new TimecodeCount(FrameRate.R2997, true).Parse("01:00:00;00"),
            MediaTime.FromMilliseconds(90_000),
            "producer"
        );
        var card = new Card(Guid.NewGuid(), bite, sitting, Range(0, 250), null);
        var one = stories.Apply(id, 0, new LayCard(card, 0), "producer");
        Assert.Equal([card], one.Story.Cards);
        Assert.Throws<ConflictException>(() => stories.Apply(id, 0, new TakeOut(card.Id), "producer"));
        var none = stories.Apply(id, 1, new TakeOut(card.Id), "producer");
        Assert.Empty(none.Story.Cards);
        var back = new Stories(new Database(File_), new Transcripts(new Database(File_), TimeProvider.System), TimeProvider.System).Step(
            id,
            redo: false,
            "producer"
        );
        Assert.Equal([card], back.Story.Cards);
        Assert.True(back is { CanUndo: true, CanRedo: true });
        Assert.Empty(stories.Step(id, redo: true, "producer").Story.Cards);
        Assert.Equal("01:00:00;00", stories.Get(id, "producer")!.Start.ToString());
    }

    [Fact]
    public void A_place_set_by_hand_is_kept_when_sync_runs_again_and_can_be_taken_back_and_made_again()
    {
        var (production, sitting) = Begin();
        var camera = footage.Sources(production)[0].Id;
        var found = new ClockMap(new SittingTime(MediaTime.FromMilliseconds(3400)), 12_000);
        footage.Place(camera, Placement.BySound(found, "same sound"));
        var moved = new SittingTime(MediaTime.FromMilliseconds(3440));
        Assert.True(footage.PlaceByHand(camera, p => PlaceSource.Moved(p, moved), "me"));
        footage.Place(camera, Placement.BySound(default(ClockMap), "sync again"));
        Assert.Equal(new Placement(new ClockMap(moved, 12_000), PlaceBasis.Person, "set by hand", true), footage.Source(camera)!.Placement);
        Assert.Equal(camera, footage.StepPlacing(sitting, redo: false, "me"));
        Assert.Equal(Placement.BySound(found, "same sound"), footage.Source(camera)!.Placement);
        Assert.Null(footage.StepPlacing(sitting, redo: false, "me"));
        Assert.Equal(camera, footage.StepPlacing(sitting, redo: true, "me"));
        Assert.True(footage.Source(camera)!.Placement.ByHand);
        Assert.Throws<EditRefusedException>(() =>
            footage.PlaceByHand(camera, p => PlaceSource.Moved(p, new SittingTime(MediaTime.FromMilliseconds(1_000_000_000))), "me")
        );
        Assert.Equal(moved, footage.Source(camera)!.Place!.Value.Start);
        Assert.False(footage.PlaceByHand(4711, p => p, "me"));
    }

    [Fact]
    public void The_same_work_is_queued_once_survives_a_restart_and_can_be_tried_again()
    {
        var (production, sitting) = Begin();
        var id = jobs.Add(production, "transcribe", sitting, "Hut");
        Assert.Equal(id, jobs.Add(production, "transcribe", sitting, "Hut"));
        Assert.Null(jobs.TakeNext(["sync"]));
        Assert.Equal(id, jobs.TakeNext(["transcribe", "sync"])!.Id);
        Assert.Null(jobs.TakeNext(["transcribe"]));
        jobs.KeepPiece(id, StepRange.Of(200, 400), "words");
        var later = new Jobs(new Database(File_));
        later.TakeUpAgain();
        Assert.Equal(id, later.TakeNext(["transcribe"])!.Id);
        Assert.Equal([(StepRange.Of(200, 400), "words")], later.Pieces(id));
        later.End(id, "failed", "", "it broke");
        later.TryAgain(id);
        Assert.Equal(("waiting", ""), (later.Get(id)!.State, later.Get(id)!.Error));
        later.End(id, "done", "", "");
        Assert.Empty(later.Pieces(id));
        Assert.NotEqual(id, later.Add(production, "transcribe", sitting, "Hut"));
    }

    [Fact]
    public void Cancelled_work_stays_cancelled_whatever_its_last_words_are()
    {
        var (production, sitting) = Begin();
        var id = jobs.Add(production, "transcribe", sitting, "Hut");
        jobs.TakeNext(["transcribe"]);
        jobs.End(id, "cancelled", "", "");
        jobs.End(id, "done", "late", "");
        jobs.Progress(id, new(900), "late");
        Assert.Equal(("cancelled", PerMille.None), (jobs.Get(id)!.State, jobs.Get(id)!.PerMille));
    }

    [Fact]
    public void A_transcript_and_the_end_of_its_job_are_saved_together()
    {
        var (production, sitting) = Begin();
        var job = jobs.Add(production, "transcribe", sitting, "Hut");
        jobs.TakeNext(["transcribe"]);
        var id = transcripts.AddFromJob(
            job,
            "1 word",
            sitting,
            "local",
            "en",
            [new RecordWord(new(0), "a", Range(0, 1), null, 0)],
            new Dictionary<int, string>()
        );
        Assert.Equal(("done", id), (jobs.Get(job)!.State, footage.Sitting(sitting)!.TranscriptId!.Value));
    }

    [Fact]
    public void A_database_of_a_newer_version_and_a_file_that_is_none_are_refused_and_left_alone()
    {
        database.Write(c =>
        {
            using var command = c.CreateCommand();
            command.CommandText = "PRAGMA user_version = 99";
            command.ExecuteNonQuery();
        });
        Assert.Contains("newer", Assert.Throws<StoreException>(() => new Database(File_)).Message, StringComparison.Ordinal);
        var other = Path.Combine(folder, "text.sqlite");
        System.IO.File.WriteAllText(other, new string('x', 5000));
        Assert.Contains(
            "not an Ember Lane database",
            Assert.Throws<StoreException>(() => new Database(other)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal(5000, new FileInfo(other).Length);
    }

    [Fact]
    public async Task Many_writers_at_once_lose_nothing()
    {
        var id = Words(Begin().Sitting);
        await Task.WhenAll(
            Enumerable.Range(0, 40).Select(i => Task.Run(() => transcripts.Apply(id, new Retype(new(i % 3), $"v{i}"), "producer")))
        );
        Assert.Equal(40, transcripts.Head(id)!.Version);
        for (var i = 0; i < 40; i++)
        {
            Assert.NotNull(transcripts.Step(id, redo: false, "producer"));
        }
        Assert.Empty(transcripts.Get(id).Layers.Retyped);
    }

    [Fact]
    public void Names_and_notes_with_quotes_and_SQL_are_only_text()
    {
        var evil = "Robert'); DROP TABLE bite;--\"";
        var (production, sitting) = Begin();
        var bites = new Bites(database, new Transcripts(database, TimeProvider.System), TimeProvider.System);
        var id = bites.Add(Bite.Of(sitting, Words(sitting), new(0), new(0), Range(0, 1), evil, evil, evil));
        Assert.Equal((evil, evil), (bites.Get(id)!.Theme, bites.Get(id)!.Note));
        bites.SetAside(id, true, "producer");
        Assert.True(Assert.Single(bites.Of(production)).IsAside);
    }

    [Fact]
    public void Waiting_work_is_done_in_the_order_that_a_person_gives_it()
    {
        var production = footage.AddProduction("P");
        long[] ids = [.. Enumerable.Range(1, 4).Select(n => jobs.Add(production, "pictures", n, "job " + n))];
        jobs.Reorder(ids[2], first: true);
        jobs.Reorder(ids[0], first: false);
        Assert.Equal([ids[2], ids[1], ids[3], ids[0]], jobs.Of(production, 9).Select(j => j.Id));
        Assert.Equal(ids[2], jobs.TakeNext(["pictures"])!.Id);
        jobs.Reorder(ids[2], first: false);
        jobs.Reorder(ids[3], first: true);
        Assert.Equal([ids[3], ids[1], ids[0]], Enumerable.Range(0, 3).Select(_ => jobs.TakeNext(["pictures"])!.Id));
    }
}
