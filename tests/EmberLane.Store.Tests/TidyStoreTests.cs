using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.SetFlags;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>What tidying keeps: layers that are off, flags from the set, scripts, cards with other takes.</summary>
public sealed class TidyStoreTests : IDisposable
{
    private static readonly Signed Ada = new("Ada", null);

    private readonly string folder = Directory.CreateTempSubdirectory("ember-tidy").FullName;
    private readonly long production,
        sitting,
        text;

    public TidyStoreTests()
    {
        var footage = new Footage(Base, TimeProvider.System);
        production = footage.AddProduction("Slack Water");
        sitting = footage
            .BringIn(
                production,
                "The crossing",
                [
                    new NewSource(
                        "/footage/a.wav",
                        "a.wav",
                        5,
                        "print-a",
                        new SourceFacts("wav", MediaTime.FromMilliseconds(9000), null, [], StartOfFile.Unknown, null, null, null)
                    ),
                ]
            )!
            .Value;
        text = Texts.Add(
            sitting,
            "local",
            "en",
            [.. Enumerable.Range(0, 6).Select(i => new RecordWord(new(i), "w" + i, Range(1000 * i, (1000 * i) + 500), null, 0))],
            new Dictionary<int, string> { [0] = "Maren" }
        );
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    // A program that starts anew each time: what is read lies on the disk.
    private Database Base => new(Path.Combine(folder, "ember.sqlite"));

    private Transcripts Texts => new(Base, TimeProvider.System);

    private Bites Bites => new(Base, Texts, TimeProvider.System);

    private Stories Stories => new(Base, Texts, TimeProvider.System);

    private static SittingRange Range(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    private Bite Over(int first, int last) =>
        Bite.Of(sitting, text, new(first), new(last), Range(1000 * first, (1000 * last) + 500), "", "", "Ada");

    private long NewStory() =>
        Stories.Add(
            production,
            "First",
            new Timecode(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0),
            MediaTime.FromMilliseconds(1),
            "Ada"
        );

    [Fact]
    public void A_layer_that_is_off_stays_off_after_a_start_and_bites_and_stories_have_what_it_holds_until_it_is_on_again()
    {
        var bite = Bites.Add(Over(0, 5));
        var story = NewStory();
        Stories.Apply(story, new LayCard(new Card(Guid.NewGuid(), bite, sitting, Range(0, 5500), null), 0), "Ada");
        Texts.Apply(text, t => new PutMark(Marking.OverTime(t, MarkKind.Pause, Range(1500, 2000), Ada)), "Ada");
        var readings = new Readings(Base, Texts);
        Assert.Equal([Range(1500, 2000)], readings.AsideOf(sitting));
        Assert.Equal([Range(0, 1500), Range(2000, 5500)], readings.Of(bite)!.Pieces);
        Texts.Apply(text, _ => new SwitchLayer("pauses", true), "Ada");
        Assert.Equal(["pauses"], Texts.Get(text).Layers.Off);
        Assert.Empty(readings.AsideOf(sitting));
        Assert.Equal([Range(0, 5500)], readings.Of(bite)!.Pieces);
        Assert.Single(Texts.Get(text).Layers.Marks);
        Texts.Step(text, redo: false, "Ada");
        Assert.Equal([Range(1500, 2000)], readings.AsideOf(sitting));
        Assert.Empty(readings.Rebuild());
        var use = Assert.Single(Stories.UsesIn(sitting));
        Assert.Equal(
            (story, "First", FrameRate.R25, bite, sitting, 1),
            (use.Story, use.Title, use.Rate, use.Bite, use.Sitting, use.Number)
        );
        Assert.Equal(Range(0, 5500), use.Range);
        Assert.Equal([(bite, "First")], Stories.AlsoIn(story + 1, [bite, bite + 1]));
        Assert.Empty(Stories.AlsoIn(story, [bite]));
        Stories.PutAway(story, true, "Ada");
        Assert.Empty(Stories.UsesIn(sitting));
        Assert.Empty(Stories.AlsoIn(story + 1, [bite]));
    }

    [Fact]
    public void A_bite_and_the_mark_that_settles_its_cue_are_kept_together_or_not_at_all()
    {
        Assert.Throws<EditRefusedException>(() =>
            Bites.Add(Over(0, 1), _ => throw new EditRefusedException("These words were changed meanwhile."))
        );
        Assert.Empty(Bites.Of(production));
        Assert.Throws<EditRefusedException>(() =>
            Bites.Add(
                Over(0, 1) with
                {
                    Theme = new string('a', 99),
                },
                t => new PutMark(Marking.Over(t, MarkKind.LeftCue, new(2), new(3), Ada))
            )
        );
        Assert.Empty(Texts.Get(text).Layers.Marks);
        Bites.Add(Over(0, 1), t => new PutMark(Marking.Over(t, MarkKind.LeftCue, new(2), new(3), Ada)));
        Assert.Single(Bites.Of(production));
        Assert.Single(Texts.Get(text).Layers.Marks);
    }

    [Fact]
    public void Cards_are_laid_with_their_other_takes_and_missing_lines_all_or_none_and_taken_out_in_one_step()
    {
        var story = NewStory();
        Assert.Throws<EditRefusedException>(() =>
            Stories.KeepAndLay(
                story,
                Bites,
                [new LaidTakes(Over(0, 1), [], "", ""), new LaidTakes(Over(2, 3) with { Theme = new string('a', 99) }, [], "", "")],
                "Ada"
            )
        );
        Assert.Empty(Bites.Of(production));
        Assert.Throws<EditRefusedException>(() => Stories.KeepAndLay(story, Bites, (IReadOnlyList<LaidTakes>)[], "Ada"));
        var laid = Stories.KeepAndLay(
            story,
            Bites,
            [new LaidTakes(Over(0, 1), [Over(2, 3), Over(4, 5)], "nobody says this", ""), new LaidTakes(Over(1, 2), [], "", "nor this")],
            "Ada"
        );
        Assert.Equal(4, Bites.Of(production).Count);
        var kept = Stories.Get(story, "Ada")!.Story.Cards;
        Assert.Equal(laid.Story.Cards, kept);
        Assert.Equal(("nobody says this", "nor this"), (kept[0].SpaceBefore, kept[1].SpaceAfter));
        Assert.Equal(2, kept[0].OtherTakes.Split(' ').Length);
        Assert.Empty(Stories.Step(story, redo: false, "Ada").Story.Cards);
        Assert.Equal(kept, Stories.Step(story, redo: true, "Ada").Story.Cards);
    }

    [Fact]
    public void A_flag_that_is_sent_twice_is_kept_once_in_each_production_that_it_is_brought_into()
    {
        var other = new Footage(Base, TimeProvider.System).AddProduction("Low Water");
        var flag = SetFlag.Of(null, new DateOnly(2026, 6, 14), MediaTime.FromMilliseconds(36_000_250), "Ada", "use");
        var flags = new SetFlags(Base);
        Assert.Equal((1, 0, 1), (flags.Keep(production, [flag]), flags.Keep(production, [flag]), flags.Keep(other, [flag])));
        Assert.Equal([new KeptFlag(flag, false)], new SetFlags(Base).Of(other));
        Assert.True(flags.TakeAway(other, flag.Id, true));
        Assert.False(flags.Of(production).Single().IsAway);
        Assert.True(flags.Of(other).Single().IsAway);
        Assert.False(flags.TakeAway(production, Guid.NewGuid(), true));
    }

    [Fact]
    public void Flags_of_a_database_from_before_two_productions_could_have_the_same_are_brought_along()
    {
        var flag = SetFlag.Of(null, new DateOnly(2026, 6, 14), MediaTime.FromMilliseconds(36_000_250), "Ada", "use");
        new SetFlags(Base).Keep(production, [flag]);
        SqliteConnection.ClearAllPools();
        using (var connection = new SqliteConnection($"Data Source={Path.Combine(folder, "ember.sqlite")};Pooling=False"))
        {
            connection.Open();
            using var older = connection.CreateCommand();
            older.CommandText = """
                CREATE TABLE old AS SELECT * FROM set_flag;
                DROP TABLE set_flag;
                CREATE TABLE set_flag (
                    id TEXT NOT NULL PRIMARY KEY, production_id INTEGER NOT NULL REFERENCES production(id), day TEXT NOT NULL,
                    at INTEGER NOT NULL, who TEXT NOT NULL, words TEXT NOT NULL, away INTEGER NOT NULL DEFAULT 0
                ) STRICT, WITHOUT ROWID;
                INSERT INTO set_flag SELECT id, production_id, day, at, who, words, away FROM old;
                DROP TABLE old;
                DROP TABLE find_entry;
                DROP TABLE find_mark;
                DROP TABLE saved_search;
                DROP TABLE seen_person;
                DROP TABLE shot;
                DROP TABLE picture_measure;
                DROP TABLE read_time;
                DROP TABLE story_piece;
                DROP TABLE card_reading;
                DROP TABLE card_voice;
                DROP TABLE comment_mention;
                DROP TABLE comment;
                DROP TABLE seen_until;
                DROP TABLE passkey;
                DROP TABLE member;
                DROP TABLE admission;
                DROP TABLE door_event;
                DROP TABLE account;
                DROP TABLE story_step;
                DROP TABLE story_version;
                DROP TABLE camera_choice;
                DROP TABLE copy;
                DROP TABLE caption_choice;
                ALTER TABLE card DROP COLUMN unmended_in;
                ALTER TABLE card DROP COLUMN unmended_out;
                ALTER TABLE card DROP COLUMN over_source;
                ALTER TABLE card DROP COLUMN over_in;
                ALTER TABLE card DROP COLUMN over_out;
                ALTER TABLE card DROP COLUMN over_after;
                ALTER TABLE card DROP COLUMN comes_in;
                ALTER TABLE card DROP COLUMN comes_in_heard;
                ALTER TABLE reading_state DROP COLUMN are_cards_made;
                DROP TABLE find_state;
                DROP TABLE bite_theme;
                ALTER TABLE bite DROP COLUMN grade;
                ALTER TABLE bite DROP COLUMN kind;
                DROP TABLE find_term;
                DROP TABLE find_text;
                PRAGMA user_version = 23;
                """;
            older.ExecuteNonQuery();
        }
        Assert.Equal([new KeptFlag(flag, false)], new SetFlags(Base).Of(production));
        Assert.Equal(1, new SetFlags(Base).Keep(new Footage(Base, TimeProvider.System).AddProduction("Low Water"), [flag]));
        // What is found is made at the first start.
        Assert.Empty(new Finder(Base).Find(Core.Finding.QuestionText.Read("w3"), production, 9).Hits);
        new Readings(Base, Texts).MakeFirst();
        Assert.Single(new Finder(Base).Find(Core.Finding.QuestionText.Read("w3"), production, 9).Hits);
    }

    [Fact]
    public void Scripts_lie_over_each_other_and_a_chosen_take_holds_for_mostly_the_same_words()
    {
        var scripts = new Scripts(Base, TimeProvider.System);
        Assert.Throws<FormatException>(() => scripts.Add(production, "Empty", "[door slams]", null, "Ada"));
        scripts.Add(production, "One", "MAREN: w0 w1", [sitting], "Ada");
        scripts.Add(production, "", "MAREN: w2 w3", null, "Ada");
        Assert.Equal(["Script", "One"], new Scripts(Base, TimeProvider.System).All(production, 9).Select(s => s.Name));
        Assert.Null(scripts.Newest(production)!.Sittings);
        scripts.SearchIn(production, [sitting]);
        Assert.Equal([sitting], scripts.Newest(production)!.Sittings!);
        ChosenTake one = new(text, new(0), new(3)),
            nearly = new(text, new(1), new(3)),
            far = new(text, new(3), new(5));
        Assert.True(one.IsMostly(nearly) && !one.IsMostly(far) && !one.IsMostly(one with { TranscriptId = text + 1 }));
        scripts.Choose(production, one, [one, far]);
        scripts.Choose(production, far, [nearly, far]);
        Assert.Equal([far], scripts.Chosen(production));
    }
}
