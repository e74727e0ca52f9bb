using System.Text.Json;
using CsCheck;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Tests.Stories;

public sealed class StoryEditTests
{
    private static Card New(int n) =>
        new(
            Guid.NewGuid(),
            n,
            1,
            new SittingRange(
                new SittingTime(MediaTime.FromMilliseconds(n * 1000)),
                new SittingTime(MediaTime.FromMilliseconds((n * 1000) + 500))
            ),
            null
        );

    // A random edit that fits the story.
    private static StoryEdit Any(Story story, int kind, int a, int b)
    {
        var count = story.Cards.Count;
        return count == 0 || kind == 0 ? new LayCard(New(a), a % (count + 1))
            : kind == 1 ? new TakeOut(story.Cards[a % count].Id)
            : kind == 2 ? new MoveCard(story.Cards[a % count].Id, b % count)
            : new ShowAngle(story.Cards[a % count].Id, b % 2 == 0 ? null : b);
    }

    [Fact]
    public void Taking_every_change_back_in_turn_gives_each_earlier_story_and_bringing_them_again_each_later_one() =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[0, 99], Gen.Int[0, 99])
            .Array[0, 40]
            .Sample(steps =>
            {
                var stories = new List<Story> { Story.Empty };
                var edits = new List<(StoryEdit Edit, StoryEdit Inverse)>();
                foreach (var (kind, a, b) in steps)
                {
                    var edit = Any(stories[^1], kind, a, b);
                    var (next, inverse) = edit.Apply(stories[^1]);
                    stories.Add(next);
                    edits.Add((edit, inverse));
                }
                var story = stories[^1];
                for (var i = edits.Count - 1; i >= 0; i--)
                {
                    // Through JSON, as the log keeps it.
                    (story, _) = JsonSerializer.Deserialize<StoryEdit>(JsonSerializer.Serialize(edits[i].Inverse))!.Apply(story);
                    Assert.Equal(stories[i].Cards, story.Cards);
                }
                foreach (var (edit, i) in edits.Select((e, i) => (e.Edit, i)))
                {
                    (story, _) = JsonSerializer.Deserialize<StoryEdit>(JsonSerializer.Serialize(edit))!.Apply(story);
                    Assert.Equal(stories[i + 1].Cards, story.Cards);
                }
            });

    [Fact]
    public void An_edit_of_a_card_that_is_not_there_or_to_a_place_that_is_not_is_refused()
    {
        var card = New(1);
        var (story, _) = new LayCard(card, 0).Apply(Story.Empty);
        Assert.Throws<EditRefusedException>(() => new TakeOut(Guid.NewGuid()).Apply(story));
        Assert.Throws<EditRefusedException>(() => new MoveCard(card.Id, 1).Apply(story));
        Assert.Throws<EditRefusedException>(() => new MoveCard(card.Id, -1).Apply(story));
        Assert.Throws<EditRefusedException>(() => new LayCard(New(2), 3).Apply(story));
        Assert.Throws<EditRefusedException>(() => new LayCard(card, 0).Apply(story));
    }

    [Fact]
    public void The_running_time_is_that_of_the_whole_frames_of_each_card()
    {
        var (one, _) = new LayCard(New(1), 0).Apply(Story.Empty);
        var (two, _) = new LayCard(New(2), 1).Apply(one);
        // 500 ms from a whole second are 12.5 frames of 25: 13 frames each.
        Assert.Equal(
            FrameRate.R25.TimeOf(26),
            new StoryCut(two, new Dictionary<long, IReadOnlyList<SittingRange>>()).RunningTime(FrameRate.R25)
        );
    }
}
