using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Handoff;

public sealed class NearestFrameTests
{
    [Fact]
    public void Picture_and_sound_of_a_moment_are_listed_at_most_half_a_frame_from_it()
    {
        var random = new Random(3);
        foreach (var rate in new[] { FrameRate.R25, FrameRate.R2997, FrameRate.R23976 })
        {
            var count = new TimecodeCount(rate, false);
            var picture = new SourceFacts(
                "mov",
                MediaTime.FromMilliseconds(600_000),
                new PictureFacts("h264", "yuv420p", 960, 540, rate, false),
                [],
                new StartOfFile(count.Parse("10:00:00:00"), null),
                null,
                null,
                null
            );
            var sound = new SourceFacts(
                "wav",
                MediaTime.FromMilliseconds(600_000),
                null,
                [new SoundTrack(0, "pcm_s16le", 48_000, 1)],
                StartOfFile.Unknown,
                null,
                null,
                null
            );
            var half = new MediaTime(rate.TimeOf(1).Units / 2);
            for (var n = 0; n < 3_000; n++)
            {
                var at = new SourceTime(new MediaTime(random.NextInt64(0, MediaTime.FromMilliseconds(500_000).Units)));
                foreach (var facts in new[] { picture, sound })
                {
                    var off = rate.TimeOf(SourceTimecode.For(facts, count).FrameAt(at, 10)) - at.FromZero;
                    Assert.InRange(off.Units, -half.Units, half.Units);
                }
            }
        }
    }

    [Fact]
    public void A_title_with_marks_of_other_languages_of_machines_is_written_plainly()
    {
        var list = EdlWriter.Write(new EventList("A & B <cut> \"x\"", new TimecodeCount(FrameRate.R25, false), []));
        Assert.StartsWith("TITLE: A AND B (CUT) 'X'\n", list[0], StringComparison.Ordinal);
    }

    [Fact]
    public void A_place_that_is_far_from_everything_else_of_the_sitting_is_refused()
    {
        static SittingTime Hours(long hours) => new(MediaTime.FromMilliseconds(hours * 3_600_000));
        var others = new SittingRange(Hours(0), Hours(1));
        var length = MediaTime.FromMilliseconds(600_000);
        Placement At(long hours) => new(new ClockMap(Hours(hours), 0), PlaceBasis.Person, "set by hand", true);
        Assert.Equal(At(6), PlaceSource.Believable(At(6), length, others));
        Assert.Throws<EditRefusedException>(() => PlaceSource.Believable(At(48), length, others));
        Assert.Throws<EditRefusedException>(() => PlaceSource.Believable(At(-10), length, others));
        Assert.Equal(At(48), PlaceSource.Believable(At(48), length, null));
    }
}
