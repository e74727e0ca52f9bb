using CsCheck;
using EmberLane.Core.Cameras;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;
using static EmberLane.Core.Tests.Cameras.MadeSittings;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>Tighter framings of an angle: what of its picture is seen, where they are shown, and how lists tell of them.</summary>
public sealed class PunchInTests
{
    private static readonly TimecodeCount Pal = new(FrameRate.R25, false);

    private static readonly SourceFacts Facts = new(
        "mov",
        FrameRate.R25.TimeOf(250),
        new PictureFacts("h264", "yuv420p", 1920, 1080, FrameRate.R25, false),
        [],
        new StartOfFile(Pal.LabelOf(0), null),
        null,
        null,
        null
    );

    private static SittingRange At(long from, long to) =>
        new(new SittingTime(MediaTime.FromMilliseconds(from)), new SittingTime(MediaTime.FromMilliseconds(to)));

    [Fact]
    public void What_is_seen_lies_within_the_picture_and_is_as_large_as_was_asked_at_every_moment_of_a_slow_one()
    {
        var some = Gen.Select(Gen.Int[PunchIn.Least, PunchIn.Most], Gen.Int[0, 100], Gen.Int[0, 100], Gen.Bool);
        Gen.Select(some, Gen.Long[0, 9_000], Gen.Long[1, 9_000], Gen.Long[1, 9_000])
            .Sample(
                (made, from, first, second) =>
                {
                    var closer = new PunchIn(made.Item1, made.Item2, made.Item3, made.Item4).Check();
                    Assert.Equal(closer, PunchIn.Read(closer.Written));
                    var shot = At(from, from + first + second);
                    var (one, next) = (
                        closer.Over(shot, At(from, from + first)),
                        closer.Over(shot, At(from + first, from + first + second))
                    );
                    foreach (var crop in new[] { one.From, one.To, next.From, next.To })
                    {
                        Assert.InRange(crop.Left, 0, Crop.Whole - crop.Size);
                        Assert.InRange(crop.Top, 0, Crop.Whole - crop.Size);
                    }
                    // It goes on where it left off, and ends as close as it was asked.
                    Assert.Equal(one.To, next.From);
                    Assert.InRange(next.To.Percent, closer.Percent - 1, closer.Percent + 1);
                    Assert.Equal(closer.IsSlow ? Crop.All : next.To, one.From);
                }
            );
    }

    [Fact]
    public void What_can_not_be_is_refused_by_its_name()
    {
        Assert.Contains("105 to 200", Refused(new PunchIn(250, 50, 50, false)), StringComparison.Ordinal);
        Assert.Contains("across", Refused(new PunchIn(130, 101, 50, false)), StringComparison.Ordinal);
        Assert.Contains("down", Refused(new PunchIn(130, 50, -1, false)), StringComparison.Ordinal);

        static string Refused(PunchIn closer) => Assert.Throws<EditRefusedException>(() => CameraSetup.Closer(7, closer)).Message;
    }

    [Fact]
    public void A_sitting_of_one_camera_alternates_at_the_seams_of_a_story_so_that_no_view_cuts_to_itself()
    {
        var sitting = new StorySitting(
            [new StoryAngle(10, ["A"], [Range(0, 60_000)]), new StoryAngle(CameraSetup.CloserOf(10), ["A"], [Range(0, 60_000)])],
            [new PlanTurn("A", Range(0, 60_000))],
            [],
            []
        );
        StoryPart[] parts =
        [
            .. Enumerable.Range(0, 6).Select(i => new StoryPart(Guid.NewGuid(), 1, Range((i * 9_000) + 500, (i * 9_000) + 6_000), null)),
        ];
        var shots = StoryCameras.Plan(parts, new Dictionary<long, StorySitting> { [1] = sitting }, CameraRules.Even);
        Assert.All(parts.Zip(parts.Skip(1)), p => Assert.NotEqual(shots[p.First.Piece][^1].Angle, shots[p.Second.Piece][0].Angle));
    }

    [Fact]
    public void Lists_tell_of_it_where_its_camera_is_seen_and_the_whole_picture_fills_in_where_it_is_not()
    {
        var sitting = new ListedSitting(
            1,
            [
                new ListedSource(1, "ONE", "one.mov", Facts, new ClockMap(default, 0)),
                new ListedSource(2, "TWO", "two.mov", Facts with { Duration = FrameRate.R25.TimeOf(500) }, new ClockMap(default, 0)),
            ],
            null
        );
        var card = new ListedCard(new Card(Guid.NewGuid(), 1, 1, At(4_000, 14_000), null), [At(4_000, 14_000)], "")
        {
            Shots =
            [
                new AngleShot(At(4_000, 6_000), [1]),
                new AngleShot(At(6_000, 8_000), [1]) { Closer = new PunchIn(125, 50, 50, false) },
                new AngleShot(At(8_000, 14_000), [1]) { Closer = new PunchIn(200, 0, 0, true) },
            ],
        };
        var timeline = Conform.Lay("T", Pal.Parse("01:00:00:00"), [card], new Dictionary<long, ListedSitting> { [1] = sitting });
        var told = EdlEvents
            .Of(timeline)
            .Events.Select(e => $"{e.Reel} {e.Comments.FirstOrDefault(c => c.StartsWith("PUNCH-IN: ", StringComparison.Ordinal))}");
        Assert.Equal(["ONE ", "ONE PUNCH-IN: 125 % AT 50 50", "ONE PUNCH-IN: 100 % AT 50 50 TO 120 % AT 41.7 41.7", "TWO "], told);
        using var written = System.Text.Json.JsonDocument.Parse(OtioWriter.Write(timeline, m => m.FileName));
        var clips = written.RootElement.GetProperty("tracks").GetProperty("children")[0].GetProperty("children");
        Assert.Equal([0, 1, 1, 0], clips.EnumerateArray().Select(c => c.GetProperty("effects").GetArrayLength()));
        var effect = clips[1].GetProperty("effects")[0];
        Assert.Equal("Effect.1", effect.GetProperty("OTIO_SCHEMA").GetString());
        var seen = effect.GetProperty("metadata").GetProperty("ember_lane").GetProperty("to");
        Assert.Equal(
            (0.1m, 0.1m, 0.8m),
            (seen.GetProperty("left").GetDecimal(), seen.GetProperty("top").GetDecimal(), seen.GetProperty("size").GetDecimal())
        );
    }

    [Fact]
    public void Lists_of_a_narrower_shape_tell_which_middle_of_the_picture_is_seen_from_when_on()
    {
        var media = new TimelineMedia(1, "ONE", "one.mov", 0, Facts, Pal);
        var clip = new Clip(1, "", media, new SourceRange(new SourceTime(Ms(0)), new SourceTime(Ms(8_000))))
        {
            Narrow = new NarrowView("9:16", [(0, 310), (75, 685), (150, null)]),
        };
        var timeline = new EditedTimeline("T", Pal.Parse("01:00:00:00"), [new Track(TrackKind.Picture, "V1", [clip])], []);
        Assert.Equal(
            ["SHAPE: 9:16 AT 31", "SHAPE: 9:16 FROM FRAME 75 AT 68.5", "SHAPE: 9:16 FROM FRAME 150 THE WHOLE PICTURE"],
            EdlEvents.Of(timeline).Events.Single().Comments.Where(c => c.StartsWith("SHAPE", StringComparison.Ordinal))
        );
        using var written = System.Text.Json.JsonDocument.Parse(OtioWriter.Write(timeline, m => m.FileName));
        var effect = written.RootElement.GetProperty("tracks").GetProperty("children")[0].GetProperty("children")[0].GetProperty("effects")[
            0
        ];
        Assert.Equal("shape", effect.GetProperty("effect_name").GetString());
        Assert.Equal(
            """{"shape":"9:16","views":[{"frame":0,"across":0.31},{"frame":75,"across":0.685},{"frame":150,"across":null}]}""",
            string.Concat(effect.GetProperty("metadata").GetProperty("ember_lane").GetRawText().Where(c => !char.IsWhiteSpace(c)))
        );
        // What is read back is the same edit.
        Assert.Equal(
            clip.Range,
            OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), FrameRate.R25).Tracks[0].Items.OfType<Clip>().Single().Range
        );
    }
}
