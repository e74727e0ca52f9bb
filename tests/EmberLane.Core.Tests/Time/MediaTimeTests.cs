using CsCheck;

namespace EmberLane.Core.Tests.Time;

public sealed class MediaTimeTests
{
    [Theory]
    [InlineData(16_000)]
    [InlineData(44_100)]
    [InlineData(48_000)]
    [InlineData(96_000)]
    public void A_sample_is_a_whole_number_of_units(int rate)
    {
        Assert.Equal(MediaTime.UnitsPerSecond, MediaTime.FromSamples(1, rate).Units * rate);
        Assert.Equal(123_456_789, MediaTime.FromSamples(123_456_789, rate).ToSamplesFloor(rate));
    }

    [Theory]
    [InlineData(0, "0:00.0")]
    [InlineData(64_200, "1:04.2")]
    [InlineData(64_249, "1:04.2")]
    [InlineData(64_250, "1:04.3")]
    [InlineData(59_960, "1:00.0")]
    [InlineData(3_723_400, "1:02:03.4")]
    [InlineData(-1_500, "−0:01.5")]
    [InlineData(-20, "0:00.0")]
    public void Durations_read_as_people_say_them(long milliseconds, string text) =>
        Assert.Equal(text, MediaTime.FromMilliseconds(milliseconds).ToString());

    [Fact]
    public void Division_rounds_the_way_its_name_says_also_below_zero() =>
        Gen.Select(Gen.Long[-1_000_000, 1_000_000], Gen.Long[1, 1000])
            .Sample(
                (value, by) =>
                {
                    Assert.Equal((long)Math.Floor((decimal)value / by), Exact.FloorDivide(value, by));
                    Assert.Equal((long)Math.Ceiling((decimal)value / by), Exact.CeilingDivide(value, by));
                    Assert.Equal((long)Math.Round((decimal)value / by, MidpointRounding.AwayFromZero), Exact.RoundDivide(value, by));
                }
            );

    [Fact]
    public void A_sum_that_does_not_fit_is_refused_and_not_wrapped() =>
        Assert.Throws<OverflowException>(() => new MediaTime(long.MaxValue) + new MediaTime(1));

    [Fact]
    public void A_range_can_not_end_before_it_begins() =>
        Assert.Throws<ArgumentException>(() =>
            new SittingRange(new SittingTime(MediaTime.FromMilliseconds(2)), new SittingTime(MediaTime.FromMilliseconds(1)))
        );

    [Fact]
    public void Ranges_that_only_touch_do_not_overlap()
    {
        SittingRange Range(long from, long to) => new(new SittingTime(new MediaTime(from)), new SittingTime(new MediaTime(to)));
        Assert.Null(Range(0, 5).Overlap(Range(5, 9)));
        Assert.Equal(Range(3, 5), Range(0, 5).Overlap(Range(3, 9)));
        Assert.False(Range(0, 5).Holds(new SittingTime(new MediaTime(5))));
    }

    [Fact]
    public void Source_time_to_sitting_time_and_back_is_the_same_unit_within_a_unit() =>
        Gen.Select(Gen.Long[-7200, 7200], Gen.Long[-100_000, 100_000], Gen.Long[0, 14_400L * MediaTime.UnitsPerSecond])
            .Sample(
                (start, drift, at) =>
                {
                    var map = new ClockMap(new SittingTime(MediaTime.FromMilliseconds(start * 1000)), drift);
                    var back = map.ToSource(map.ToSitting(new SourceTime(new MediaTime(at))));
                    Assert.InRange(back.FromZero.Units - at, -1, 1);
                }
            );

    [Fact]
    public void A_source_whose_clock_ran_slow_by_30_ppm_fills_30_microseconds_more_of_each_second()
    {
        var fill = new ClockMap(default, 30_000).Fill(MediaTime.FromMilliseconds(1_000_000));
        Assert.Equal(MediaTime.FromMilliseconds(1_000_030), fill.Length);
    }
}
