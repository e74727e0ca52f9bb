using EmberLane.Core.Cameras;
using static EmberLane.Core.Tests.Cameras.MadeSittings;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>Open mics follow the speakers, and one is always open.</summary>
public sealed class MicPlanTests
{
    [Fact]
    public void Each_mic_opens_before_its_voice_and_closes_behind_it_and_the_last_one_stays_open_in_a_silence()
    {
        var open = MicPlan.Of(
            [new PlanTurn("A", Range(2_000, 4_000)), new PlanTurn("A", Range(5_000, 6_000)), new PlanTurn("B", Range(10_000, 12_000))],
            Ms(20_000),
            CameraRules.Even
        );
        Assert.Equal([new OpenMic("A", Range(0, 9_700)), new OpenMic("B", Range(9_700, 20_000))], open);
    }

    [Fact]
    public void Two_who_talk_at_once_keep_both_mics()
    {
        var open = MicPlan.Of([new PlanTurn("A", Range(0, 8_000)), new PlanTurn("B", Range(3_000, 5_000))], Ms(10_000), CameraRules.Even);
        Assert.Equal([new OpenMic("A", Range(0, 10_000)), new OpenMic("B", Range(2_700, 5_400))], open);
    }

    [Fact]
    public void Every_turn_is_heard_by_its_own_mic_and_there_is_no_moment_without_one()
    {
        var random = new Random(173);
        for (var n = 0; n < 100; n++)
        {
            var problem = Talk(random, random.Next(20, 600), 3);
            var open = MicPlan.Of(problem.Speech, problem.Length, problem.Rules);
            Assert.All(
                problem.Speech,
                t => Assert.Contains(open, m => m.Who == t.Who && m.Range.In <= t.Range.In && m.Range.Out >= t.Range.Out)
            );
            Assert.Equal([new PlanRange(MediaTime.Zero, problem.Length)], PlanRange.Joined(open.Select(m => m.Range)));
        }
        Assert.Empty(MicPlan.Of([], Ms(1_000), CameraRules.Even));
    }
}
