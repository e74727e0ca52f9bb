using EmberLane.Core.Media;
using EmberLane.Core.Sittings;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class CountTests
{
    private static SourceFacts Recorder(long? seconds) =>
        new(
            "wav",
            MediaTime.FromMilliseconds(600_000),
            null,
            [],
            new StartOfFile(null, seconds is { } s ? MediaTime.FromMilliseconds(s * 1000) : null),
            null,
            null,
            null
        );

    private static SourceFacts Camera(string label, FrameRate rate, bool drop = false) =>
        new(
            "mov",
            MediaTime.FromMilliseconds(60_000),
            new PictureFacts("h264", "yuv420p", 1, 1, rate, false),
            [],
            new StartOfFile(new TimecodeCount(rate, drop).Parse(label), null),
            null,
            null,
            null
        );

    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    private static readonly SittingRange Sitting = new(default, new SittingTime(Ms(600_000)));

    [Fact]
    public void Counts_of_any_kind_are_compared_and_over_midnight_too()
    {
        Assert.Equal(Ms(10_480), DayTime.Offset(Recorder(27_720), Camera("07:42:10:12", FrameRate.R25)));
        Assert.Equal(Ms(-120_000), DayTime.Offset(Recorder(60), Recorder(86_340)));
        Assert.Equal(Ms(120_000), DayTime.Offset(Recorder(86_340), Recorder(60)));
        // An hour of whole frames that count at 29.97 is longer than an hour of the clock.
        Assert.Equal(
            FrameRate.R2997.TimeOf(108_000),
            DayTime.Offset(Camera("01:00:00:00", FrameRate.R2997), Camera("02:00:00:00", FrameRate.R2997))
        );
        Assert.Null(DayTime.Offset(Recorder(null), Recorder(1)));
    }

    [Theory]
    [InlineData(10_000, 10_040, "; timecode agrees")]
    [InlineData(10_000, 13_200, "; timecode is off by +3.20 s")]
    [InlineData(10_000, 9_500, "; timecode is off by −0.50 s")]
    [InlineData(10_000, 3_600_000, "")]
    [InlineData(10_000, null, "")]
    public void Sound_says_whether_timecode_is_right(int bySound, int? byCount, string words) =>
        Assert.Equal(words, CountCheck.Words(new Counted("a", Ms(bySound), byCount is { } c ? Ms(c) : null, Ms(40))));

    [Fact]
    public void A_file_without_sound_is_placed_by_timecode_unless_another_shows_it_wrong()
    {
        var (silent, nowhere) = (Camera("07:42:10:00", FrameRate.R25), Placement.Nowhere());
        var right = new Counted("A001", Ms(5000), Ms(5020), Ms(40));
        Assert.Equal(
            new Placement(new ClockMap(new SittingTime(Ms(10_000)), 0), PlaceBasis.Timecode, "by timecode alone; not checked", false),
            CountCheck.Silent(DayTime.Offset(Recorder(27_720), silent), silent, Sitting, [], nowhere)
        );
        Assert.Equal(
            "by timecode, which is right for A001",
            CountCheck
                .Silent(
                    DayTime.Offset(Recorder(27_720), silent),
                    silent,
                    Sitting,
                    [right, new Counted("free", Ms(0), Ms(9_000_000), Ms(40))],
                    nowhere
                )
                .Evidence
        );
        List<Counted> wrong = [right, new Counted("B002", Ms(5000), Ms(9000), Ms(40))];
        var left = CountCheck.Silent(DayTime.Offset(Recorder(27_720), silent), silent, Sitting, wrong, nowhere);
        Assert.Null(left.Place);
        Assert.EndsWith("that of B002 is wrong; not placed", left.Evidence, StringComparison.Ordinal);
        // One that was placed before stays there, and is sure no more.
        var before = Placement.BySound(new ClockMap(new SittingTime(Ms(1234)), 0), "same sound");
        var stays = CountCheck.Silent(DayTime.Offset(Recorder(27_720), silent), silent, Sitting, wrong, before);
        Assert.Equal((before.Place, PlaceBasis.LeftAsItWas, true, false), (stays.Place, stays.Basis, before.IsSure, stays.IsSure));
        Assert.EndsWith("that of B002 is wrong; left where it was", stays.Evidence, StringComparison.Ordinal);
        Assert.True(PlaceSource.Accepted(stays).IsSure);
        Assert.Null(CountCheck.Silent(DayTime.Offset(Recorder(20_000), silent), silent, Sitting, [], nowhere).Place);
        Assert.Equal(
            Placement.Nowhere("no sound to go by, and no other file here has a timecode to lay it beside; not placed"),
            CountCheck.Silent(null, silent, Sitting, [], nowhere)
        );
        Assert.Equal(
            Placement.Nowhere("no sound and no timecode to go by; not placed"),
            CountCheck.Silent(null, Recorder(null), Sitting, [], nowhere)
        );
    }

    [Fact]
    public void Clips_of_one_camera_share_a_row_and_overlapping_ones_do_not()
    {
        static ChartBar Bar(long id, string of, long from, long to) =>
            new(id, of, new SittingRange(new SittingTime(Ms(from)), new SittingTime(Ms(to))));
        var rows = ChartRows.Lay([
            Bar(1, "", 0, 100),
            Bar(2, "A", 50, 60),
            Bar(3, "A", 10, 20),
            Bar(4, "A", 55, 70),
            Bar(5, "", 0, 5),
            Bar(6, "A", 20, 50),
        ]);
        Assert.Equal(["1", "3 6 2", "4", "5"], rows.Select(r => string.Join(' ', r.Select(b => b.SourceId))));
    }

    [Fact]
    public void A_place_by_way_of_another_source_is_the_same_as_both_steps()
    {
        var random = new Random(2);
        for (var n = 0; n < 300; n++)
        {
            ClockMap bridge = new(new SittingTime(Ms(random.Next(-9_000_000, 9_000_000))), random.Next(-100_000, 100_000)),
                source = new(new SittingTime(Ms(random.Next(-9_000_000, 9_000_000))), random.Next(-100_000, 100_000));
            var at = new SourceTime(Ms(random.Next(0, 9_000_000)));
            var apart = source.By(bridge).ToSitting(at) - bridge.ToSitting(new SourceTime(source.ToSitting(at).FromZero));
            Assert.InRange(apart.Units, -10_000, 10_000);
        }
    }
}
