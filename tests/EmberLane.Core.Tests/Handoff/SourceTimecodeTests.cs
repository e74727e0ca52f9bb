using EmberLane.Core.Handoff;
using EmberLane.Core.Media;

namespace EmberLane.Core.Tests.Handoff;

public sealed class SourceTimecodeTests
{
    private static SourceFacts Facts(FrameRate rate, Timecode label, long hours = 11) =>
        new(
            "mov",
            MediaTime.FromMilliseconds(hours * 3_600_000),
            new PictureFacts("h264", "yuv420p", 960, 540, rate, false),
            [],
            new StartOfFile(label, null),
            null,
            null,
            null
        );

    [Fact]
    public void A_camera_keeps_its_own_hours_minutes_and_seconds_in_a_list_of_every_other_rate_also_after_ten_hours()
    {
        foreach (var own in TimecodeCount.Supported)
        {
            var facts = Facts(own.Rate, new Timecode(own, 1, 0, 0, 0));
            foreach (var list in TimecodeCount.Supported.Where(l => l.Rate != own.Rate))
            {
                var label = SourceTimecode.For(facts, list);
                foreach (var seconds in new[] { 0, 1, 59, 60, 240, 600, 3_600, 36_000 })
                {
                    for (var more = 0; more < list.Rate.Nominal; more++)
                    {
                        var frame = list.Rate.NearestFrame(MediaTime.FromMilliseconds(seconds * 1_000L)) + more;
                        var written = label.Label(frame);
                        // What the camera's display shows at that moment of the file.
                        var display = own.LabelOf(new Timecode(own, 1, 0, 0, 0).Frame + own.Rate.FrameAt(list.Rate.TimeOf(frame)));
                        Assert.Equal((display.Hours, display.Minutes, display.Seconds), (written.Hours, written.Minutes, written.Seconds));
                        // Read back at the camera's rate it is the camera's frame; a list of fewer frames can miss it by its own step.
                        var back = written.Frames * own.Rate.Nominal / list.Rate.Nominal;
                        var step = own.Rate.Nominal > list.Rate.Nominal ? (own.Rate.Nominal / list.Rate.Nominal) + 1 : 0;
                        Assert.InRange(back - display.Frames, -step, step);
                    }
                }
            }
        }
    }

    [Fact]
    public void Counted_by_the_list_a_camera_of_25_has_left_its_display_by_six_frames_after_four_minutes_in_a_list_of_23_976()
    {
        var list = new TimecodeCount(FrameRate.R23976, false);
        var facts = Facts(FrameRate.R25, new Timecode(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0));
        // The list's frame begins ten milliseconds before the minute is full, in the camera's last frame of it.
        var frame = FrameRate.R23976.NearestFrame(MediaTime.FromMilliseconds(240_000));
        Assert.Equal("01:03:59:23", SourceTimecode.For(facts, list).Label(frame).ToString());
        Assert.Equal("01:03:59:18", SourceTimecode.For(facts, list, LabelClock.List).Label(frame).ToString());
    }

    [Fact]
    public void A_recorder_counts_at_the_lists_rate_from_midnight_by_either_clock()
    {
        var facts = new SourceFacts(
            "wav",
            MediaTime.FromMilliseconds(60_000),
            null,
            [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
            new StartOfFile(null, MediaTime.FromMilliseconds(3_600_000)),
            null,
            null,
            null
        );
        var list = new TimecodeCount(FrameRate.R25, false);
        Assert.Equal("01:00:01:00", SourceTimecode.For(facts, list).Label(25).ToString());
        Assert.False(SourceTimecode.For(facts, list).IsByCamera);
    }
}
