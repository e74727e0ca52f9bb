using CsCheck;
using EmberLane.Core.Handoff;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Timeline;

/// <summary>A timeline as an event list and back: nothing between the two knows of the other's format.</summary>
public sealed class EditedTimelineTests
{
    private static readonly TimecodeCount Pal = new(FrameRate.R25, false);

    private static TimelineMedia Reel(string name, int channels) => new(null, name, name + ".MOV", channels, null, Pal);

    private static SourceRange Frames(long first, long count, FrameRate rate) =>
        new(new SourceTime(rate.TimeOf(first)), new SourceTime(rate.TimeOf(first + count)));

    private static Clip Clip(int group, TimelineMedia media, long first, long count, string note = "") =>
        new(group, note, media, Frames(first, count, FrameRate.R25));

    private static EditedTimeline Of(IReadOnlyList<TimelineItem> pictures, IReadOnlyList<TimelineItem> sounds) =>
        new("T", Pal.Parse("10:00:00:00"), [new Track(TrackKind.Picture, "V1", pictures), new Track(TrackKind.Sound, "A1", sounds)], []);

    [Fact]
    public void Items_lie_one_after_another_and_a_transition_takes_no_time()
    {
        var track = new Track(
            TrackKind.Picture,
            "V1",
            [
                Clip(1, Reel("A", 0), 0, 25),
                new Transition(2, FrameRate.R25.TimeOf(10)),
                Clip(2, Reel("B", 0), 50, 50),
                new Gap(3, "", FrameRate.R25.TimeOf(5)),
            ]
        );
        Assert.Equal([0L, 25, 25, 75], track.Placed().Select(p => FrameRate.R25.FrameAt(p.Range.In.FromZero)));
        Assert.Equal(FrameRate.R25.TimeOf(80), track.Length);
        Assert.Equal(FrameRate.R25.TimeOf(80), Of(track.Items, []).Length);
    }

    [Fact]
    public void Picture_with_its_own_sound_is_one_line_and_black_has_a_reel_of_its_own()
    {
        var camera = Reel("CAM", 2);
        var list = EdlEvents.Of(
            Of(
                [Clip(1, camera, 100, 50, "Maren"), new Gap(2, "", FrameRate.R25.TimeOf(25))],
                [Clip(1, camera, 100, 50, "Maren"), Clip(2, Reel("SND", 4), 7, 25, "Tobias")]
            )
        );
        Assert.Equal(["AA/V", "V", "AA"], list.Events.Select(e => e.Track.Code()));
        Assert.Equal(["CAM", "BL", "SND"], list.Events.Select(e => e.Reel));
        Assert.Equal([3, 4], list.Events[2].ExtraChannels);
        Assert.Equal(["FROM CLIP NAME: CAM.MOV", "COMMENT: MAREN"], list.Events[0].Comments);
        Assert.Equal(["FROM CLIP NAME: SND.MOV"], list.Events[2].Comments);
        Assert.Equal("10:00:02:00", list.Events[1].RecordIn.ToString());
    }

    [Fact]
    public void A_dissolve_is_two_lines_of_one_number_and_comes_back_as_a_transition()
    {
        var written = Of([Clip(1, Reel("A", 0), 0, 100), new Transition(2, FrameRate.R25.TimeOf(12)), Clip(2, Reel("B", 0), 500, 60)], []);
        var list = EdlEvents.Of(written);
        Assert.Equal([1, 2, 2], list.Events.Select(e => e.Number));
        Assert.Equal(
            ("00:00:04:00", "00:00:04:00", null),
            (list.Events[1].SourceIn.ToString(), list.Events[1].SourceOut.ToString(), list.Events[1].DissolveFrames)
        );
        Assert.Equal(("B", 12), (list.Events[2].Reel, list.Events[2].DissolveFrames));
        var back = EdlEvents.Timeline(EdlReader.Read(EdlWriter.Write(list)[0], FrameRate.R25));
        Assert.Equal(written.Tracks[0].Items, back.Tracks[0].Items);
    }

    [Fact]
    public void What_is_not_enabled_keeps_its_place_and_is_in_no_line()
    {
        var list = EdlEvents.Of(
            Of(
                [Clip(1, Reel("A", 0), 0, 25) with { IsEnabled = false }, Clip(2, Reel("B", 0), 0, 25)],
                [Clip(1, Reel("S", 1), 0, 25) with { IsEnabled = false }]
            )
        );
        Assert.Equal(("B", "10:00:01:00"), (Assert.Single(list.Events).Reel, list.Events[0].RecordIn.ToString()));
    }

    [Fact]
    public void A_timeline_that_runs_past_midnight_is_refused() =>
        Assert.Contains(
            "past midnight",
            Assert.Throws<EditRefusedException>(() => EdlEvents.Of(Of([Clip(1, Reel("A", 0), 0, 15L * 3600 * 25)], []))).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Any_timeline_of_cuts_written_as_a_list_and_read_again_is_the_same_timeline()
    {
        var rates = Gen.OneOfConst([.. TimecodeCount.Supported]);
        var items = Gen.Select(Gen.Int[0, 5], Gen.Int[1, 400], Gen.Int[0, 90_000], Gen.Int[0, 4]).Array[1, 12];
        Gen.Select(rates, items, items)
            .Sample(
                (count, pictures, sounds) =>
                {
                    var written = new EditedTimeline(
                        "T",
                        new Timecode(count, 1, 0, 0, 0),
                        [Make(TrackKind.Picture, "V1", pictures, 0, count), Make(TrackKind.Sound, "A1", sounds, 100, count)],
                        []
                    );
                    var list = EdlEvents.Of(written);
                    Assert.Single(EdlWriter.Write(list));
                    var back = EdlEvents.Timeline(EdlReader.Read(EdlWriter.Write(list)[0], count.Rate));
                    return Same(written.Tracks[0], back.Tracks[0]) && Same(written.Tracks[1], back.Tracks[1]);
                }
            );

        // Groups are apart, so that no picture takes a sound along.
        static Track Make(
            TrackKind kind,
            string name,
            (int Kind, int Frames, int First, int Channels)[] some,
            int group,
            TimecodeCount count
        ) =>
            new(
                kind,
                name,
                [
                    .. some.Select(
                        (s, i) =>
                            (TimelineItem)(
                                s.Kind == 0 && kind == TrackKind.Picture
                                    ? new Gap(group + i, "", count.Rate.TimeOf(s.Frames))
                                    : new Clip(
                                        group + i,
                                        "",
                                        new TimelineMedia(
                                            null,
                                            $"R{s.Kind}",
                                            $"R{s.Kind}.MOV",
                                            kind == TrackKind.Picture ? 0 : 1 + s.Channels,
                                            null,
                                            count
                                        ),
                                        Frames(s.First, s.Frames, count.Rate)
                                    )
                            )
                    ),
                ]
            );

        static bool Same(Track one, Track other) => one.Items.Select(Plain).SequenceEqual(other.Items.Select(Plain));

        static string Plain(TimelineItem item) =>
            item is Clip c ? $"{c.Media.Reel} {c.Media.FileName} {c.Media.Channels} {c.Range}" : $"gap {item.Length}";
    }
}
