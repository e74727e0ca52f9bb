using EmberLane.Core.Cameras;
using static EmberLane.Core.Tests.Cameras.MadeSittings;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>The angles of a whole story.</summary>
public sealed class StoryCamerasTests
{
    private const long Hut = 1,
        Ferry = 2;

    // A talk of a minute; the wide view is 10, the others 11 and 12; the ferry has one angle, 20.
    private static Dictionary<long, StorySitting> Sittings(params (long, PlanRange)[] locks) =>
        new()
        {
            [Hut] = new StorySitting(
                [
                    new StoryAngle(10, ["A", "B"], [Range(0, 60_000)]),
                    new StoryAngle(11, ["A"], [Range(0, 60_000)]),
                    new StoryAngle(12, ["B"], [Range(0, 40_000)]),
                ],
                [new PlanTurn("A", Range(0, 20_000)), new PlanTurn("B", Range(20_000, 40_000)), new PlanTurn("A", Range(40_000, 60_000))],
                [],
                locks
            ),
            [Ferry] = new StorySitting([new StoryAngle(20, ["C"], [Range(0, 60_000)])], [new PlanTurn("C", Range(0, 60_000))], [], []),
        };

    private static readonly CameraRules Rules = CameraRules.Even with { WideEvery = MediaTime.Zero, Closer = new(300) };

    private static StoryPart Part(long? sitting, long from, long to, long? angle = null) =>
        new(Guid.NewGuid(), sitting, Range(from, to), angle);

    [Fact]
    public void Each_piece_shows_who_speaks_in_it_and_no_angle_cuts_to_itself_at_a_seam()
    {
        StoryPart[] parts = [Part(Hut, 1_000, 9_000), Part(Hut, 12_000, 19_000), Part(Hut, 22_000, 30_000), Part(Ferry, 5_000, 15_000)];
        var shots = StoryCameras.Plan(parts, Sittings(), Rules);
        Assert.Equal([(12, Range(22_000, 30_000))], shots[parts[2].Piece].Select(s => ((int)s.Angle, s.Range)));
        Assert.Equal([(20, Range(5_000, 15_000))], shots[parts[3].Piece].Select(s => ((int)s.Angle, s.Range)));
        Assert.NotEqual(shots[parts[0].Piece][^1].Angle, shots[parts[1].Piece][0].Angle);
    }

    [Fact]
    public void A_camera_that_turns_is_shown_for_whom_it_shows_by_then()
    {
        var sittings = Sittings();
        sittings[Hut] = sittings[Hut] with
        {
            Angles =
            [
                new StoryAngle(10, ["A", "B"], [Range(0, 60_000)]),
                new StoryAngle(11, ["A"], [Range(0, 60_000)])
                {
                    Changes = [new CoveredAt(Range(15_000, 42_000), ["B"]), new CoveredAt(Range(42_000, 60_000), [])],
                },
            ],
        };
        StoryPart[] parts = [Part(Hut, 2_000, 10_000), Part(null, 0, 5_000), Part(Hut, 21_000, 38_000), Part(Hut, 45_000, 55_000)];
        var shots = StoryCameras.Plan(parts, sittings, Rules);
        Assert.Equal([11L], shots[parts[0].Piece].Select(s => s.Angle));
        Assert.Equal([11L], shots[parts[2].Piece].Select(s => s.Angle));
        Assert.Equal([10L], shots[parts[3].Piece].Select(s => s.Angle));
    }

    [Fact]
    public void What_was_chosen_for_a_card_goes_before_what_was_chosen_in_its_sitting_and_that_before_the_plan()
    {
        StoryPart[] parts = [Part(Hut, 1_000, 9_000), Part(Hut, 22_000, 30_000, 11)];
        var shots = StoryCameras.Plan(parts, Sittings((12, Range(0, 60_000))), Rules);
        Assert.Equal([(12, Range(1_000, 9_000))], shots[parts[0].Piece].Select(s => ((int)s.Angle, s.Range)));
        Assert.Equal([(11, Range(22_000, 30_000))], shots[parts[1].Piece].Select(s => ((int)s.Angle, s.Range)));
    }

    [Fact]
    public void An_angle_that_covers_nobody_in_its_sitting_is_left_out_there_though_another_of_its_place_is_shown_elsewhere()
    {
        var sittings = Sittings();
        sittings[Ferry] = sittings[Ferry] with { Angles = [sittings[Ferry].Angles[0], new StoryAngle(21, [], [Range(0, 60_000)])] };
        StoryPart[] parts = [Part(Hut, 1_000, 9_000), Part(Ferry, 0, 60_000)];
        var shots = StoryCameras.Plan(parts, sittings, Rules with { Longest = Ms(10_000) });
        Assert.All(shots[parts[1].Piece], s => Assert.Equal(20, s.Angle));
        sittings[Ferry] = sittings[Ferry] with { Locks = [(21, Range(20_000, 24_000))] };
        shots = StoryCameras.Plan(parts, sittings, Rules);
        Assert.Contains(shots[parts[1].Piece], s => s.Angle == 21 && s.Range == Range(20_000, 24_000));
    }

    [Fact]
    public void Shots_fill_their_pieces_whatever_lies_between_and_where_nothing_rolls_there_is_none()
    {
        var random = new Random(175);
        for (var n = 0; n < 100; n++)
        {
            var parts = Enumerable
                .Range(0, random.Next(1, 9))
                .Select(_ =>
                {
                    var from = random.Next(0, 50_000);
                    return Part(new long?[] { Hut, Ferry, null }[random.Next(3)], from, from + random.Next(40, 9_000));
                })
                .ToList();
            var shots = StoryCameras.Plan(parts, Sittings(), Rules);
            foreach (var part in parts)
            {
                Assert.Equal(part.Sitting is null, !shots.ContainsKey(part.Piece));
                if (shots.TryGetValue(part.Piece, out var own))
                {
                    Assert.Equal([part.Range], PlanRange.Joined(own.Select(s => s.Range)));
                    Assert.Equal(part.Range.Length, own.Aggregate(MediaTime.Zero, (sum, s) => sum + s.Range.Length));
                }
            }
        }
        Assert.Empty(StoryCameras.Plan([], Sittings(), Rules));
    }
}
