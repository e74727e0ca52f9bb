using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Time;
using EmberLane.Core.Timeline;
using EmberLane.Engines.Copies;

namespace EmberLane.Engines.Tests.Copies;

public sealed class CopyPictureTests
{
    private const int Each = 8;

    private const string NoTitles = "[Script Info]\nScriptType: v4.00+\n\n[Events]\nFormat: Layer, Start, End, Style, Text\n";

    private static readonly CopyWish Plain = new()
    {
        Form = CopyForm.Video,
        IsLabelled = false,
        Loudness = null,
    };

    [Fact]
    public async Task A_card_shows_the_picture_that_its_list_names_by_the_cameras_clock_after_ten_hours()
    {
        using var clips = new Clips();
        var cameras = new List<(TimecodeCount Count, string Path, ListedSource Source)>();
        foreach (var count in TimecodeCount.Supported)
        {
            var facts = new SourceFacts(
                "mp4",
                MediaTime.FromMilliseconds(3_000),
                new PictureFacts("h264", "yuv420p", 64, 36, count.Rate, false),
                [],
                new StartOfFile(new Timecode(count, 10, 0, 0, 0), null),
                null,
                null,
                null
            );
            var id = cameras.Count + 1;
            var reel = FormattableString.Invariant($"R{id}");
            cameras.Add(
                (count, await clips.CountedAsync(count.Rate, 3), new ListedSource(id, reel, reel + ".MOV", facts, new ClockMap(default, 0)))
            );
        }
        var sittings = cameras.ToDictionary(c => c.Source.Id, c => new ListedSitting(c.Source.Id, [c.Source], null));
        // All eleven lists held when this was written; four are enough to keep it so, in a third of the time.
        foreach (
            var list in new[]
            {
                new TimecodeCount(FrameRate.R23976, false),
                new TimecodeCount(FrameRate.R25, false),
                new TimecodeCount(FrameRate.R2997, true),
                new TimecodeCount(FrameRate.R60, false),
            }
        )
        {
            // Cards at the very start, and somewhere within, of every camera.
            var pieces = cameras
                .SelectMany(c => new[] { 0L, 1_931 }.Select(from => (Camera: c, From: new SittingTime(MediaTime.FromMilliseconds(from)))))
                .Select(c => (c.Camera, Range: new SittingRange(c.From, c.From + list.Rate.TimeOf(Each) - MediaTime.FromMilliseconds(1))))
                .Select(c => new ListedCard(new Card(Guid.NewGuid(), 1, c.Camera.Source.Id, c.Range, null), [c.Range], ""))
                .ToList();
            var timeline = Conform.Lay("T", new Timecode(list, 1, 0, 0, 0), pieces, sittings);
            var events = EdlEvents.Of(timeline);
            var story = new HandedStory("P", "T", 1, timeline, events, [], [], []);
            var span = new FrameSpan(0, list.Rate.NearestFrame(timeline.Length));
            var seen = CopyLay.Seen(story, span);
            var (path, _) = await clips.CopyAsync(
                new CopyParts(
                    [],
                    [],
                    [
                        .. seen.Select(s =>
                            cameras[(int)s.SourceId!.Value - 1] is var camera
                                ? new FramePiece(s.Frames.Count, camera.Path, camera.Count.Rate, s.At)
                                : null!
                        ),
                    ],
                    span.Count,
                    list.Rate,
                    story.Start,
                    CopyText.Write(story, span, Plain)
                ),
                Plain
            );
            var greys = await Clips.GreysAsync(path);
            Assert.Equal(span.Count, greys.Length);
            foreach (var (shot, e) in seen.Zip(events.Events.Where(e => e.Track.HasPicture())))
            {
                var (own, _, _) = cameras[(int)shot.SourceId!.Value - 1];
                // The camera's display at the written time: hours, minutes and seconds, the frames of that second at its own rate.
                var written = e.SourceIn;
                var display = new Timecode(
                    own,
                    written.Hours,
                    written.Minutes,
                    written.Seconds,
                    written.Frames * own.Rate.Nominal / list.Rate.Nominal
                );
                var named = display.Frame - new Timecode(own, 10, 0, 0, 0).Frame;
                // A list of fewer frames a second than the camera can not name each of its frames.
                var step = own.Rate.Nominal > list.Rate.Nominal ? (own.Rate.Nominal / list.Rate.Nominal) + 1 : 0;
                var apart = (greys[shot.Frames.First] - named + (2L * Clips.Greys)) % Clips.Greys;
                Assert.True(
                    Math.Min(apart, Clips.Greys - apart) <= step,
                    $"{own} in {list}: {written} names frame {named}, {greys[shot.Frames.First]} is seen"
                );
            }
        }
    }

    [Fact]
    public async Task Frames_of_other_rates_neither_drift_nor_are_left_out()
    {
        using var clips = new Clips();
        foreach (
            var (source, copy) in new[]
            {
                (FrameRate.R23976, FrameRate.R25),
                (FrameRate.R50, FrameRate.R25),
                (FrameRate.R25, FrameRate.R5994),
            }
        )
        {
            var file = await clips.CountedAsync(source, 9);
            var from = new SourceTime(MediaTime.FromMilliseconds(1_237));
            var frames = copy.NearestFrame(MediaTime.FromMilliseconds(7_000));
            var (path, _) = await clips.CopyAsync(
                new CopyParts(
                    [],
                    [],
                    [new FramePiece(frames, file, source, from)],
                    frames,
                    copy,
                    new TimecodeCount(copy, false).LabelOf(0),
                    NoTitles
                ),
                Plain
            );
            var pick = new FramePick(from, source, copy);
            Assert.Equal(Enumerable.Range(0, (int)frames).Select(f => (int)(pick.Of(f) % Clips.Greys)), await Clips.GreysAsync(path));
        }
    }

    [Fact]
    public async Task A_punch_in_shows_its_part_of_the_picture_and_a_slow_one_goes_there_evenly()
    {
        using var clips = new Clips();
        var file = await clips.RampAsync();
        var close = new Crop(5_000, 2_500, 5_000);
        const int Frames = 20;
        var (path, _) = await clips.CopyAsync(
            new CopyParts(
                [],
                [],
                [
                    new FramePiece(Frames, file, FrameRate.R25, default),
                    new FramePiece(Frames, file, FrameRate.R25, default) { Framed = new Framed(close, close) },
                    new FramePiece(Frames, file, FrameRate.R25, default) { Framed = new Framed(Crop.All, close) },
                ],
                3 * Frames,
                FrameRate.R25,
                new TimecodeCount(FrameRate.R25, false).LabelOf(0),
                NoTitles
            ),
            Plain
        );
        var greys = await Clips.GreysAsync(path);
        // The grey at so much of the picture's width, in the steps in which it is read.
        var across = 104.0 / Plain.Size.Width;
        for (var f = 0; f < 3 * Frames; f++)
        {
            var way =
                f < Frames ? 0
                : f < 2 * Frames ? 1
                : (f - (2.0 * Frames)) / Frames;
            Assert.InRange(greys[f] - (200 * ((0.5 * way) + (across * (1 - (0.5 * way)))) / 3.5), -1.5, 1.5);
        }
    }

    [Fact]
    public async Task A_dissolve_shows_of_each_frame_the_share_that_is_due()
    {
        using var clips = new Clips();
        var file = await clips.CountedAsync(FrameRate.R25, 3);
        const int Frames = 25;
        var later = new SourceTime(MediaTime.FromMilliseconds(1_000));
        var shares = new Leaving(new SeenStretch(new FrameSpan(0, Frames), null, default), 0, Frames);
        var (path, _) = await clips.CopyAsync(
            new CopyParts(
                [],
                [],
                [
                    new FramePiece(Frames, file, FrameRate.R25, later)
                    {
                        Under = (new FramePiece(Frames, file, FrameRate.R25, default), shares),
                    },
                    new FramePiece(5, file, FrameRate.R25, default),
                ],
                Frames + 5,
                FrameRate.R25,
                new TimecodeCount(FrameRate.R25, false).LabelOf(0),
                NoTitles
            ),
            Plain
        );
        var greys = await Clips.GreysAsync(path);
        Assert.Equal(Frames + 5, greys.Length);
        for (var f = 0; f < Frames; f++)
        {
            // The frame that goes has the grey of its number, the one that comes that of 25 more.
            double goes = f % Clips.Greys,
                comes = (f + 25) % Clips.Greys,
                share = ((2 * f) + 1) / (2.0 * Frames);
            Assert.InRange(greys[f] - (goes + ((comes - goes) * share)), -1, 1);
        }
        Assert.Equal([0, 1, 2, 3, 4], greys[Frames..]);
    }

    [Fact]
    public async Task Where_there_is_no_picture_it_is_black_and_where_a_file_ends_its_last_frame_stays()
    {
        using var clips = new Clips();
        var file = await clips.CountedAsync(FrameRate.R25, 1);
        var late = new SourceTime(MediaTime.FromMilliseconds(800));
        var (path, _) = await clips.CopyAsync(
            new CopyParts(
                [],
                [],
                [new FramePiece(5, null, FrameRate.R25, default), new FramePiece(10, file, FrameRate.R25, late)],
                15,
                FrameRate.R25,
                new TimecodeCount(FrameRate.R25, false).LabelOf(0),
                NoTitles
            ),
            Plain
        );
        var greys = await Clips.GreysAsync(path);
        Assert.Equal([-1, -1, -1, -1, -1, 20, 21, 22, 23, 24, 24, 24, 24, 24, 24], greys);
    }

    [Fact]
    public async Task A_file_that_is_no_film_ends_the_copy_with_a_word_and_leaves_nothing()
    {
        using var clips = new Clips();
        var file = clips.PathOf("broken.mp4");
        await File.WriteAllTextAsync(file, "#EXTM3U\nhttp://127.0.0.1/secret\n");
        var failed = await Assert.ThrowsAsync<ToolException>(() =>
            clips.CopyAsync(
                new CopyParts(
                    [],
                    [],
                    [new FramePiece(10, file, FrameRate.R25, default)],
                    10,
                    FrameRate.R25,
                    new TimecodeCount(FrameRate.R25, false).LabelOf(0),
                    NoTitles
                ),
                Plain
            )
        );
        Assert.Contains("ffmpeg failed", failed.Message, StringComparison.Ordinal);
        Assert.Equal([file], Directory.GetFiles(clips.Folder));
    }
}
