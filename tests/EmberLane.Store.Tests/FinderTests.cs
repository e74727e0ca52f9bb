using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Finding;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>What is said, written and named is found as it stands now, whatever was changed since.</summary>
public sealed class FinderTests : IDisposable
{
    private const int Many = 1_500;

    private readonly string folder = Directory.CreateTempSubdirectory("ember-find").FullName;
    private readonly Database database;
    private readonly Footage footage;
    private readonly Transcripts transcripts;
    private readonly Finder finder;
    private readonly long production;

    public FinderTests()
    {
        database = new Database(Path.Combine(folder, "ember.sqlite"));
        footage = new Footage(database, TimeProvider.System);
        transcripts = new Transcripts(database, TimeProvider.System);
        finder = new Finder(database);
        production = footage.AddProduction("Slack Water");
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static SittingRange Range(int first, int last) =>
        new(new SittingTime(MediaTime.FromMilliseconds(400L * first)), new SittingTime(MediaTime.FromMilliseconds((400L * last) + 300)));

    private long Sitting(string title, long? within = null) =>
        footage
            .BringIn(
                within ?? production,
                title,
                [
                    new NewSource(
                        $"/footage/{title}.wav",
                        $"{title}.wav",
                        5,
                        "print-" + title,
                        new SourceFacts("wav", MediaTime.FromMilliseconds(900_000), null, [], StartOfFile.Unknown, null, null, null)
                    ),
                ]
            )!
            .Value;

    // Every fifth word is another voice's.
    private long Say(long sitting, params IReadOnlyList<string> words) =>
        transcripts.Add(
            sitting,
            "local",
            "en",
            [.. words.Select((w, i) => new RecordWord(new(i), w, Range(i, i), null, i / 5 % 2))],
            new Dictionary<int, string> { [0] = "Maren Oakhurst", [1] = "Tobias Fennel" }
        );

    private IReadOnlyList<FoundHit> Hits(string question, bool rough = false) =>
        finder.Find(QuestionText.Read(question, rough), production, 10_000).Hits;

    private (int, int)[] Spoken(string question) =>
        [.. Hits(question).Where(h => h.Kind == FoundKind.Speech).Select(h => (h.Places!.Value.First, h.Places.Value.Last))];

    [Fact]
    public void A_name_heard_as_other_words_is_found_by_its_sound_wherever_their_borders_lie()
    {
        var sitting = Sitting("The hut");
        var id = Say(sitting, Words("we walked down to turned hello before it rained and then inch more was in sight"));
        var (first, last) = Assert.Single(Hits("tern hollow", rough: true)).Places!.Value;
        Assert.Equal((4, 5), (first, last));
        Assert.Equal((11, 12), Assert.Single(Hits("inchmoor", rough: true)).Places!.Value);
        Assert.Empty(Hits("tern hollow"));
        Assert.Empty(Hits("tern hollow -rained", rough: true));
        Assert.Empty(Hits("tern hollow by:nobody", rough: true));
        Assert.Empty(Hits("tern hollow sitting:ferry", rough: true));
        // What is mended is no longer found, what comes along is.
        transcripts.Apply(id, new Retype(new WordNumber(4), "school"), "test");
        Assert.Empty(Hits("tern hollow", rough: true));
        Say(Sitting("The quay"), Words("nobody went to turn hallow"));
        Assert.Equal("The quay", Assert.Single(Hits("tern hollow", rough: true)).Sitting!.Title);
        Say(Sitting("The pier"), [.. Enumerable.Repeat("water", Many), .. Words("inch more")]);
        Assert.Equal(["The hut", "The pier"], Hits("inchmoor", rough: true).Select(h => h.Sitting!.Title));
    }

    [Fact]
    public void In_order_of_time_hits_come_by_day_and_time_of_day_whatever_was_brought_in_first()
    {
        long late = Sitting("Late"),
            early = Sitting("Early"),
            unknown = Sitting("Unknown");
        foreach (var sitting in new[] { late, early, unknown })
        {
            Say(sitting, Words("the ferry left and the ferry came"));
        }
        void Label(long sitting, string name, string value)
        {
            var source = footage.SourcesOf(sitting).Single();
            footage.SetLabels(source.Id, source.Labels.With(name, value));
        }
        Label(late, "day", "2026-09-15");
        Label(early, "day", "2026-09-14");
        Label(early, "scene", "12a");
        Label(late, "reel", "A001");
        FoundHit[] hits = [.. finder.Find(QuestionText.Read("ferry"), production, 100, inTime: true).Hits];
        Assert.Equal(
            [("Unknown", 1), ("Unknown", 5), ("Early", 1), ("Early", 5), ("Late", 1), ("Late", 5)],
            hits.Where(h => h.Places is not null).Select(h => (h.Sitting!.Title, h.Places!.Value.First))
        );
        Assert.Equal(["", "2026-09-14", "2026-09-15"], hits.Select(h => h.When.Day).Distinct());
        // Fewer are the first of the same order, and without it they come by sitting.
        Assert.Equal(hits.Take(3), finder.Find(QuestionText.Read("ferry"), production, 3, inTime: true).Hits);
        Assert.Equal("Late", Hits("ferry")[0].Sitting!.Title);
        Assert.Equal(["Early"], Hits("ferry scene:12a").Select(h => h.Sitting!.Title).Distinct());
        Assert.Equal(["Late"], Hits("ferry reel:A001 kind:speech").Select(h => h.Sitting!.Title).Distinct());
        Assert.Empty(Hits("ferry reel:B"));
    }

    private static string[] Words(string text) => text.Split(' ');

    [Fact]
    public void A_hit_says_where_it_is_said_by_whom_and_what_stands_around_it()
    {
        var sitting = Sitting("The crossing");
        Say(sitting, Words("My father kept everything that mattered under the Compass. So I suppose"));
        var hit = Assert.Single(Hits("compasses"));
        Assert.Equal((FoundKind.Speech, production, sitting, "Tobias Fennel"), (hit.Kind, hit.ProductionId, hit.Sitting!.Id, hit.Who));
        Assert.Equal(((8, 8), Range(8, 8)), (hit.Places!.Value, hit.Range!.Value));
        Assert.Equal(("My father kept everything that mattered under the", "Compass.", "So I suppose"), hit.Text);
        Assert.Empty(Hits("\"compasses\""));
        Assert.Equal([(1, 8)], Spoken("compass father"));
        Assert.Equal([(6, 8)], Spoken("\"under the compass\""));
        Assert.Empty(Spoken("\"under compass\""));
        Assert.Empty(Spoken("near(father compass, 5)"));
        Assert.Empty(Spoken("compass -father"));
        Assert.Equal([(1, 1)], Spoken("father by:maren"));
        Assert.Empty(Spoken("father by:tobias"));
    }

    [Fact]
    public void Words_and_phrases_are_found_wherever_they_stand_also_where_stretches_of_the_index_meet()
    {
        var random = new Random(5);
        string[] spoken = ["the", "ferry", "bridge", "ferries", "late", "rain", "stone", "river"];
        string[] words = [.. Enumerable.Range(0, Many).Select(_ => spoken[random.Next(spoken.Length)])];
        Say(Sitting("Long"), words);
        foreach (var phrase in new[] { "the late", "ferry bridge stone", "river", "rain rain rain rain" })
        {
            var asked = Words(phrase);
            var expected = new List<(int, int)>();
            for (var i = 0; i + asked.Length <= words.Length; i++)
            {
                if (words.Skip(i).Take(asked.Length).SequenceEqual(asked) && (expected.Count == 0 || i > expected[^1].Item2))
                {
                    expected.Add((i, i + asked.Length - 1));
                }
            }
            Assert.Equal(expected, Spoken($"\"{phrase}\""));
        }
        Assert.Equal(words.Count(w => w.StartsWith("ferr", StringComparison.Ordinal)), Spoken("ferry").Length);
        var some = finder.Find(QuestionText.Read("ferry"), production, 10);
        Assert.Equal(
            (10, words.Count(w => w.StartsWith("ferr", StringComparison.Ordinal)), false),
            (some.Hits.Count, some.Count, some.IsMore)
        );
        Assert.True(finder.Find(QuestionText.Read("ferry"), production, 10, 20) is { Count: 20, IsMore: true });
    }

    [Fact]
    public void A_mended_word_is_found_under_its_new_spelling_and_the_old_one_again_when_it_is_taken_back()
    {
        var sitting = Sitting("Long");
        var text = Say(sitting, [.. Enumerable.Range(0, Many).Select(i => i == 700 ? "turn" : "word" + i % 50)]);
        transcripts.Apply(text, new Retype(new WordNumber(700), "Tern"), "Ada");
        Assert.Equal([(700, 700)], Spoken("\"tern\""));
        Assert.Empty(Hits("\"turn\""));
        transcripts.Step(text, redo: false, "Ada");
        Assert.Equal([(700, 700)], Spoken("\"turn\""));
        Assert.Empty(Hits("\"tern\""));
        Assert.Empty(new Readings(database, transcripts).Rebuild());
    }

    [Fact]
    public void Added_joined_hidden_and_given_words_are_found_as_they_are_read()
    {
        var text = Say(Sitting("Crossing"), Words("we crossed to wards the old pier at noon and waited"));
        transcripts.Apply(text, t => Respell.Insert(t, new TextPlace(1), "slowly"), "Ada");
        Assert.Equal([(1, 2)], Spoken("\"crossed slowly\""));
        Assert.Equal([(7, 7)], Spoken("pier"));
        Assert.Equal("we crossed slowly to wards the old pier", Hits("pier")[0].Text.Before + " " + Hits("pier")[0].Text.Said);
        transcripts.Apply(text, new HideWord(new WordNumber(5), true), "Ada");
        Assert.Empty(Hits("\"old\""));
        Assert.Equal([(5, 7)], Spoken("\"the pier\""));
        transcripts.Apply(text, t => VoiceEdits.Give(t, new TextPlace(7), new TextPlace(8), 0, null), "Ada");
        transcripts.Apply(text, t => VoiceEdits.Name(t, 0, "Ilse Varga"), "Ada");
        Assert.Equal("Ilse Varga", Assert.Single(Hits("pier by:ilse")).Who);
        Assert.Empty(Hits("pier by:tobias"));
        Assert.Empty(new Readings(database, transcripts).Rebuild());
    }

    [Fact]
    public void Every_word_is_found_at_its_place_however_many_were_added_before_it()
    {
        var random = new Random(3);
        var text = Say(Sitting("Crossing"), [.. Enumerable.Range(0, 600).Select(i => "u" + i)]);
        for (var n = 0; n < 40; n++)
        {
            transcripts.Apply(
                text,
                t => Respell.Insert(t, new TextPlace(random.Next(t.Words.Count)), FormattableString.Invariant($"x{n}a x{n}b")),
                "Ada"
            );
        }
        var now = transcripts.Get(text);
        Assert.Equal(680, now.Words.Count);
        foreach (var (word, place) in now.Words.Select((w, i) => (w, i)).Where(w => w.i % 7 == 0 || w.w.Number.Value >= 600))
        {
            Assert.Equal([(place, place)], Spoken($"\"{now.TextOf(word)}\""));
        }
    }

    [Fact]
    public void What_is_found_is_of_the_text_that_a_sitting_is_read_by_and_of_no_sitting_that_is_gone()
    {
        var sitting = Sitting("Crossing");
        var first = Say(sitting, "compass");
        var second = Say(sitting, "letter");
        var texts = new Texts(database, transcripts, TimeProvider.System);
        Assert.Empty(Hits("compass"));
        Assert.Single(Hits("letter"));
        texts.Choose(sitting, first, "Ada");
        Assert.Single(Hits("compass"));
        Assert.Empty(Hits("letter"));
        texts.Choose(sitting, second, "Ada");
        Assert.Empty(Hits("compass"));
        texts.Choose(sitting, first, "Ada");
        var other = footage.AddProduction("Low Water");
        Say(Sitting("Elsewhere", other), "compass");
        Assert.Single(Hits("compass"));
        Assert.Equal(2, finder.Find(QuestionText.Read("compass"), null, 10).Count);
    }

    [Fact]
    public void A_name_that_was_misheard_is_found_roughly_the_nearest_first()
    {
        Say(Sitting("Crossing"), Words("the chapel of turn hallow stands by the market and the ternhollow road to bias fennel"));
        Assert.Empty(Hits("tern hollow"));
        var found = Hits("tern hollow", rough: true);
        Assert.Equal(["ternhollow", "turn hallow"], found.Select(h => h.Text.Said).Order(StringComparer.Ordinal));
        Assert.Equal("to bias fennel", Assert.Single(Hits("~\"tobias fennel\""), h => h.Kind == FoundKind.Speech).Text.Said);
        Assert.Equal(["market"], Hits("~markit").Select(h => h.Text.Said));
    }

    [Fact]
    public void Bites_flags_titles_people_and_files_are_found_and_limits_hold()
    {
        var sitting = Sitting("The school hut");
        var text = Say(sitting, Words("nineteen years in this room and nobody asked me why I stayed here so long"));
        var bites = new Bites(database, transcripts, TimeProvider.System);
        var kept = bites.Add(Bite.Of(sitting, text, new(5), new(9), Range(5, 9), "Why she stayed", "the pupils", "Ada"));
        transcripts.Apply(text, t => Marking.Flag(t, new TextPlace(2), MarkKind.LookAgain, "window light", new Signed("Ada", null)), "Ada");
        footage.SetSaid(footage.SourcesOf(sitting)[0].Id, "cutaway of the gulls");
        var bite = Assert.Single(Hits("pupil"));
        Assert.Equal((FoundKind.Bite, kept, (5, 9)), (bite.Kind, bite.Of!.Value, bite.Places!.Value));
        Assert.Equal(FoundKind.Flag, Assert.Single(Hits("windows")).Kind);
        Assert.Equal(FoundKind.Name, Assert.Single(Hits("fennel")).Kind);
        Assert.Equal(FoundKind.Source, Assert.Single(Hits("gull")).Kind);
        Assert.Equal(
            [FoundKind.Sitting, FoundKind.Source],
            Hits("hut").Select(h => h.Kind).Order().Select(k => k).OrderBy(k => k == FoundKind.Source)
        );
        Assert.Single(Hits("nobody kept:yes kind:speech"));
        Assert.Empty(Hits("nobody kept:no"));
        Assert.Single(Hits("nineteen kept:no"));
        Assert.Single(Hits("nobody theme:stayed kind:speech"));
        Assert.Single(Hits("length:0-5"));
        Assert.Empty(Hits("length:60-90"));
        Assert.Empty(Hits("nobody sitting:bridge"));
        Assert.Empty(Hits("nobody story:yes"));
        var stories = new Stories(database, new Transcripts(database, TimeProvider.System), TimeProvider.System);
        var story = stories.Add(
            production,
            "First",
            new Core.Time.Timecode(new Core.Time.TimecodeCount(Core.Time.FrameRate.R25, false), 1, 0, 0, 0),
            MediaTime.FromMilliseconds(1),
            "Ada"
        );
        stories.Apply(story, new LayCard(new Card(Guid.NewGuid(), kept, sitting, Range(5, 9), null), 0), "Ada");
        Assert.Single(Hits("nobody story:yes kind:speech"));
        Assert.Empty(Hits("nineteen aside:yes"));
        transcripts.Apply(text, t => Marking.TurnAside(t, new TextPlace(0), new TextPlace(1), new Signed("Ada", null)), "Ada");
        Assert.Single(Hits("nineteen aside:yes"));
        Assert.Empty(Hits("nineteen aside:no"));
    }

    [Theory]
    [InlineData("\"")]
    [InlineData("near(((")]
    [InlineData("' OR 1=1 --")]
    [InlineData("words:ferry AND NOT")]
    [InlineData("\"\" * ^ + {}")]
    [InlineData("ⅰmaren")]
    [InlineData("مرحبا שלום 🐟 हिन्दी")]
    [InlineData("~\"a b c d e f\"")]
    public void Whatever_is_asked_is_answered_or_refused(string asked)
    {
        Say(Sitting("Crossing"), Words("the ferry was late"));
        try
        {
            Assert.InRange(Hits(asked).Count, 0, 5);
        }
        catch (FormatException refused)
        {
            Assert.NotEmpty(refused.Message);
        }
    }

    [Fact]
    public void Words_of_other_scripts_are_found()
    {
        Say(Sitting("Crossing"), "Привет", "हिन्दी", "שלום", "naïve", "日本語");
        Assert.All(["привет", "हिन्दी", "שָׁלוֹם", "NAIVE", "日本語"], w => Assert.Single(Hits($"\"{w}\"")));
    }
}
