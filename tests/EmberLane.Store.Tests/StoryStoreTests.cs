using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Marks;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>Stories with all their pieces, what their cards say, several people on one, and every version that there was.</summary>
public sealed class StoryStoreTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-story").FullName;
    private readonly Clock clock = new();
    private readonly Transcripts transcripts;
    private readonly Bites bites;
    private readonly Stories stories;
    private readonly Readings readings;
    private readonly long hut,
        text,
        story;
    private readonly List<long> kept;

    public StoryStoreTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        transcripts = new Transcripts(database, clock);
        (bites, stories, readings) = (
            new Bites(database, transcripts, clock),
            new Stories(database, transcripts, clock),
            new Readings(database, transcripts)
        );
        var footage = new Footage(database, clock);
        var production = footage.AddProduction("Slack Water");
        hut = footage
            .BringIn(
                production,
                "Hut",
                [
                    new NewSource(
                        "/footage/hut.wav",
                        "hut.wav",
                        5,
                        "print",
                        new SourceFacts(
                            "wav",
                            MediaTime.FromMilliseconds(60_000),
                            null,
                            [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
                            StartOfFile.Unknown,
                            null,
                            null,
                            null
                        )
                    ),
                ]
            )!
            .Value;
        text = transcripts.Add(
            hut,
            "local",
            "en",
            [.. Enumerable.Range(0, 40).Select(i => new RecordWord(new(i), $"w{i}", Range(i, i), new(900), i < 20 ? 0 : 1))],
            new Dictionary<int, string> { [0] = "Maren", [1] = "Ilse" }
        );
        kept =
        [
            .. Enumerable
                .Range(0, 4)
                .Select(i => bites.Add(Bite.Of(hut, text, new(i * 10), new((i * 10) + 5), Range(i * 10, (i * 10) + 5), "", "", "Ada"))),
        ];
        story = stories.Add(
            production,
            "First order",
            new TimecodeCount(FrameRate.R25, false).Parse("01:00:00:00"),
            MediaTime.FromMilliseconds(60_000),
            "Ada"
        );
    }

    public void Dispose()
    {
        SqliteConnection.ClearAllPools();
        Directory.Delete(folder, recursive: true);
    }

    private static SittingRange Range(int first, int last) =>
        new(new SittingTime(MediaTime.FromMilliseconds(first * 500L)), new SittingTime(MediaTime.FromMilliseconds((last * 500L) + 400)));

    private Card Card(int bite) => new(Guid.NewGuid(), kept[bite], hut, Range(bite * 10, (bite * 10) + 5), null);

    private StoredStory Now => stories.Get(story, "Ada")!;

    private string Said(Card card) => stories.ReadingsOf(story)[card.Id].Said;

    [Fact]
    public void Every_kind_of_piece_comes_back_as_it_was_laid_in_its_place()
    {
        var card = Card(0) with
        {
            Unmended = Range(0, 4),
            Over = new OverPicture(
                1,
                new SourceRange(default, new SourceTime(MediaTime.FromMilliseconds(900))),
                MediaTime.FromMilliseconds(5)
            ),
        };
        var second = MediaTime.FromMilliseconds(1_000);
        List<Piece> pieces =
        [
            new SectionHead(Guid.NewGuid(), "The last season", second, true),
            card,
            new Space(Guid.NewGuid(), second, "the drum"),
            new TitleCard(Guid.NewGuid(), "Tern Hollow", second),
            Card(1),
            new Narration(Guid.NewGuid(), "It ran for ninety years.", MediaTime.Zero),
            new PlainMedia(Guid.NewGuid(), 1, new SourceRange(default, new SourceTime(second)), -60, default, second),
        ];
        stories.Apply(story, new StoryTogether([.. pieces.Select((p, i) => LayPiece.Of(p, i))]), "Ada");
        Assert.Equal(pieces, Now.Story.Pieces);
        Assert.Equal(2, stories.Of(1).Single().Cards);
        stories.Apply(story, new MoveCard(pieces[6].Id, 0), "Ada");
        stories.Apply(story, new TakeOut(card.Id), "Ada");
        Assert.Equal([pieces[6], pieces[0], .. pieces[2..6]], Now.Story.Pieces);
        stories.Step(story, redo: false, "Ada");
        stories.Step(story, redo: false, "Ada");
        Assert.Equal(pieces, Now.Story.Pieces);
        Assert.Empty(readings.Rebuild());
    }

    [Fact]
    public void A_card_says_what_lies_in_its_own_stretch_and_follows_the_text_and_the_bite_says_its_own()
    {
        var card = Card(1);
        stories.Apply(story, new LayCard(card, 0), "Ada");
        Assert.Equal("w10 w11 w12 w13 w14 w15", Said(card));
        stories.Apply(story, new StretchCard(card.Id, Range(12, 21)), "Ada");
        Assert.Equal("w12 w13 w14 w15 w16 w17 w18 w19 w20 w21", Said(card));
        var reading = stories.ReadingsOf(story)[card.Id];
        Assert.Equal((new WordNumber(12), "Maren, Ilse"), (reading.FirstWord, string.Join(", ", reading.Voices.Select(v => v.Name))));
        Assert.Equal(
            (Range(11, 11), Range(12, 12), Range(21, 21), Range(22, 22)),
            (reading.Edges.Before, reading.Edges.First, reading.Edges.Last, reading.Edges.Behind)
        );
        transcripts.Apply(text, new Retype(new(12), "water"), "Ben");
        Assert.StartsWith("water w13", Said(card), StringComparison.Ordinal);
        Assert.StartsWith("w10 w11 water", readings.Of(kept[1])!.Said, StringComparison.Ordinal);
        transcripts.Apply(
            text,
            t => new PutMark(Marking.Over(t, MarkKind.SetAsideByHand, new(20), new(21), new Signed("Ben", null))),
            "Ben"
        );
        Assert.EndsWith("w18 w19", Said(card), StringComparison.Ordinal);
        stories.Apply(story, new TakeOut(card.Id), "Ada");
        Assert.Empty(stories.ReadingsOf(story));
        // As it was before, it is read anew.
        var before = Now with
        {
            Version = Now.Version - 1,
            Story = stories.At(story, Now.Version - 1)!,
        };
        Assert.Equal("water w13 w14 w15 w16 w17 w18 w19", stories.ReadingsOf(before)[card.Id].Said);
        stories.Step(story, redo: false, "Ada");
        Assert.StartsWith("water w13", Said(card), StringComparison.Ordinal);
        Assert.Empty(readings.Rebuild());
    }

    [Fact]
    public void An_edit_of_an_older_version_is_laid_onto_the_newer_one_and_a_clash_names_who_did_what()
    {
        var (one, two, three, four) = (Card(0), Card(1), Card(2), Card(3));
        stories.Apply(story, 0, new StoryTogether([new LayCard(one, 0), new LayCard(two, 1), new LayCard(three, 2)]), "Ada");
        stories.Apply(story, 1, new MoveCard(three.Id, 0), "Ben");
        // Behind the second card, wherever that is by now.
        stories.Apply(story, 1, new LayCard(four, 2), "Ada");
        Assert.Equal([three, one, two, four], Now.Story.Pieces);
        stories.Apply(story, 1, new ShowAngle(three.Id, 7), "Ada");
        Assert.Equal(7, Now.Story.Cards[0].Angle);
        var refused = Assert.Throws<ConflictException>(() => stories.Apply(story, 1, new MoveCard(three.Id, 1), "Ada"));
        Assert.Contains("Ben changed the same meanwhile (moved to place 1", refused.Message, StringComparison.Ordinal);
        Assert.Throws<ConflictException>(() => stories.Apply(story, 99, new ShowAngle(one.Id, 7), "Ada"));
        Assert.Equal(4, Now.Version);
        // Each takes back their own, onto what the other made of it.
        stories.Step(story, redo: false, "Ben");
        Assert.Equal([one.Id, two.Id, three.Id, four.Id], Now.Story.Pieces.Select(p => p.Id));
    }

    [Fact]
    public void Every_version_can_be_had_again_by_number_by_name_and_by_the_time_of_day()
    {
        var random = new Random(11);
        var versions = new List<IReadOnlyList<Piece>> { Now.Story.Pieces };
        for (var i = 0; i < 60; i++)
        {
            clock.Now += TimeSpan.FromMinutes(10);
            var pieces = Now.Story.Pieces;
            var who = random.Next(2) == 0 ? "Ada" : "Ben";
            try
            {
                if (random.Next(3) == 0)
                {
                    var version = Now.Version;
                    stories.Step(story, random.Next(3) == 0, who);
                    if (Now.Version == version)
                    {
                        continue;
                    }
                }
                else
                {
                    stories.Apply(
                        story,
                        pieces.Count == 0 || random.Next(2) == 0 ? new LayCard(Card(random.Next(4)), random.Next(pieces.Count + 1))
                            : random.Next(2) == 0 ? new TakeOut(pieces[random.Next(pieces.Count)].Id)
                            : new MoveCard(pieces[random.Next(pieces.Count)].Id, random.Next(pieces.Count)),
                        who
                    );
                }
            }
            catch (EditRefusedException)
            {
                continue;
            }
            versions.Add(Now.Story.Pieces);
            Assert.Equal(clock.GetUtcNow(), stories.Steps(story, 1).Single().At);
        }
        Assert.Equal(versions.Count - 1, Now.Version);
        for (var v = 0; v < versions.Count; v++)
        {
            Assert.Equal(versions[v], stories.At(story, v)!.Pieces);
        }
        var step = stories.Steps(story, 999)[^5];
        Assert.Equal(step.Version, stories.VersionAt(story, step.At.AddSeconds(1)));
        Assert.Equal(step.Version - 1, stories.VersionAt(story, step.At.AddSeconds(-1)));
        Assert.Equal(0, stories.VersionAt(story, step.At.AddYears(-1)));
        Assert.Null(stories.At(story, Now.Version + 1));
        Assert.Null(stories.At(story, -1));
        stories.Name(story, "  before the\nschool goes ", "Ben");
        Assert.Equal((Now.Version, "before the school goes", "Ben"), stories.Named(story).Select(n => (n.Version, n.Name, n.Who)).Single());
        Assert.Throws<EditRefusedException>(() => stories.Name(story, " ", "Ben"));
        Assert.Empty(readings.Rebuild());
    }

    [Fact]
    public void A_copy_is_a_story_of_its_own_whose_cards_keep_their_ids()
    {
        var (one, two) = (Card(0), Card(1));
        stories.Apply(story, new StoryTogether([new LayCard(one, 0), new LayCard(two, 1)]), "Ada");
        var captions = new Captions(new Database(Path.Combine(folder, "ember.sqlite")), clock);
        var typed = new FixedCaption([new CaptionPlace(one.Id, hut, one.Range)], "two words", "Two words.", null, null);
        captions.Change(story, setup => setup.Fix("", [(Guid.NewGuid(), typed)]), "retyped", "Ada");
        var copy = stories.Copy(Now, "First order, copy", "Ben");
        stories.Apply(copy, new MoveCard(one.Id, 1), "Ben");
        Assert.Equal([one, two], Now.Story.Pieces);
        Assert.Equal(
            [Became.Same, Became.Moved],
            StoryCompare.Of(Now.Story, stories.Get(copy, "Ben")!.Story).Select(l => l.Became).Order()
        );
        Assert.Equal(Said(one), stories.ReadingsOf(copy)[one.Id].Said);
        Assert.Equal("copied from “First order”", stories.Steps(copy, 9)[^1].Said);
        Assert.False(stories.Get(copy, "Ada")!.CanUndo);
        // What was made of its captions went along, and each story's are its own from then on.
        Assert.Equal("Two words.", Assert.Single(captions.Of(copy).Of("")).Caption.Text);
        captions.Change(copy, setup => CaptionSetup.LetGo([setup.Of("")[0].Name]), "as made", "Ben");
        Assert.Single(captions.Of(story).Of(""));
        Assert.Empty(captions.Of(copy).Of(""));
    }
}
