using CsCheck;
using EmberLane.Core.Handoff;
using EmberLane.Core.Handoff.Back;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Handoff;

public sealed class FurtherTracksTests
{
    private static readonly TimecodeCount Pal = new(FrameRate.R25, false);

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SourceFacts Camera(int hour) =>
        new(
            "mov",
            MediaTime.FromMilliseconds(600_000),
            new PictureFacts("h264", "yuv420p", 960, 540, FrameRate.R25, false),
            [],
            new StartOfFile(new Timecode(Pal, hour, 0, 0, 0), null),
            null,
            null,
            null
        );

    private static readonly SourceFacts Recorder = new(
        "wav",
        MediaTime.FromMilliseconds(600_000),
        null,
        [new SoundTrack(0, "pcm_s16le", 48_000, 2)],
        new StartOfFile(null, MediaTime.Zero),
        null,
        null,
        null
    );

    private static readonly ListedSource Drum = new(9, "DRUM", "drum.mov", Camera(5), null);

    private static readonly Dictionary<long, ListedSitting> Sittings = new[] { 1, 2 }.ToDictionary(
        n => (long)n,
        n => new ListedSitting(
            n,
            [new ListedSource((n * 10) + 1, $"CAM{n}", $"cam{n}.mov", Camera(n), new ClockMap(At(0), 0))],
            new ListedSource((n * 10) + 2, $"SND{n}", $"snd{n}.wav", Recorder, new ClockMap(At(0), 0))
        )
    );

    private static ListedCard Card(long sitting, long from, long to, OverPicture? over = null) =>
        new(
            new Card(Guid.NewGuid(), 1, sitting, new SittingRange(At(from), At(to)), null) { Over = over },
            [new SittingRange(At(from), At(to))],
            "Maren"
        )
        {
            Over = over is null ? null : Drum,
        };

    private static OverPicture Over(long after, long from, long to) =>
        new(
            9,
            new SourceRange(new SourceTime(MediaTime.FromMilliseconds(from)), new SourceTime(MediaTime.FromMilliseconds(to))),
            MediaTime.FromMilliseconds(after)
        );

    private static EditedTimeline Lay(WantedTracks wanted, params ListedPiece[] pieces) =>
        Conform.Lay("T", Pal.Parse("01:00:00:00"), pieces, Sittings, wanted);

    private static string Line(ListedEvent e) => $"{e.Reel} {e.Track.Code()} {e.SourceIn} {e.RecordIn} {e.RecordOut}";

    [Fact]
    public void Alternates_lie_whole_and_switched_off_from_where_their_card_begins_on_as_many_tracks_as_they_need()
    {
        ListedPiece[] pieces =
        [
            Card(1, 10_000, 12_000) with
            {
                Alternates = [Card(2, 20_000, 27_000), Card(1, 40_000, 41_000)],
            },
            Card(1, 50_000, 53_000) with
            {
                Alternates = [Card(2, 60_000, 69_000)],
            },
        ];
        var timeline = Lay(new WantedTracks(Angles: true, Alternates: true), pieces);
        Assert.Equal(
            ["V1", "V2 alternates", "V3 alternates", "V4 angles", "A1", "A2 alternates", "A3 alternates"],
            timeline.Tracks.Select(t => t.Name)
        );
        Assert.All(
            timeline.Tracks.Where(t => t.Use != TrackUse.Cut).SelectMany(t => t.Items).OfType<Clip>(),
            clip => Assert.False(clip.IsEnabled)
        );
        var further = EdlEvents.Further(timeline, LabelClock.Camera);
        Assert.Equal(["V2 alternates", "V3 alternates", "V4 angles"], further.Select(f => f.Track.Name));
        Assert.Equal(
            ["CAM2 V 02:00:20:00 01:00:00:00 01:00:07:00", "SND2 AA 00:00:20:00 01:00:00:00 01:00:07:00"],
            further[0].List.Events.Select(Line)
        );
        Assert.Equal(
            [
                "CAM1 V 01:00:40:00 01:00:00:00 01:00:01:00",
                "SND1 AA 00:00:40:00 01:00:00:00 01:00:01:00",
                "CAM2 V 02:01:00:00 01:00:02:00 01:00:11:00",
                "SND2 AA 00:01:00:00 01:00:02:00 01:00:11:00",
            ],
            further[1].List.Events.Select(Line)
        );
        Assert.Equal([1, 2, 3, 4], further[1].List.Events.Select(e => e.Number));
        // The cut is what it is without them, and it comes back as long as it left.
        var cut = timeline with
        {
            Tracks = [.. timeline.Tracks.Where(t => t.Use == TrackUse.Cut)],
        };
        Assert.Equal(EdlEvents.Of(Lay(new WantedTracks(), pieces)).Events.Select(Line), EdlEvents.Of(cut).Events.Select(Line));
        var sources = new BackSources([.. Sittings.Values.SelectMany(s => s.Angles.Append(s.Sound!).Select(a => new BackSource(a, s.Id)))]);
        var runs = BackRun.Of(OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), FrameRate.R25), BackForm.Otio, sources);
        Assert.Equal([(0L, 50L, 250L), (50L, 125L, 1250L)], runs.Select(r => (r.First, r.End, r.In)));
    }

    [Fact]
    public void A_picture_over_a_card_can_lie_on_a_track_above_the_cut_with_a_list_of_its_own()
    {
        var timeline = Lay(
            new WantedTracks(OversApart: true),
            new ListedGap(25, "a space"),
            Card(1, 10_000, 12_000, Over(400, 2_000, 3_000)),
            Card(1, 20_000, 21_000)
        );
        Assert.Equal(["V1", "V2 over", "A1"], timeline.Tracks.Select(t => t.Name));
        Assert.Equal(["CAM1", "CAM1"], timeline.Tracks[0].Items.OfType<Clip>().Select(c => c.Media.Reel));
        Assert.Equal(timeline.Tracks[0].Length, timeline.Tracks[1].Length);
        var (track, list) = Assert.Single(EdlEvents.Further(timeline, LabelClock.Camera));
        Assert.Equal(("V2 over", "T, V2 over"), (track.Name, list.Title));
        Assert.Equal(["DRUM V 05:00:02:00 01:00:01:10 01:00:02:10"], list.Events.Select(Line));
        // A story without such pictures has no such track.
        Assert.Equal(["V1", "A1"], Lay(new WantedTracks(OversApart: true), Card(1, 0, 1_000)).Tracks.Select(t => t.Name));
    }

    [Fact]
    public void What_is_seen_in_each_frame_is_the_same_whether_pictures_over_cards_lie_on_a_track_of_their_own_or_not()
    {
        var over = Gen.Select(Gen.Long[0, 3_000], Gen.Long[0, 9_000], Gen.Long[1, 4_000]);
        Gen.Select(Gen.Bool, Gen.Long[0, 90_000], Gen.Long[40, 5_000], over)
            .Array[1, 6]
            .Sample(made =>
            {
                var pieces = made.Select(
                        (m, i) =>
                            (ListedPiece)Card(
                                1 + (i % 2),
                                m.Item2,
                                m.Item2 + m.Item3,
                                m.Item1 ? Over(m.Item4.Item1, m.Item4.Item2, m.Item4.Item2 + m.Item4.Item3) : null
                            )
                    )
                    .ToArray();
                var one = Frames(Lay(new WantedTracks(), pieces).Of(TrackKind.Picture));
                var apart = Frames(Lay(new WantedTracks(OversApart: true), pieces).Of(TrackKind.Picture));
                Assert.Equal(one, apart);
            });

        // By frame of the record: reel and frame of the file of the highest track that has something.
        static SortedDictionary<long, string> Frames(IEnumerable<Track> tracks)
        {
            var seen = new SortedDictionary<long, string>();
            foreach (var (item, range) in tracks.SelectMany(t => t.Placed()))
            {
                if (item is Clip clip)
                {
                    var (first, from) = (FrameRate.R25.NearestFrame(range.In.FromZero), FrameRate.R25.NearestFrame(clip.Range.In.FromZero));
                    for (long f = 0; f < FrameRate.R25.NearestFrame(clip.Length); f++)
                    {
                        seen[first + f] = $"{clip.Media.Reel} {from + f}";
                    }
                }
            }
            return seen;
        }
    }
}
