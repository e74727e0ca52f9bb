using EmberLane.Core;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>Several texts of a sitting, which one it is read by, and changes that are taken back alone.</summary>
public sealed class TextsTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-texts").FullName;
    private readonly Database database;
    private readonly Footage footage;
    private readonly Transcripts transcripts;
    private readonly Texts texts;
    private readonly long production;

    public TextsTests()
    {
        database = new Database(Path.Combine(folder, "ember.sqlite"));
        (footage, transcripts, texts) = (
            new Footage(database, TimeProvider.System),
            new Transcripts(database, TimeProvider.System),
            new Texts(database, new Transcripts(database, TimeProvider.System), TimeProvider.System)
        );
        production = footage.AddProduction("Slack Water");
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    [Fact]
    public void The_newest_transcription_is_read_a_text_brought_in_waits_and_each_person_takes_their_own_choices_back_in_order()
    {
        var sitting = Sitting("Hut");
        long first = transcripts.Add(sitting, "local", "en", Words(2), new Dictionary<int, string>()),
            second = transcripts.Add(sitting, "local", "de", Words(3), new Dictionary<int, string>());
        var beside = transcripts.AddBeside(sitting, "text:hut.txt", "en", Words(4), new Dictionary<int, string> { [0] = "Ilse" });
        Assert.Equal(second, Current(sitting));
        Assert.Equal([(beside, 4), (second, 3), (first, 2)], texts.Of(sitting).Select(t => (t.Id, t.Words)));
        texts.Choose(sitting, beside, "producer");
        texts.Choose(sitting, null, "producer");
        Assert.Null(Current(sitting));
        Assert.False(texts.Step(sitting, redo: false, "somebody else"));
        foreach (var expected in new[] { beside, second })
        {
            Assert.True(texts.Step(sitting, redo: false, "producer"));
            Assert.Equal(expected, Current(sitting));
        }
        Assert.False(texts.Step(sitting, redo: false, "producer"));
        Assert.True(texts.Step(sitting, redo: true, "producer"));
        Assert.Equal(beside, Current(sitting));
    }

    [Fact]
    public void What_one_person_marked_off_the_record_another_does_not_take_back_and_a_release_is_listed_with_its_reason()
    {
        var sitting = Sitting("Hut");
        var text = transcripts.Add(sitting, "local", "en", Words(4), new Dictionary<int, string>());
        Mark Put(Transcript t) => Marking.Over(t, MarkKind.OffTheRecord, new(1), new(2), new Signed("Ada", null));
        transcripts.Apply(text, t => new PutMark(Put(t)), "Ada");
        Assert.Equal([text], transcripts.WithHeld(production));
        var change = transcripts.Changes(text, 1)[0].Id;
        var refused = Assert.Throws<EditRefusedException>(() => transcripts.TakeBack(text, change, "Ben"));
        Assert.Equal(ReleaseMark.Needed, refused.Message);
        // Who marked it may have been mistaken.
        transcripts.Step(text, redo: false, "Ada");
        Assert.Empty(transcripts.WithHeld(production));
        transcripts.Step(text, redo: true, "Ada");
        var changes = new Changes(database);
        Assert.Empty(changes.Releases(production, 10));
        transcripts.Apply(text, t => new ReleaseMark(t.Layers.Marks.Values.Single(), "agreed by letter", "Maren"), "Ben");
        var listed = Assert.Single(changes.Releases(production, 10));
        Assert.Equal(("Ben", "Hut"), (listed.Who, listed.Title));
        Assert.EndsWith("released by Maren: agreed by letter", listed.Said, StringComparison.Ordinal);
        Assert.Empty(transcripts.WithHeld(production));
        // The release taken back, it is off the record again.
        transcripts.Step(text, redo: false, "Ben");
        Assert.Equal([text], transcripts.WithHeld(production));
        Assert.Empty(changes.Releases(production, 10));
    }

    [Fact]
    public void A_text_of_another_sitting_or_the_one_in_use_is_refused_and_nothing_changes()
    {
        long hut = Sitting("Hut"),
            walk = Sitting("Walk");
        var mine = transcripts.Add(hut, "local", "en", Words(2), new Dictionary<int, string>());
        var other = transcripts.Add(walk, "local", "en", Words(2), new Dictionary<int, string>());
        Assert.Throws<EditRefusedException>(() => texts.Choose(hut, other, "producer"));
        Assert.Throws<EditRefusedException>(() => texts.Choose(hut, mine, "producer"));
        Assert.Throws<EditRefusedException>(() => texts.Choose(hut, 999, "producer"));
        Assert.Equal(mine, Current(hut));
    }

    [Fact]
    public void Doubt_about_the_number_of_voices_is_kept_with_the_text_until_a_person_settles_it()
    {
        var sitting = Sitting("Hut");
        SittingRange Of(int from) =>
            new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(from + 700)));
        var doubted = new DoubtedVoices(3, [Of(1_234), Of(9_000)], [Of(20_001)]);
        var jobs = new Jobs(database);
        var text = transcripts.AddFromJob(
            jobs.Add(production, "transcribe", sitting, "Transcript"),
            "",
            sitting,
            "local",
            "en",
            Words(2),
            new Dictionary<int, string>(),
            doubted: doubted,
            said: [new SaidStretch(1, Of(500))]
        );
        Assert.Equal([new SaidStretch(1, Of(500))], transcripts.SaidIn(sitting, text));
        Assert.Equal([new SaidStretch(null, Of(500))], transcripts.SaidIn(sitting, null));
        Assert.Empty(transcripts.SaidIn(sitting + 1, text));
        var kept = transcripts.DoubtOf(text)!;
        Assert.Equal(3, kept.Perhaps);
        Assert.Equal([.. doubted.One, .. doubted.Other], [.. kept.One, .. kept.Other]);
        Assert.Null(transcripts.DoubtOf(transcripts.Add(sitting, "local", "en", Words(2), new Dictionary<int, string>())));
        transcripts.SettleVoices(text);
        Assert.Null(transcripts.DoubtOf(text));
    }

    [Fact]
    public void Joined_words_and_sureness_of_voices_come_back_as_they_were_kept()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string>());
        Assert.Equal([100, 200, null], transcripts.Get(id).Words.Select(w => w.VoiceSure?.Value));
        transcripts.Apply(id, new Together([new JoinWord(new(1), true), new HideWord(new(2), true)]), "producer");
        Assert.Equal("w0w1", transcripts.Get(id).Said(new(0), new(2)));
        transcripts.Step(id, redo: false, "producer");
        Assert.Equal("w0 w1 w2", transcripts.Get(id).Said(new(0), new(2)));
    }

    [Fact]
    public void What_is_set_aside_and_flagged_comes_along_to_the_text_that_is_chosen_and_back_and_nobodys_undo_takes_it_away()
    {
        var sitting = Sitting("Hut");
        var first = transcripts.Add(sitting, "local", "en", Words(3), new Dictionary<int, string>());
        var beside = transcripts.AddBeside(sitting, "text:hut.txt", "en", Words(4), new Dictionary<int, string>());
        transcripts.Apply(first, t => Marking.TurnAside(t, new(1), new(1), Producer), "producer");
        transcripts.Apply(first, t => Marking.Flag(t, new(2), MarkKind.UseThis, "opening", Producer), "producer");
        transcripts.Apply(first, t => new PutMark(Marking.Over(t, MarkKind.Settled, new(0), new(0), Producer)), "producer");
        Assert.Equal([0], Numbers(first, (t, w) => t.IsSettled(w)));
        texts.Choose(sitting, beside, "producer");
        Assert.Equal([1], Numbers(beside, (t, w) => t.IsAside(w)));
        Assert.Equal(
            (new WordNumber(2), "opening", Producer.Owner, Producer.When),
            transcripts.Get(beside).Layers.Marks.Values.Where(m => m.StandsBefore).Select(m => (m.First, m.Note, m.Owner, m.When)).Single()
        );
        Assert.Empty(Numbers(beside, (t, w) => t.IsSettled(w)));
        Assert.Null(transcripts.Step(beside, redo: false, "producer"));
        transcripts.Apply(beside, t => Marking.TurnAside(t, new(0), new(0), Producer), "producer");
        transcripts.Apply(beside, t => Marking.Flag(t, new(1), MarkKind.AskAbout, "", Producer), "producer");
        texts.Choose(sitting, null, "producer");
        Assert.True(texts.Step(sitting, redo: false, "producer"));
        Assert.True(texts.Step(sitting, redo: false, "producer"));
        Assert.Equal(first, Current(sitting));
        Assert.Equal([0, 1], Numbers(first, (t, w) => t.IsAside(w)));
        Assert.Equal([1, 2], Numbers(first, (t, w) => t.FlagsBefore(w).Any()));
        transcripts.Apply(first, t => Marking.Flag(t, new(1), null, "", Producer, t.FlagsBefore(t.Words[1]).Single().Id), "producer");
        transcripts.Apply(first, t => Marking.TurnAside(t, new(0), new(0), Producer), "producer");
        Assert.Equal([1], Numbers(first, (t, w) => t.IsAside(w)));
        Assert.Equal([2], Numbers(first, (t, w) => t.FlagsBefore(w).Any()));
    }

    private static readonly Signed Producer = new("producer", DateTimeOffset.UnixEpoch);

    private IEnumerable<int> Numbers(long text, Func<Transcript, RecordWord, bool> which) =>
        transcripts.Get(text) is var now ? now.Words.Where(w => which(now, w)).Select(w => w.Number.Value) : [];

    [Fact]
    public void Two_people_mark_the_same_words_and_each_takes_back_their_own()
    {
        var text = transcripts.Add(Sitting("Hut"), "local", "en", Words(9), new Dictionary<int, string>());
        Signed ada = new("Ada", DateTimeOffset.UnixEpoch),
            ben = new("Ben", DateTimeOffset.UnixEpoch);
        transcripts.Apply(text, t => Marking.TurnAside(t, new(0), new(4), ada), "Ada");
        transcripts.Apply(text, t => Marking.TurnAside(t, new(3), new(6), ben), "Ben");
        transcripts.Apply(text, t => Marking.Flag(t, new(8), MarkKind.UseThis, "opening", ada), "Ada");
        transcripts.Apply(text, t => Marking.Flag(t, new(8), MarkKind.AskAbout, "why", ben), "Ben");
        Assert.Equal([0, 1, 2, 3, 4, 5, 6], Numbers(text, (t, w) => t.IsAside(w)));
        transcripts.Step(text, redo: false, "Ada");
        transcripts.Step(text, redo: false, "Ada");
        Assert.Equal([3, 4, 5, 6], Numbers(text, (t, w) => t.IsAside(w)));
        Assert.Equal(["why"], transcripts.Get(text).FlagsBefore(transcripts.Get(text).Words[8]).Select(f => f.Note));
        transcripts.Step(text, redo: true, "Ada");
        // Ben brings back words that Ada set aside: hers is in two parts then, and can not be taken back behind his back.
        transcripts.Apply(text, t => Marking.TurnAside(t, new(1), new(1), ben), "Ben");
        Assert.Equal([0, 2, 3, 4, 5, 6], Numbers(text, (t, w) => t.IsAside(w)));
        var refused = Assert.Throws<EditRefusedException>(() => transcripts.Step(text, redo: false, "Ada"));
        Assert.Contains("by Ben", refused.Message, StringComparison.Ordinal);
        transcripts.Step(text, redo: false, "Ben");
        Assert.NotNull(transcripts.Step(text, redo: false, "Ada"));
        Assert.Equal([3, 4, 5, 6], Numbers(text, (t, w) => t.IsAside(w)));
    }

    [Fact]
    public void A_text_is_kept_with_its_marks_or_not_at_all()
    {
        var sitting = Sitting("Hut");
        var id = transcripts.AddBeside(
            sitting,
            "text:hut.txt",
            "en",
            Words(2),
            new Dictionary<int, string>(),
            (text, by) => Marking.Flag(text, new(1), MarkKind.LookAgain, "8 words are missing", by)
        );
        Assert.Equal(
            [(new WordNumber(1), "8 words are missing", "Ember Lane")],
            transcripts.Get(id).Layers.Marks.Values.Select(m => (m.First, m.Note, m.Owner))
        );
        Assert.Null(transcripts.Step(id, redo: false, "producer"));
        Assert.Throws<EditRefusedException>(() =>
            transcripts.AddBeside(
                sitting,
                "text:hut.txt",
                "en",
                Words(2),
                new Dictionary<int, string>(),
                (text, by) =>
                    new PutMark(new Mark(1, MarkKind.LookAgain, new(9), new(9), text.RangeOf(new(0), new(0)), by.Owner, "", by.When))
            )
        );
        Assert.Equal(id, Assert.Single(texts.Of(sitting)).Id);
    }

    [Fact]
    public void A_text_that_a_job_makes_waits_beside_the_one_in_use_and_is_read_at_once_where_there_is_none()
    {
        var sitting = Sitting("Hut");
        var jobs = new Jobs(database);
        var first = transcripts.AddFromJob(Job(), "2 words", sitting, "local", "en", Words(2), new Dictionary<int, string>());
        Assert.Equal(first, Current(sitting));
        var second = transcripts.AddFromJob(Job(), "3 words", sitting, "local", "en", Words(3), new Dictionary<int, string>());
        Assert.Equal(first, Current(sitting));
        Assert.Equal([second, first], texts.Of(sitting).Select(t => t.Id));
        Assert.Equal(("done", "3 words"), (jobs.Newest("transcribe", sitting)!.State, jobs.Newest("transcribe", sitting)!.Detail));

        long Job()
        {
            jobs.Add(production, "transcribe", sitting, "Transcript of Hut");
            return jobs.Newest("transcribe", sitting)!.Id;
        }
    }

    [Fact]
    public void The_mic_that_a_voice_was_heard_near_is_kept_with_the_text()
    {
        var sitting = Sitting("Hut");
        var jobs = new Jobs(database);
        jobs.Add(production, "transcribe", sitting, "Transcript of Hut");
        var source = footage.SourcesOf(sitting)[0].Id;
        var text = transcripts.AddFromJob(
            jobs.Newest("transcribe", sitting)!.Id,
            "2 words",
            sitting,
            "local",
            "en",
            Words(2),
            new Dictionary<int, string>(),
            new Dictionary<int, MicOfFile> { [0] = new(source, 1), [3] = new(source, 2) }
        );
        Assert.Equal(0, transcripts.VoiceNear(text, new MicOfFile(source, 1)));
        Assert.Equal(3, transcripts.VoiceNear(text, new MicOfFile(source, 2)));
        Assert.Null(transcripts.VoiceNear(text, new MicOfFile(source, 0)));
        Assert.Null(transcripts.VoiceNear(text + 1, new MicOfFile(source, 1)));
    }

    [Fact]
    public void One_change_is_taken_back_alone_and_that_is_a_change_which_can_be_taken_back_too()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string>());
        transcripts.Apply(id, new Retype(new(0), "first"), "logger");
        transcripts.Apply(id, new NameVoice(0, "Ilse"), "producer");
        transcripts.Apply(id, new Retype(new(2), "third"), "producer");
        Assert.Equal(["producer", "producer", "logger"], transcripts.Changes(id, 10).Select(c => c.Who));
        transcripts.TakeBack(id, transcripts.Changes(id, 10)[2].Id, "director");
        Assert.Equal("w0 w1 third", transcripts.Get(id).Said(new(0), new(2)));
        Assert.Equal("Ilse", transcripts.Get(id).NameOf(0));
        Assert.Equal("director", transcripts.Changes(id, 10)[0].Who);
        transcripts.Step(id, redo: false, "director");
        Assert.Equal("first w1 third", transcripts.Get(id).Said(new(0), new(2)));
        Assert.Equal(2, transcripts.Changes(id, 2).Count);
    }

    [Fact]
    public void A_change_that_was_changed_again_or_taken_back_already_is_refused()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string>());
        transcripts.Apply(id, new Retype(new(0), "first"), "logger");
        transcripts.Apply(id, new Retype(new(0), "again"), "producer");
        var changes = transcripts.Changes(id, 10);
        Assert.Throws<EditRefusedException>(() => transcripts.TakeBack(id, changes[1].Id, "producer"));
        transcripts.Step(id, redo: false, "producer");
        Assert.Throws<EditRefusedException>(() => transcripts.TakeBack(id, changes[0].Id, "producer"));
        Assert.Throws<EditRefusedException>(() => transcripts.TakeBack(id, 12_345, "producer"));
        Assert.Equal("first w1 w2", transcripts.Get(id).Said(new(0), new(2)));
    }

    [Fact]
    public void Each_person_takes_back_their_own_changes_and_never_what_somebody_else_has_changed_since()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string>());
        transcripts.Apply(id, new Retype(new(0), "first"), "Tobias");
        transcripts.Apply(id, new Retype(new(1), "second"), "Ilse");
        transcripts.Apply(id, now => Respell.Insert(now, new(1), "more"), "Tobias");
        transcripts.Apply(id, now => Respell.Insert(now, new(0), "less"), "Ilse");
        Assert.Equal("first less second more w2", Said(id));
        transcripts.Step(id, redo: false, "Tobias");
        Assert.Equal("first less second w2", Said(id));
        transcripts.Step(id, redo: false, "Tobias");
        Assert.Equal("w0 less second w2", Said(id));
        transcripts.Apply(id, new Retype(new(2), "third"), "Ilse");
        transcripts.Step(id, redo: true, "Tobias");
        transcripts.Step(id, redo: true, "Tobias");
        Assert.Equal("first less second more third", Said(id));
        Assert.Null(transcripts.Step(id, redo: true, "Tobias"));
        transcripts.Apply(id, new Retype(new(0), "First,"), "Ilse");
        transcripts.Step(id, redo: false, "Tobias");
        Assert.Contains(
            "changed again later",
            Assert.Throws<EditRefusedException>(() => transcripts.Step(id, redo: false, "Tobias")).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("First, less second third", Said(id));
        Assert.Equal(new WordNumber(5), transcripts.Get(id).FreshNumber());
    }

    [Fact]
    public async Task Many_who_add_words_at_once_all_keep_theirs()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string>());
        await Task.WhenAll(
            Enumerable
                .Range(0, 30)
                .Select(i =>
                    Task.Run(() =>
                        transcripts.Apply(
                            id,
                            now => Respell.Insert(now, now.PlaceOf(new(i % 3))!.Value, FormattableString.Invariant($"x{i}")),
                            FormattableString.Invariant($"p{i}")
                        )
                    )
                )
        );
        var after = transcripts.Get(id);
        Assert.Equal(
            Enumerable.Range(0, 30).Select(i => FormattableString.Invariant($"x{i}")).Order(StringComparer.Ordinal),
            after.Words.Where(w => w.Number.Value >= 3).Select(w => w.Text).Order(StringComparer.Ordinal)
        );
        Assert.Equal(["w0", "w1", "w2"], after.Record.Select(w => w.Text));
    }

    [Fact]
    public void What_voices_sound_like_comes_back_as_it_was_kept_and_is_replaced_as_a_whole()
    {
        var id = transcripts.Add(Sitting("Hut"), "local", "en", Words(3), new Dictionary<int, string> { [1] = "Ilse" });
        var prints = new VoicePrints(database);
        Assert.Empty(prints.Of(id));
        var one = new Core.Voices.VoicePrint(1200, [.. Enumerable.Range(0, 190).Select(i => i / 3f)], 100, 120.5f, 140);
        prints.Keep(id, new Dictionary<int, Core.Voices.VoicePrint> { [0] = one, [2] = Core.Voices.VoicePrint.None });
        prints.Keep(id, new Dictionary<int, Core.Voices.VoicePrint> { [0] = one, [1] = Core.Voices.VoicePrint.None });
        var kept = prints.Of(id);
        Assert.Equal([0, 1], kept.Keys.Order());
        Assert.Equal(one.Covariances, kept[0].Covariances);
        Assert.Equal((1200, 100f, 120.5f, 140f), (kept[0].Steps, kept[0].LowerPitch, kept[0].Pitch, kept[0].UpperPitch));
        Assert.Equal(0, kept[1].Steps);
        Assert.Equal("Ilse", transcripts.VoiceNames(id)[1]);
    }

    private string Said(long id) => transcripts.Get(id).Said(new(0), new(99));

    private long? Current(long sitting) => footage.Sitting(sitting)!.TranscriptId;

    private long Sitting(string title) =>
        footage
            .BringIn(
                production,
                title,
                [
                    new NewSource(
                        $"/footage/{title}.wav",
                        $"{title}.wav",
                        5,
                        $"print-{title}",
                        new SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(9000),
                            null,
                            [new SoundTrack(0, "pcm_s16le", 48_000, 1)],
                            StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            )!
            .Value;

    private static List<RecordWord> Words(int count) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => new RecordWord(
                    new(i),
                    $"w{i}",
                    new SittingRange(
                        new SittingTime(MediaTime.FromMilliseconds(i * 100)),
                        new SittingTime(MediaTime.FromMilliseconds((i * 100) + 90))
                    ),
                    new(500),
                    0,
                    i == 2 ? null : new PerMille(100 * (i + 1))
                )),
        ];
}
