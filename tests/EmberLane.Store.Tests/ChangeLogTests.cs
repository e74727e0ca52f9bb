using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>
/// Undo by person, in every room: one's own only, out of order where nobody touched the same, else with the name of who did.
/// </summary>
public sealed class ChangeLogTests : IDisposable
{
    private readonly string folder = Directory.CreateTempSubdirectory("ember-log").FullName;
    private readonly Footage footage;
    private readonly Grouping grouping;
    private readonly Transcripts transcripts;
    private readonly Texts texts;
    private readonly Bites bites;
    private readonly Stories stories;
    private readonly Productions productions;
    private readonly Changes changes;
    private readonly long production,
        hut,
        ferry,
        text,
        story;
    private readonly List<long> kept;

    public ChangeLogTests()
    {
        var database = new Database(Path.Combine(folder, "ember.sqlite"));
        transcripts = new Transcripts(database, TimeProvider.System);
        (footage, grouping, texts) = (
            new Footage(database, TimeProvider.System),
            new Grouping(database, TimeProvider.System),
            new Texts(database, transcripts, TimeProvider.System)
        );
        (bites, stories, productions, changes) = (
            new Bites(database, transcripts, TimeProvider.System),
            new Stories(database, new Transcripts(database, TimeProvider.System), TimeProvider.System),
            new Productions(database, TimeProvider.System),
            new Changes(database)
        );
        production = footage.AddProduction("Slack Water");
        (hut, ferry) = (Sitting("Hut"), Sitting("Ferry"));
        text = transcripts.Add(
            hut,
            "local",
            "en",
            [.. Enumerable.Range(0, 40).Select(i => new RecordWord(new(i), $"w{i}", Range(i, i), new(900), 0))],
            new Dictionary<int, string>()
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

    private long Sitting(string name) =>
        footage.BringIn(production, name, [File(name + ".wav", false), File(name + "-a.mov", true), File(name + "-b.mov", true)])!.Value;

    private static NewSource File(string name, bool picture) =>
        new(
            "/footage/" + name,
            name,
            5,
            "print-" + name,
            new SourceFacts(
                picture ? "mov" : "wav",
                MediaTime.FromMilliseconds(30_000),
                picture ? new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false) : null,
                [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
                StartOfFile.Unknown,
                null,
                null,
                null
            )
        );

    private Source Named(string name) => footage.Sources(production).Single(s => s.Name == name);

    private Guid Lay(int bite, int at, string who)
    {
        var id = Guid.NewGuid();
        stories.Apply(story, new LayCard(new Card(id, kept[bite], hut, Range(bite * 10, (bite * 10) + 5), null), at), who);
        return id;
    }

    private List<Guid> Order => [.. stories.Get(story, "")!.Story.Cards.Select(c => c.Id)];

    private void Undo(string who, bool redo = false) => stories.Step(story, redo, who);

    private static string Refusal(Action change) => Assert.Throws<EditRefusedException>(change).Message;

    [Fact]
    public void In_a_story_each_person_takes_back_their_own_whatever_the_other_did_to_other_cards()
    {
        var (one, two, three) = (Lay(0, 0, "Ada"), Lay(1, 1, "Ben"), Lay(2, 2, "Ada"));
        stories.Apply(story, new MoveCard(two, 0), "Ben");
        Undo("Ada");
        Assert.Equal([two, one], Order);
        Undo("Ada");
        Assert.Equal([two], Order);
        Assert.Equal((false, true), (stories.Get(story, "Ada")!.CanUndo, stories.Get(story, "Ada")!.CanRedo));
        Undo("Ben");
        Assert.Equal([two], Order);
        Undo("Ada", redo: true);
        Undo("Ada", redo: true);
        Assert.Equal(3, Order.Count);
        Assert.Contains(three, Order);
        Undo("Ben", redo: true);
        Assert.Equal(two, Order[0]);
    }

    [Fact]
    public void A_card_that_somebody_else_moved_is_not_taken_away_under_their_hands()
    {
        var one = Lay(0, 0, "Ada");
        Lay(1, 1, "Ben");
        stories.Apply(story, new MoveCard(one, 1), "Ben");
        var before = Order;
        Assert.Contains("changed again later by Ben", Refusal(() => Undo("Ada")), StringComparison.Ordinal);
        Assert.Equal(before, Order);
        Undo("Ben");
        Undo("Ada");
        Assert.Single(Order);
    }

    [Fact]
    public void A_card_does_not_come_back_once_its_bite_is_not_kept_any_more_and_a_bite_in_a_story_stays()
    {
        var bite = bites.Add(Bite.Of(hut, text, new(36), new(38), Range(36, 38), "", "", "Ben"));
        stories.Apply(story, new LayCard(new Card(Guid.NewGuid(), bite, hut, Range(36, 38), null), 0), "Ada");
        Assert.Contains("lies in a story", Refusal(() => bites.Step(production, redo: false, "Ben")), StringComparison.Ordinal);
        Undo("Ada");
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Contains("not kept any more", Refusal(() => Undo("Ada", redo: true)), StringComparison.Ordinal);
        Assert.Empty(Order);
    }

    [Fact]
    public void Title_target_and_counting_are_changes_of_the_story_like_any_other()
    {
        var counting = new TimecodeCount(FrameRate.R2997, true).Parse("01:00:00;00");
        stories.Apply(story, CountStory.Of(counting), "Ada");
        stories.Apply(story, new DescribeStory("  Low\nwater ", MediaTime.FromMilliseconds(90_000)), "Ben");
        stories.PutAway(story, false, "Ben");
        Assert.DoesNotContain(changes.Of(production, 9), l => l.Said == "brought back");
        Assert.Equal(("Low water", counting), (stories.Get(story, "Ada")!.Title, stories.Get(story, "Ada")!.Start));
        Undo("Ada");
        Assert.Equal(("Low water", "01:00:00:00"), (stories.Get(story, "Ada")!.Title, stories.Get(story, "Ada")!.Start.ToString()));
        Undo("Ben");
        Assert.Equal(
            ("First order", 60_000),
            (stories.Get(story, "Ada")!.Title, stories.Get(story, "Ada")!.Target.ToMillisecondsRounded())
        );
        Assert.Throws<EditRefusedException>(() => stories.Apply(story, new DescribeStory(" ", MediaTime.FromMilliseconds(9)), "Ada"));
        Assert.Throws<EditRefusedException>(() => stories.Apply(story, new CountStory(7, 1, false, "01:00:00:00"), "Ada"));
    }

    [Fact]
    public void In_gather_each_person_takes_back_their_own_and_keeps_what_the_other_did_to_the_same_sitting()
    {
        grouping.Rename(production, ferry, "Ferry, morning", "Ada");
        grouping.Move(production, [Named("Ferry.wav").Id], null, null, "Ben");
        Assert.Equal("Ferry renamed Ferry, morning", grouping.Step(production, redo: false, "Ada"));
        Assert.Equal(("Ferry", Named("Ferry-a.mov").Id), (footage.Sitting(ferry)!.Title, footage.Sitting(ferry)!.SoundSourceId));
        grouping.Label(production, [Named("Ferry.wav").Id], l => l with { Camera = "C" }, "Ada");
        Assert.Equal("Ferry.wav taken out", grouping.Step(production, redo: false, "Ben"));
        Assert.Equal("C", Named("Ferry.wav").Labels.Camera);
        Assert.Equal(Named("Ferry.wav").Id, footage.Sitting(ferry)!.SoundSourceId);
    }

    [Fact]
    public void A_file_that_somebody_else_moved_on_is_not_moved_back()
    {
        grouping.Move(production, [Named("Ferry-a.mov").Id], hut, null, "Ada");
        grouping.Move(production, [Named("Ferry-a.mov").Id], null, null, "Ben");
        Assert.Contains(
            "changed again later by Ben",
            Refusal(() => grouping.Step(production, redo: false, "Ada")),
            StringComparison.Ordinal
        );
        Assert.Null(Named("Ferry-a.mov").SittingId);
    }

    [Fact]
    public void A_sitting_is_not_taken_away_under_a_file_that_somebody_else_put_into_it()
    {
        var made = grouping.Move(production, [Named("Ferry-a.mov").Id], null, "Alone", "Ada")!.Value;
        grouping.Move(production, [Named("Ferry-b.mov").Id], made, null, "Ben");
        Assert.Contains("which is gone by now", Refusal(() => grouping.Step(production, redo: false, "Ada")), StringComparison.Ordinal);
        Assert.Equal(made, Named("Ferry-b.mov").SittingId);
        Assert.NotNull(footage.Sitting(made));
    }

    [Fact]
    public void A_file_does_not_go_back_into_a_sitting_that_somebody_else_merged_away()
    {
        grouping.Move(production, [Named("Ferry-a.mov").Id], hut, null, "Ada");
        grouping.Merge(production, ferry, hut, "Ben");
        Assert.Contains("gone by now", Refusal(() => grouping.Step(production, redo: false, "Ada")), StringComparison.Ordinal);
        Assert.Equal(hut, Named("Ferry-a.mov").SittingId);
    }

    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public void Whatever_two_people_move_and_take_back_every_file_lies_where_it_is_seen_and_every_sitting_has_its_sound(int seed)
    {
        var random = new Random(seed);
        for (var i = 0; i < 150; i++)
        {
            var who = random.Next(2) == 0 ? "Ada" : "Ben";
            var sources = footage.Sources(production);
            var sittings = footage.Sittings(production);
            var some = Enumerable.Range(0, random.Next(1, 3)).Select(_ => sources[random.Next(sources.Count)].Id).Distinct().ToList();
            try
            {
                switch (random.Next(7))
                {
                    case 0:
                        grouping.Move(production, some, null, FormattableString.Invariant($"New {i}"), who);
                        break;
                    case 1:
                        grouping.Move(production, some, null, null, who);
                        break;
                    case 2:
                        grouping.Move(production, some, sittings[random.Next(sittings.Count)].Id, null, who);
                        break;
                    case 3 when sittings.Count > 2:
                        grouping.Merge(production, sittings[^1].Id, sittings[0].Id, who);
                        break;
                    case 4:
                        grouping.Rename(
                            production,
                            sittings[random.Next(sittings.Count)].Id,
                            FormattableString.Invariant($"Title {i}"),
                            who
                        );
                        break;
                    default:
                        grouping.Step(production, random.Next(3) == 0, who);
                        break;
                }
            }
            catch (EditRefusedException)
            {
                // What does not fit any more is refused, and nothing is changed.
            }
            sittings = footage.Sittings(production);
            Assert.All(
                footage.Sources(production),
                s => Assert.True(s.SittingId is null || sittings.Any(g => g.Id == s.SittingId), $"{s.Name} is lost after step {i}")
            );
            Assert.All(sittings, g => Assert.Contains(footage.SourcesOf(g.Id), s => s.Id == g.SoundSourceId));
        }
    }

    [Fact]
    public void Places_set_by_hand_are_taken_back_by_who_set_them_and_not_over_a_later_one()
    {
        long one = Named("Hut-a.mov").Id,
            two = Named("Hut-b.mov").Id;
        footage.PlaceByHand(one, p => PlaceSource.Moved(p, new SittingTime(MediaTime.FromMilliseconds(40))), "Ada");
        footage.PlaceByHand(two, p => PlaceSource.Moved(p, new SittingTime(MediaTime.FromMilliseconds(80))), "Ben");
        Assert.Equal(one, footage.StepPlacing(hut, redo: false, "Ada"));
        Assert.NotNull(footage.Source(two)!.Place);
        footage.StepPlacing(hut, redo: true, "Ada");
        footage.PlaceByHand(one, PlaceSource.Accepted, "Ben");
        Assert.Contains("by Ben", Refusal(() => footage.StepPlacing(hut, redo: false, "Ada")), StringComparison.Ordinal);
        footage.StepPlacing(hut, redo: false, "Ben");
        footage.PlaceByHand(one, p => p with { ByHand = false }, "Ada");
        footage.Place(one, Placement.BySound(default(ClockMap), "same sound"));
        Assert.Contains("by sync", Refusal(() => footage.StepPlacing(hut, redo: false, "Ada")), StringComparison.Ordinal);
    }

    [Fact]
    public void Two_people_describe_a_bite_and_each_takes_back_their_own_words()
    {
        bites.Describe(kept[0], "rope", "", "Ada");
        bites.Describe(kept[0], "rope", "the best", "Ben");
        Assert.True(bites.Step(production, redo: false, "Ada"));
        Assert.Equal(("", "the best"), (bites.Get(kept[0])!.Theme, bites.Get(kept[0])!.Note));
        bites.Describe(kept[0], "ferry", "the best", "Ada");
        bites.Describe(kept[0], "school", "the best", "Ben");
        Assert.Contains("by Ben", Refusal(() => bites.Step(production, redo: false, "Ada")), StringComparison.Ordinal);
        Assert.Equal("school", bites.Get(kept[0])!.Theme);
    }

    [Fact]
    public void The_choice_of_a_text_is_taken_back_by_who_chose_it()
    {
        var beside = transcripts.AddBeside(
            hut,
            "text:hut.docx",
            "en",
            [new RecordWord(new(0), "rope", Range(0, 0), null, 0)],
            new Dictionary<int, string>()
        );
        texts.Choose(hut, beside, "Ada");
        Assert.False(texts.Step(hut, redo: false, "Ben"));
        texts.Choose(hut, null, "Ben");
        Assert.Contains("by Ben", Refusal(() => texts.Step(hut, redo: false, "Ada")), StringComparison.Ordinal);
        Assert.True(texts.Step(hut, redo: false, "Ben"));
        Assert.True(texts.Step(hut, redo: false, "Ada"));
        Assert.Equal(text, footage.Sitting(hut)!.TranscriptId);
    }

    [Fact]
    public void Everything_stands_in_one_list_and_any_change_can_be_taken_back_alone_by_anybody()
    {
        productions.Rename(production, "High Water", "Ada");
        productions.Choose(production, "Ben", "transcribed on arrival", ("arrival.transcribe", "yes"));
        transcripts.Apply(text, new Retype(new(3), "rope"), "Ada");
        transcripts.Apply(text, new Retype(new(4), "line"), "Ben");
        grouping.Rename(production, ferry, "Ferry, morning", "Ada");
        Lay(0, 0, "Ben");
        bites.SetAside(kept[1], true, "Ada");
        var listed = changes.Of(production, 100);
        Assert.Equal(
            [
                ChangedThing.Bite,
                ChangedThing.Story,
                ChangedThing.Gather,
                ChangedThing.Words,
                ChangedThing.Words,
                ChangedThing.Production,
                ChangedThing.Production,
                ChangedThing.StoryItself,
            ],
            listed.Take(8).Select(l => l.Thing)
        );
        Assert.Equal(
            [
                "set aside: “w10 w11 w12 w13 w14 w15”",
                "laid as card 1: “w0 w1 w2 rope line w5”",
                "Ferry renamed Ferry, morning",
                "“w4” is “line”",
                "“w3” is “rope”",
                "transcribed on arrival",
                "named “High Water”",
                "begun",
            ],
            listed.Take(8).Select(l => l.Said)
        );
        Assert.Equal(("Hut", hut), (listed[3].Title, listed[3].SittingId));
        Assert.Equal(["Ada", "Ben", "Ember Lane"], changes.People(production));
        Assert.Equal(listed.Skip(2).Where(l => l.Who == "Ada").Take(2), changes.Of(production, 2, listed[1].Id, "Ada"));
        Assert.All(changes.Of(production, 9, thing: ChangedThing.Words), l => Assert.Equal(ChangedThing.Words, l.Thing));
        transcripts.TakeBack(text, listed[4].Id, "Ben");
        productions.TakeBack(production, listed[6].Id, "Ben");
        grouping.TakeBack(production, listed[2].Id, "Ben");
        bites.TakeBack(production, listed[0].Id, "Ben");
        stories.TakeBack(story, listed[1].Id, "Ada");
        stories.TakeBack(story, listed[7].Id, "Ada");
        Assert.Equal(("w3", "line"), (transcripts.Get(text).Said(new(3), new(3)), transcripts.Get(text).Said(new(4), new(4))));
        Assert.Equal(
            ("Slack Water", "yes", "Ferry", false),
            (
                footage.Production(production)!.Name,
                productions.Setting(production, "arrival.transcribe"),
                footage.Sitting(ferry)!.Title,
                bites.Get(kept[1])!.IsAside
            )
        );
        Assert.True(stories.Get(story, "")!.Story is { Cards.Count: 0, IsAway: true });
        Assert.Contains("not in force", Refusal(() => productions.TakeBack(production, listed[6].Id, "Ada")), StringComparison.Ordinal);
        Assert.Equal(6, changes.Of(production, 100).Count(l => !l.InForce));
    }

    [Fact]
    public void A_theme_in_two_cases_is_one_for_everybody()
    {
        transcripts.Apply(text, new NameVoice(0, "Maren"), "Ada");
        bites.Describe(kept[0], "School", "", "Ada");
        bites.Describe(kept[1], "school, hut", "", "Ben");
        Assert.Equal(["School", "hut", ""], bites.Themes(production));
        Assert.Equal(["School", "hut", ""], bites.Shares(production).Select(s => s.Theme));
    }

    [Fact]
    public void Many_bites_are_changed_at_once_and_taken_back_at_once()
    {
        bites.Change([kept[0], kept[1]], (_, b) => b with { Grade = 3, Theme = "hut, rope" }, "Ben");
        bites.Change([kept[1], kept[2]], (_, b) => b with { Theme = BiteThemes.With(b.Theme, "ferry") }, "Ben");
        Assert.Equal(["hut, rope", "hut, rope, ferry", "ferry", ""], bites.Of(production).Select(b => b.Theme));
        Assert.Equal(["hut", "rope", "ferry", ""], bites.Themes(production));
        Assert.Contains("and 1 more bite", changes.Of(production, 1)[0].Said, StringComparison.Ordinal);
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Equal(["hut, rope", "hut, rope", "", ""], bites.Of(production).Select(b => b.Theme));
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Equal([0, 0, 0, 0], bites.Of(production).Select(b => b.Grade));
        Assert.True(bites.Step(production, redo: true, "Ben"));
        Assert.Equal([3, 3, 0, 0], bites.Of(production).Select(b => b.Grade));
        // One that does not fit: none is changed.
        Refusal(() => bites.Change([kept[2], kept[3]], (id, b) => b with { Grade = id == kept[3] ? 9 : 1 }, "Ben"));
        Refusal(() => bites.Change([kept[2], 999], (_, b) => b with { Grade = 1 }, "Ben"));
        Assert.Equal([3, 3, 0, 0], bites.Of(production).Select(b => b.Grade));
    }

    [Fact]
    public void Merging_and_splitting_are_one_change_each_and_none_that_lies_in_a_story_goes()
    {
        var said = new Readings(new Database(Path.Combine(folder, "ember.sqlite")), transcripts);
        stories.Apply(story, 0, new LayCard(new Card(Guid.NewGuid(), kept[1], hut, Range(10, 15), null), 0), "Ada");
        Assert.Equal(kept[1], bites.Merge([kept[0], kept[1]], "Ben"));
        var merged = bites.Get(kept[1])!;
        Assert.Equal((new WordNumber(0), new WordNumber(15), Range(0, 15)), (merged.FirstWord, merged.LastWord, merged.Range));
        Assert.StartsWith("w0 w1 ", said.Of(kept[1])!.Said, StringComparison.Ordinal);
        Assert.Null(bites.Get(kept[0]));
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Equal(4, bites.Of(production).Count);
        Assert.StartsWith("w10 ", said.Of(kept[1])!.Said, StringComparison.Ordinal);
        stories.Apply(story, 1, new LayCard(new Card(Guid.NewGuid(), kept[0], hut, Range(0, 5), null), 0), "Ada");
        Assert.Contains("lies in a story", Refusal(() => bites.Merge([kept[0], kept[1]], "Ben")), StringComparison.Ordinal);
        var second = bites.Split(kept[2], new WordNumber(23), "Ben");
        Assert.Equal((Range(20, 22), Range(23, 25)), (bites.Get(kept[2])!.Range, bites.Get(second)!.Range));
        Assert.Equal(("w20 w21 w22", "w23 w24 w25"), (said.Of(kept[2])!.Said, said.Of(second)!.Said));
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Equal((Range(20, 25), null), (bites.Get(kept[2])!.Range, bites.Get(second)));
        Refusal(() => bites.Split(kept[2], new WordNumber(20), "Ben"));
        Assert.Equal(4, bites.Of(production).Count);
    }

    [Fact]
    public void A_moved_end_is_kept_with_what_the_bite_says_and_taken_back()
    {
        var said = new Readings(new Database(Path.Combine(folder, "ember.sqlite")), transcripts);
        var place = BiteEnds.ByWords(bites.Get(kept[0])!, text, transcripts.Get(text), BiteEnd.Stop, 2);
        bites.Change([kept[0]], (_, b) => b with { Place = place }, "Ben");
        Assert.Equal(Range(0, 7), bites.Get(kept[0])!.Range);
        Assert.EndsWith("w6 w7", said.Of(kept[0])!.Said, StringComparison.Ordinal);
        bites.Describe(kept[0], "hut", "", "Ada");
        Assert.True(bites.Step(production, redo: false, "Ben"));
        Assert.Equal((Range(0, 5), "hut"), (bites.Get(kept[0])!.Range, bites.Get(kept[0])!.Theme));
        Assert.Empty(said.Rebuild());
    }

    [Fact]
    public void Taking_a_change_back_alone_is_itself_taken_back_and_both_stand_as_before()
    {
        transcripts.Apply(text, new Retype(new(3), "rope"), "Ada");
        var change = changes.Of(production, 1)[0];
        transcripts.TakeBack(text, change.Id, "Ben");
        Assert.False(changes.Get(production, change.Id)!.InForce);
        Assert.Null(transcripts.Step(text, redo: false, "Ada"));
        Assert.NotNull(transcripts.Step(text, redo: false, "Ben"));
        Assert.Equal("rope", transcripts.Get(text).Said(new(3), new(3)));
        Assert.True(changes.Get(production, change.Id)!.InForce);
        Assert.NotNull(transcripts.Step(text, redo: false, "Ada"));
        Assert.Equal("w3", transcripts.Get(text).Said(new(3), new(3)));
    }
}
