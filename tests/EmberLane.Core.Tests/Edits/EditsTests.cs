using System.Collections.Immutable;
using CsCheck;
using EmberLane.Core.Bites;
using EmberLane.Core.Edits;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Productions;
using EmberLane.Core.Sittings;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Edits;

/// <summary>Every edit gives what takes it back, and two that name nothing in common can be taken back in any order.</summary>
public sealed class EditsTests
{
    private static readonly Guid[] Ids = [.. Enumerable.Range(1, 8).Select(i => new Guid(i, 0, 0, [0, 0, 0, 0, 0, 0, 0, 0]))];

    private static Card Card(int i) =>
        new(Ids[i], i, 1, new SittingRange(default, new SittingTime(MediaTime.FromMilliseconds(1000 + i))), null)
        {
            OtherTakes = "90 91 92",
            SpaceBefore = i % 2 == 0 ? "nobody says this" : "",
        };

    private static Story Five =>
        Story.Empty with
        {
            Pieces = [.. Enumerable.Range(0, 4).Select(Card), new SectionHead(Ids[4], "The school", MediaTime.Zero, false)],
            Title = "First order",
            Target = MediaTime.FromMilliseconds(60_000),
        };

    private static SourceRange Media(int seconds) => new(default, new SourceTime(MediaTime.FromMilliseconds(1000L * seconds)));

    private static readonly Gen<StoryEdit> StoryEdits = Gen.Select(Gen.Int[0, 15], Gen.Int[0, 7], Gen.Int[0, 6])
        .Select(
            (kind, card, place) =>
                kind switch
                {
                    0 => new LayCard(Card(card), place),
                    1 => new TakeOut(Ids[card]),
                    2 => new MoveCard(Ids[card], place),
                    3 => new ShowAngle(Ids[card], place),
                    4 => new DescribeStory($"Title {card}", MediaTime.FromMilliseconds(1 + place)),
                    5 => CountStory.Of(new Timecode(TimecodeCount.Supported[card], 1, 0, 0, 0)),
                    6 => new FillSpace(Ids[card], place % 2 == 0 ? "" : "a line", $"{place}"),
                    7 => new ShowTake(Ids[card], 90 + (place % 3), 1 + (place % 2), Card(place).Range),
                    8 => new StoryTogether([new MoveCard(Ids[card], place), new TakeOut(Ids[card]), new LayCard(Card(card), 0)]),
                    9 => new LayPiece(new Space(Ids[card], MediaTime.FromMilliseconds(1000 + place), "the drum"), place),
                    10 => new ChangePiece(new SectionHead(Ids[card], $"Part {place}", MediaTime.Zero, place % 2 == 0)),
                    11 => new StretchCard(Ids[card], Card(place).Range, place % 2 == 0 ? Card(0).Range : null),
                    12 => new PutBeside(Ids[card], place % 2 == 0 ? "" : "93 94"),
                    13 => new LayOver(Ids[card], place % 2 == 0 ? null : new OverPicture(9, Media(place), default)),
                    14 => new LayPiece(new SectionHead(Ids[card], $"Part {place}", MediaTime.Zero, false), place),
                    _ => (StoryEdit)new PutStoryAway(card % 2 == 0),
                }
        );

    private static (Story Story, StoryEdit Inverse)? Try(Story story, StoryEdit edit)
    {
        try
        {
            return edit.Apply(story);
        }
        catch (EditRefusedException)
        {
            return null;
        }
    }

    private static bool Same(Story one, Story other) =>
        one.Pieces.SequenceEqual(other.Pieces) && one with { Pieces = other.Pieces } == other;

    [Fact]
    public void A_storys_edit_is_taken_back_by_its_inverse() =>
        StoryEdits.Sample(edit => Try(Five, edit) is not { } made || Same(made.Inverse.Apply(made.Story).Story, Five));

    [Fact]
    public void Two_edits_of_a_story_that_touch_nothing_in_common_keep_each_other_when_one_is_taken_back() =>
        Gen.Select(StoryEdits, StoryEdits)
            .Sample(
                (first, second) =>
                {
                    if (
                        Try(Five, first) is not { } one
                        || Try(one.Story, second) is not { } two
                        || StoryEdit.Touches(first, one.Inverse).Intersect(StoryEdit.Touches(second, two.Inverse)).Any()
                    )
                    {
                        return true;
                    }
                    var (left, _) = one.Inverse.Within(two.Story).Apply(two.Story);
                    // What the second did alone, in whatever order the cards came.
                    return Try(Five, second.Within(Five)) is not { } alone
                        || (
                            left.Pieces.ToHashSet().SetEquals(alone.Story.Pieces)
                            && left with { Pieces = alone.Story.Pieces } == alone.Story
                        );
                }
            );

    [Fact]
    public void A_bites_change_against_a_later_one_means_only_what_differed()
    {
        var before = new BiteState("", "note", false, false);
        var (named, inverse) = BiteEdit.Of(7, before with { Theme = "rope" }).Apply(before);
        var now = named with { Note = "another", Aside = true };
        var back = inverse.Against(BiteEdit.Of(7, named), now);
        Assert.Equal(now with { Theme = "" }, back.Apply(now).State);
        Assert.Equal(["theme 7"], BiteEdit.Touches(BiteEdit.Of(7, named), inverse));
        Assert.Equal(
            ["theme 7", "note 7", "aside 7", "grade 7", "kind 7", "place 7"],
            BiteEdit.Touches(BiteEdit.Of(7, now with { Gone = true }), BiteEdit.Of(7, now))
        );
        Assert.Throws<EditRefusedException>(() => BiteEdit.Of(7, now with { Theme = new string('x', 61) }).Apply(now));
    }

    [Fact]
    public void A_productions_choices_come_and_go_one_by_one()
    {
        var begun = new ProductionState("Slack Water", false, ImmutableSortedDictionary<string, string>.Empty);
        var (chosen, nothing) = ProductionEdit.Choose([("language", "en"), ("recogniser", "local")]).Apply(begun);
        var (renamed, old) = ProductionEdit.Rename(" High\nWater ").Apply(chosen);
        Assert.Equal("High Water", renamed.Name);
        var (back, _) = nothing.Apply(renamed);
        Assert.Empty(back.Choices);
        Assert.Equal("High Water", back.Name);
        Assert.Equal("Slack Water", old.Apply(back).State.Name);
        Assert.Throws<EditRefusedException>(() => ProductionEdit.Rename("  ").Apply(begun));
        Assert.Empty(
            ProductionEdit
                .Touches(ProductionEdit.Rename("x"), old)
                .Intersect(ProductionEdit.Touches(ProductionEdit.PutAway(true), ProductionEdit.PutAway(false)))
        );
    }

    private static GatherState Gathered()
    {
        GatheredSource Source(long id, long? sitting, bool picture, long? at) =>
            new(
                id,
                $"file {id}",
                sitting,
                at is { } ms
                    ? Placement.BySound(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(ms)), 0), "same sound")
                    : Placement.Nowhere(),
                Labels.None,
                picture,
                2
            );
        return GatherState.Of(
            [new GatheredSitting(1, "Hut", 1, false), new GatheredSitting(2, "Ferry", 4, false), new GatheredSitting(3, "New", null, true)],
            [
                Source(1, 1, false, 0),
                Source(2, 1, true, 100),
                Source(3, 1, true, 200),
                Source(4, 2, false, 0),
                Source(5, 2, true, 50),
                Source(6, null, true, null),
            ]
        );
    }

    private static bool Same(GatherState one, GatherState other) =>
        one.Sittings.SequenceEqual(other.Sittings) && one.Sources.SequenceEqual(other.Sources);

    [Fact]
    public void Whatever_files_move_where_the_inverse_brings_all_of_it_back() =>
        Gen.Select(Gen.Int[1, 6].Array[1, 4], Gen.Int[0, 3])
            .Sample(
                (files, goal) =>
                {
                    var before = Gathered();
                    if (
                        Grouping.Move(
                            before,
                            [.. files.Distinct().Select(f => (long)f)],
                            goal is 1 or 2 ? goal : null,
                            goal == 3 ? 3 : null
                        )
                        is not { } edit
                    )
                    {
                        return true;
                    }
                    var (after, inverse) = edit.Apply(before);
                    // Each sitting that is there has files, and its sound is one of them.
                    return Same(inverse.Apply(after).State, before)
                        && after.Sittings.Values.All(s => s.Gone ? after.In(s.Id).Count == 0 : after.In(s.Id).Any(x => x.Id == s.Sound));
                }
            );

    [Fact]
    public void Files_that_leave_together_keep_how_they_lie_and_those_that_come_elsewhere_lie_nowhere_yet()
    {
        var (parted, _) = Grouping.Move(Gathered(), [2, 3], null, 3)!.Apply(Gathered());
        Assert.Equal([0L, 100L], parted.In(3).Select(s => s.Placement.Place!.Value.Start.FromZero.ToMillisecondsRounded()));
        Assert.Equal((2, false), (parted.Sittings[3].Sound, parted.Sittings[3].Gone));
        var (joined, _) = Grouping.Move(Gathered(), [2], 2, null)!.Apply(Gathered());
        Assert.Null(joined.Sources[2].Placement.Place);
        Assert.Null(Grouping.Move(Gathered(), [4, 5], 2, null));
        Assert.Equal("2 files taken out", Grouping.Move(Gathered(), [1, 2], null, null)!.What);
    }

    [Fact]
    public void The_sound_that_texts_go_by_can_not_leave_and_a_sitting_with_texts_can_not_go()
    {
        var read = Gathered() with { Sittings = Gathered().Sittings.SetItem(1, new GatheredSitting(1, "Hut", 1, false, HasTexts: true)) };
        Assert.Contains(
            "go by the sound of file 1",
            Assert.Throws<EditRefusedException>(() => Grouping.Move(read, [1], 2, null)).Message,
            StringComparison.Ordinal
        );
        Assert.NotNull(Grouping.Move(read, [2], 2, null));
        var silent = read with { Sittings = read.Sittings.SetItem(1, read.Sittings[1] with { Sound = null }) };
        Assert.Contains(
            "so it stays",
            Assert.Throws<EditRefusedException>(() => Grouping.Move(silent, [1, 2, 3], 2, null)).Message,
            StringComparison.Ordinal
        );
        var gone = GatherEdit.Nothing("x") with { Sittings = [new SittingRow(1, "Hut", null, true)] };
        Assert.Contains(
            "was transcribed since",
            Assert.Throws<EditRefusedException>(() => gone.Apply(read)).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_mic_has_its_channel_and_labels_are_written_on_all_or_none()
    {
        var source = Gathered().Sources[1];
        Assert.Contains(
            "has no channel 3",
            Assert.Throws<EditRefusedException>(() => Grouping.SetMic(source, 2, MicChoice.None, m => m)).Message,
            StringComparison.Ordinal
        );
        var edit = Grouping.SetMic(source, 1, MicChoice.None, m => m with { Person = "Ilse" });
        var (after, inverse) = edit.Apply(Gathered());
        Assert.Equal("Ilse", after.Mics[(1, 1)].Person);
        Assert.Equal(MicChoice.None, inverse.Apply(after).State.Mics[(1, 1)]);
        Assert.Equal(["mic 1/1"], GatherEdit.Touches(edit, inverse));
    }
}
