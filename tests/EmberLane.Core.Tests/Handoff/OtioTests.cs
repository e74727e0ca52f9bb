using System.Text.Json;
using CsCheck;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Handoff;

public sealed class OtioTests
{
    private static SourceFacts Facts(FrameRate rate, long label, long frames) =>
        new(
            "mov",
            rate.TimeOf(frames),
            new PictureFacts("h264", "yuv420p", 960, 540, rate, false),
            [new SoundTrack(1, "aac", 48_000, 2)],
            new StartOfFile(new TimecodeCount(rate, false).LabelOf(label), null),
            null,
            null,
            null
        );

    private static SourceFacts Sound(long samples) =>
        new(
            "wav",
            MediaTime.FromMilliseconds(600_000),
            null,
            [new SoundTrack(0, "pcm_s16le", 48_000, 4)],
            new StartOfFile(null, MediaTime.FromSamples(samples, 48_000)),
            null,
            null,
            null
        );

    private static readonly Gen<SourceFacts> Sources = Gen.OneOf(
        Gen.Select(Gen.OneOfConst([.. FrameRate.Supported]), Gen.Long[0, 2_000_000], Gen.Const(20_000L)).Select(Facts),
        Gen.Long[0, 4_000_000_000L].Select(Sound)
    );

    [Fact]
    public void What_is_written_is_read_again_zero_frames_apart_at_every_rate_for_ten_thousand_stories()
    {
        var items = Gen.Select(Gen.Int[0, 3], Sources, Gen.Int[0, 9_000], Gen.Int[1, 400]).Array[1, 6];
        Gen.Select(Gen.OneOfConst([.. TimecodeCount.Supported]), items, Gen.Long[0, 1_000_000])
            .Sample(
                (count, made, start) =>
                {
                    var track = new Track(TrackKind.Picture, "V1", [.. made.SelectMany((m, i) => Items(m, i, count))]);
                    var written = new EditedTimeline("Ferry & <café>", count.LabelOf(start), [track], []);
                    var back = OtioReader.Read(OtioWriter.Write(written, m => m.FileName), count.Rate);
                    Assert.Equal(written.Title, back.Title);
                    Assert.Equal(start, back.Start.Frame);
                    var read = Assert.Single(back.Tracks).Items;
                    Assert.Equal(track.Items.Count, read.Count);
                    foreach (var (was, now) in track.Items.Zip(read))
                    {
                        Assert.Equal(was.GetType(), now.GetType());
                        Assert.Equal(count.Rate.NearestFrame(was.Length), count.Rate.NearestFrame(now.Length));
                        if (was is Clip clip && now is Clip other)
                        {
                            Assert.Equal((clip.Media.Reel, clip.IsEnabled, clip.Note), (other.Media.Reel, other.IsEnabled, other.Note));
                            Assert.Equal(clip.Channels, other.Channels);
                            // Read times are in the file's own timecode: without its begin they are the file's, to the microsecond.
                            var (numerator, denominator, first) = OtioWriterClock(clip.Media.Facts!);
                            var begins = MediaTime.FromSecondsRounded((decimal)first * denominator / numerator);
                            var off = (other.Range.In.FromZero - begins - clip.Range.In.FromZero).Units;
                            Assert.InRange(off, -MediaTime.UnitsPerSecond / 1_000_000, MediaTime.UnitsPerSecond / 1_000_000);
                        }
                    }
                },
                iter: 10_000
            );

        static IEnumerable<TimelineItem> Items((int Kind, SourceFacts Facts, int From, int Frames) made, int i, TimecodeCount count)
        {
            if (made.Kind == 0)
            {
                return [new Gap(i, "a space", count.Rate.TimeOf(made.Frames))];
            }
            var media = new TimelineMedia(i, $"REEL{i}", $"reel {i}.mov", made.Facts.Channels, made.Facts, count);
            var from = new SourceTime(count.Rate.TimeOf(made.From));
            var clip = new Clip(i, "Maren / why", media, new SourceRange(from, from + count.Rate.TimeOf(made.Frames)), made.Kind != 1)
            {
                Open = made.Kind == 2 ? [2] : null,
            };
            return made.Kind == 3 && i > 0 ? [new Transition(i, count.Rate.TimeOf(12)), clip] : [clip];
        }

        static (int, int, long) OtioWriterClock(SourceFacts facts) =>
            facts.Picture is { } picture
                ? (picture.Rate.Numerator, picture.Rate.Denominator, facts.Start.Label!.Value.Frame)
                : (48_000, 1, facts.Start.SinceMidnight!.Value.ToSamplesFloor(48_000));
    }

    [Fact]
    public void Fields_are_those_of_the_standard_and_source_times_are_whole_at_the_files_own_rate()
    {
        var pal = new TimecodeCount(FrameRate.R25, false);
        var media = new TimelineMedia(1, "A001", "A001.MOV", 2, Facts(FrameRate.R25, 90_000, 5_000), pal);
        var range = new SourceRange(new SourceTime(FrameRate.R25.TimeOf(50)), new SourceTime(FrameRate.R25.TimeOf(150)));
        var timeline = new EditedTimeline(
            "T",
            pal.LabelOf(90_000),
            [new Track(TrackKind.Picture, "V1", [new Clip(1, "", media, range)])],
            [new Marker(new RecordRange(default, new RecordTime(FrameRate.R25.TimeOf(100))), "The crossing", "look")]
        );
        using var document = JsonDocument.Parse(OtioWriter.Write(timeline, _ => "file:///footage/A001.MOV"));
        var root = document.RootElement;
        Assert.Equal("Timeline.1", root.GetProperty("OTIO_SCHEMA").GetString());
        Assert.Equal(90_000, root.GetProperty("global_start_time").GetProperty("value").GetDecimal());
        var tracks = root.GetProperty("tracks");
        Assert.Equal("Marker.2", tracks.GetProperty("markers")[0].GetProperty("OTIO_SCHEMA").GetString());
        var clip = tracks.GetProperty("children")[0].GetProperty("children")[0];
        Assert.Equal("Clip.2", clip.GetProperty("OTIO_SCHEMA").GetString());
        Assert.Equal(90_050, clip.GetProperty("source_range").GetProperty("start_time").GetProperty("value").GetDecimal());
        Assert.Equal(100, clip.GetProperty("source_range").GetProperty("duration").GetProperty("value").GetDecimal());
        var reference = clip.GetProperty("media_references").GetProperty("DEFAULT_MEDIA");
        Assert.Equal("file:///footage/A001.MOV", reference.GetProperty("target_url").GetString());
        Assert.Equal(90_000, reference.GetProperty("available_range").GetProperty("start_time").GetProperty("value").GetDecimal());
        var marker = Assert.Single(OtioReader.Read(OtioWriter.Write(timeline, _ => ""), FrameRate.R25).Markers);
        Assert.Equal(timeline.Markers[0], marker);
    }

    [Fact]
    public void Children_that_are_not_known_and_stacks_within_a_track_keep_their_place_as_gaps()
    {
        const string Range = "{\"start_time\":{\"value\":0,\"rate\":25},\"duration\":{\"value\":50,\"rate\":25}}";
        const string Text = $$$"""
            {"OTIO_SCHEMA":"Timeline.1","name":"N","tracks":{"OTIO_SCHEMA":"Stack.1","children":[
            {"OTIO_SCHEMA":"Track.1","kind":"Video","children":[
            {"OTIO_SCHEMA":"Stack.1","name":"nested","source_range":{{{Range}}},"children":[]},
            {"OTIO_SCHEMA":"Wipe.7","name":"odd","source_range":{{{Range}}}},
            {"OTIO_SCHEMA":"Clip.1","name":"c.mov",
            "media_reference":{"OTIO_SCHEMA":"MissingReference.1","name":"R","available_range":{{{Range}}}}}]}]}}
            """;
        var items = OtioReader.Read(Text, FrameRate.R25).Tracks[0].Items;
        Assert.Equal(["nested", "odd"], items.OfType<Gap>().Select(g => g.Note));
        Assert.Equal(FrameRate.R25.TimeOf(150), items.Aggregate(MediaTime.Zero, (sum, i) => sum + i.Length));
        Assert.Equal(("R", "c.mov"), (((Clip)items[2]).Media.Reel, ((Clip)items[2]).Media.FileName));
    }

    [Theory]
    [InlineData("", "not JSON")]
    [InlineData("{\"OTIO_SCHEMA\":\"Clip.2\"}", "no timeline")]
    [InlineData("{\"OTIO_SCHEMA\":\"Timeline.1\",\"tracks\":{\"children\":3}}", "“children”")]
    [InlineData(
        "{\"OTIO_SCHEMA\":\"Timeline.1\",\"tracks\":{\"children\":[{\"OTIO_SCHEMA\":\"Track.1\",\"children\":["
            + "{\"OTIO_SCHEMA\":\"Clip.2\"}]}]}}",
        "Track 1, child 1"
    )]
    [InlineData(
        "{\"OTIO_SCHEMA\":\"Timeline.1\",\"tracks\":{\"children\":[{\"OTIO_SCHEMA\":\"Track.1\",\"children\":["
            + "{\"OTIO_SCHEMA\":\"Gap.1\",\"source_range\":"
            + "{\"start_time\":{\"value\":1e30,\"rate\":0},\"duration\":{\"value\":1,\"rate\":25}}}]}]}}",
        "Track 1, child 1"
    )]
    [InlineData("{\"OTIO_SCHEMA\":\"Timeline.1\",\"name\":\"\\ud800\",\"tracks\":{\"children\":[]}}", "half of a letter")]
    public void What_is_broken_is_refused_with_its_place(string text, string says) =>
        Assert.Contains(says, Assert.Throws<FormatException>(() => OtioReader.Read(text, FrameRate.R25)).Message, StringComparison.Ordinal);
}
