using CsCheck;

namespace EmberLane.Core.Tests.Time;

/// <summary>
/// Clauses of drop-frame counting (SMPTE ST 12-1): two labels (four at 59.94) are left out at the start of every minute but the tenth ones.
/// </summary>
public sealed class TimecodeTests
{
    public static TheoryData<string> Counts => [.. TimecodeCount.Supported.Select(c => c.ToString())];

    private static TimecodeCount Count(string name) => TimecodeCount.Supported.Single(c => c.ToString() == name);

    [Theory]
    [MemberData(nameof(Counts))]
    public void Every_label_of_24_hours_counted_by_hand_is_the_label_of_its_frame_and_back(string name)
    {
        var count = Count(name);
        long frame = 0;
        for (var minute = 0; minute < 24 * 60; minute++)
        {
            for (var second = 0; second < 60; second++)
            {
                // The rule as the standard says it, without arithmetic: leave labels out one by one.
                var leftOut = count.DropFrame && second == 0 && minute % 10 != 0 ? (count.Rate == FrameRate.R5994 ? 4 : 2) : 0;
                for (var f = leftOut; f < count.Rate.Nominal; f++)
                {
                    var label = count.LabelOf(frame);
                    if (
                        (label.Hours, label.Minutes, label.Seconds, label.Frames) != (minute / 60, minute % 60, second, f)
                        || label.Frame != frame
                    )
                    {
                        Assert.Fail($"Frame {frame} is {label}, counted by hand {minute / 60}:{minute % 60}:{second}:{f}.");
                    }
                    frame++;
                }
            }
        }
        Assert.Equal(frame, count.FramesInDay);
        Assert.Equal(count.LabelOf(0), count.LabelOf(frame));
    }

    [Theory]
    [InlineData("29.97 drop frame", 1799, "00:00:59;29")]
    [InlineData("29.97 drop frame", 1800, "00:01:00;02")]
    [InlineData("29.97 drop frame", 17982, "00:10:00;00")]
    [InlineData("29.97 drop frame", 107892, "01:00:00;00")]
    [InlineData("59.94 drop frame", 3600, "00:01:00;04")]
    [InlineData("25", 90000, "01:00:00:00")]
    [InlineData("23.976", 86400, "01:00:00:00")]
    public void Known_frames_have_their_known_labels(string name, long frame, string label)
    {
        Assert.Equal(label, Count(name).LabelOf(frame).ToString());
        Assert.Equal(frame, Count(name).Parse(label).Frame);
    }

    [Theory]
    [InlineData("01:02:03:04")]
    [InlineData("01:02:03;04")]
    [InlineData("01:02:03.04")]
    [InlineData("1:2:3:4")]
    [InlineData("01020304")]
    [InlineData("  01:02:03:04 ")]
    public void Every_form_that_lists_and_people_write_is_read(string text) =>
        Assert.Equal("01:02:03:04", Count("25").Parse(text).ToString());

    [Theory]
    [InlineData("25", "01:00:00:25", "frames go from 00 to 24")]
    [InlineData("25", "24:00:00:00", "hours go from 00 to 23")]
    [InlineData("25", "00:60:00:00", "minutes go from 00 to 59")]
    [InlineData("25", "00:00:60:00", "seconds go from 00 to 59")]
    [InlineData("29.97 drop frame", "00:01:00;00", "drop frame leaves it out")]
    [InlineData("59.94 drop frame", "00:09:00;03", "drop frame leaves it out")]
    [InlineData("25", "", "is not a timecode")]
    [InlineData("25", "ferry", "is not a timecode")]
    [InlineData("25", "01:02:03", "is not a timecode")]
    [InlineData("25", "-1:02:03:04", "is not a timecode")]
    [InlineData("25", "01:02:03:٠٤", "is not a timecode")]
    public void A_label_that_does_not_exist_is_refused_with_the_reason(string name, string text, string reason)
    {
        Assert.False(Count(name).TryParse(text, out _, out var error));
        Assert.Contains(reason, error, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("29.97 drop frame", "00:10:00;00")]
    [InlineData("59.94 drop frame", "00:20:00;01")]
    [InlineData("29.97", "00:01:00:00")]
    public void A_label_that_drop_frame_keeps_is_read(string name, string text) => Assert.Equal(text, Count(name).Parse(text).ToString());

    [Fact]
    public void Drop_frame_exists_only_at_29_97_and_59_94() =>
        Assert.Throws<ArgumentException>(() => new TimecodeCount(FrameRate.R25, true));

    [Fact]
    public void Drop_frame_labels_keep_pace_with_the_clock_within_a_frame_or_two_all_day()
    {
        var count = new TimecodeCount(FrameRate.R2997, true);
        for (var hour = 0; hour < 24; hour++)
        {
            var real = FrameRate.R2997.TimeOf(new Timecode(count, hour, 0, 0, 0).Frame);
            Assert.InRange((real - MediaTime.FromMilliseconds(hour * 3_600_000L)).ToMillisecondsRounded(), -90, 90);
        }
    }

    [Fact]
    public void A_frame_begins_at_its_own_time_and_is_shown_until_the_next_at_every_rate() =>
        Gen.Select(Gen.OneOfConst([.. FrameRate.Supported]), Gen.Long[0, 10_000_000])
            .Sample(
                (rate, frame) =>
                {
                    var start = rate.TimeOf(frame);
                    Assert.Equal(frame, rate.FrameAt(start));
                    Assert.Equal(frame, rate.FrameAtOrAfter(start));
                    Assert.Equal(frame, rate.FrameAt(rate.TimeOf(frame + 1) - new MediaTime(1)));
                    Assert.Equal(frame + 1, rate.FrameAtOrAfter(start + new MediaTime(1)));
                    // Exact: nothing was rounded away.
                    Assert.Equal((Int128)start.Units * rate.Numerator, (Int128)frame * rate.Denominator * MediaTime.UnitsPerSecond);
                }
            );
}
