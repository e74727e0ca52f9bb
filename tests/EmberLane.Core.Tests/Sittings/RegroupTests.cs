using EmberLane.Core.Sittings;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sittings;

public sealed class RegroupTests
{
    private static Placement At(long milliseconds, long drift = 0, bool byHand = false) =>
        new(new ClockMap(new SittingTime(MediaTime.FromMilliseconds(milliseconds)), drift), PlaceBasis.Sound, "same sound", byHand);

    [Fact]
    public void While_the_reference_stays_nothing_moves()
    {
        Grouped[] sources = [new(1, At(0), false, true), new(2, At(3000), true, true)];
        Assert.Equal((sources, 1L), Regroup.Settle(sources, 1));
    }

    [Fact]
    public void Without_the_reference_the_others_keep_how_they_lie_to_each_other()
    {
        var (sources, reference) = Regroup.Settle(
            [new(2, At(3000), true, true), new(3, At(5500, byHand: true), true, true), new(4, Placement.Nowhere(), true, true)],
            1
        );
        Assert.Equal(2, reference);
        Assert.Equal(Placement.Reference, sources[0].Placement);
        Assert.Equal(2500, sources[1].Placement.Place!.Value.Start.FromZero.ToMillisecondsRounded());
        Assert.True(sources[1].Placement.ByHand);
        Assert.Null(sources[2].Placement.Place);
    }

    [Fact]
    public void A_new_reference_that_lay_nowhere_takes_the_others_off_the_clock()
    {
        var (sources, reference) = Regroup.Settle([new(2, At(3000), true, true), new(5, Placement.Nowhere(), false, true)], 1);
        Assert.Equal(5, reference);
        Assert.Null(sources[0].Placement.Place);
        Assert.Equal(0, sources[1].Placement.Place!.Value.DriftPerBillion);
    }

    [Fact]
    public void A_recorder_goes_before_a_camera_with_sound_and_that_before_one_without()
    {
        Assert.Equal(3, Regroup.ReferenceOf([new(1, At(0), true, false), new(2, At(0), true, true), new(3, At(0), false, true)])!.Id);
        Assert.Equal(2, Regroup.ReferenceOf([new(1, At(0), true, false), new(2, At(0), true, true)])!.Id);
        Assert.Equal(1, Regroup.ReferenceOf([new(1, At(0), true, false)])!.Id);
        Assert.Equal(([], null), Regroup.Settle([], 1));
    }

    // Any moment of a source, seen by way of the old clock or directly on the new one, is the same moment.
    [Fact]
    public void A_place_on_another_clock_says_the_same_of_every_moment()
    {
        var random = new Random(11);
        for (var n = 0; n < 500; n++)
        {
            ClockMap reference = Any(random),
                source = Any(random);
            var on = source.On(reference);
            foreach (var seconds in new[] { 0, 1, 3_600 })
            {
                var at = new SourceTime(MediaTime.FromMilliseconds(seconds * 1000L));
                var apart = on.ToSitting(at).FromZero - reference.ToSource(source.ToSitting(at)).FromZero;
                Assert.InRange(apart.Units, -8_000, 8_000);
            }
        }
        var same = Any(random);
        Assert.Equal(new ClockMap(default, 0), same.On(same));
    }

    private static ClockMap Any(Random random) =>
        new(new SittingTime(MediaTime.FromMilliseconds(random.Next(-7_200_000, 7_200_000))), random.Next(-100_000, 100_000));
}
