using CsCheck;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Tests.Handoff;

public sealed class ConformTests
{
    private static readonly TimecodeCount Pal = new(FrameRate.R25, false);

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SourceFacts Picture(FrameRate rate, string label, bool drop, long frames, int channels = 0) =>
        new(
            "mov",
            rate.TimeOf(frames),
            new PictureFacts("h264", "yuv420p", 960, 540, rate, false),
            channels == 0 ? [] : [new SoundTrack(1, "aac", 48_000, channels)],
            new StartOfFile(new TimecodeCount(rate, drop).Parse(label), null),
            null,
            null,
            null
        );

    private static SourceFacts Recorder(long milliseconds, long sinceMidnight, int channels) =>
        new(
            "wav",
            MediaTime.FromMilliseconds(milliseconds),
            null,
            [new SoundTrack(0, "pcm_s16le", 48_000, channels)],
            new StartOfFile(null, MediaTime.FromMilliseconds(sinceMidnight)),
            null,
            null,
            null
        );

    private static ListedSource Listed(long id, string reel, SourceFacts facts, long startMilliseconds) =>
        new(id, reel, reel + ".MOV", facts, new ClockMap(At(startMilliseconds), 0));

    private static ListedCard Card(long from, long to, long? angle = null) =>
        new(new Card(Guid.NewGuid(), 1, 1, new SittingRange(At(from), At(to)), angle), [new SittingRange(At(from), At(to))], "Maren / why");

    private static EventList Lay(Timecode start, ListedSitting sitting, params ListedCard[] cards) =>
        EdlEvents.Of(Conform.Lay("T", start, cards, new Dictionary<long, ListedSitting> { [sitting.Id] = sitting }));

    [Fact]
    public void Spaces_and_titles_are_black_and_plain_media_is_its_file_from_its_in_point_on()
    {
        var sitting = new ListedSitting(1, [Listed(1, "CAM", Picture(FrameRate.R25, "01:00:00:00", false, 5000), 0)], null);
        var music = new ListedSource(5, "MUSIC", "music.wav", Recorder(60_000, 0, 2), null);
        var events = EdlEvents
            .Of(
                Conform.Lay(
                    "T",
                    Pal.Parse("01:00:00:00"),
                    [
                        new ListedGap(50, "a space for “the drum”"),
                        Card(10_000, 11_000),
                        new ListedMedia(music, new SourceTime(MediaTime.FromMilliseconds(4_000)), 25, "level -6 dB"),
                    ],
                    new Dictionary<long, ListedSitting> { [1] = sitting }
                )
            )
            .Events;
        Assert.Equal(["BL", "CAM", "BL", "MUSIC"], events.Select(e => e.Reel));
        Assert.Equal(("00:00:00:00", "00:00:02:00", "01:00:00:00", "01:00:02:00"), Times(events[0]));
        Assert.Contains("COMMENT: A SPACE FOR “THE DRUM”", events[0].Comments);
        Assert.Equal(("01:00:10:00", "01:00:11:00", "01:00:02:00", "01:00:03:00"), Times(events[1]));
        Assert.Equal(("00:00:04:00", "00:00:05:00", "01:00:03:00", "01:00:04:00"), Times(events[3]));
    }

    [Fact]
    public void A_picture_over_a_card_is_seen_from_where_it_comes_in_and_the_cards_own_around_it()
    {
        var sitting = new ListedSitting(
            1,
            [Listed(1, "CAM", Picture(FrameRate.R25, "01:00:00:00", false, 5000), 0)],
            Listed(2, "SND", Recorder(300_000, 0, 1), 0)
        );
        var drum = new ListedSource(9, "DRUM", "drum.mov", Picture(FrameRate.R25, "05:00:00:00", false, 500), null);
        var over = new OverPicture(
            9,
            new SourceRange(new SourceTime(MediaTime.FromMilliseconds(2_000)), new SourceTime(MediaTime.FromMilliseconds(3_000))),
            MediaTime.FromMilliseconds(400)
        );
        ListedCard Covered(OverPicture lies) =>
            Card(10_000, 12_000) is var card ? card with { Card = card.Card with { Over = lies }, Over = drum } : null!;
        var events = Lay(Pal.Parse("01:00:00:00"), sitting, Covered(over)).Events;
        Assert.Equal(["CAM", "DRUM", "CAM", "SND"], events.Select(e => e.Reel));
        Assert.Equal(("01:00:10:00", "01:00:10:10", "01:00:00:00", "01:00:00:10"), Times(events[0]));
        Assert.Equal(("05:00:02:00", "05:00:03:00", "01:00:00:10", "01:00:01:10"), Times(events[1]));
        Assert.Equal(("01:00:11:10", "01:00:12:00", "01:00:01:10", "01:00:02:00"), Times(events[2]));
        Assert.Equal(("00:00:10:00", "00:00:12:00", "01:00:00:00", "01:00:02:00"), Times(events[3]));
        // Longer than the card: nothing of it is seen beyond; past the card: nothing at all.
        Assert.Equal(
            ["DRUM", "SND"],
            Lay(
                Pal.Parse("01:00:00:00"),
                sitting,
                Covered(
                    over with
                    {
                        After = MediaTime.Zero,
                        Range = new SourceRange(default, new SourceTime(MediaTime.FromMilliseconds(9_000))),
                    }
                )
            )
                .Events.Select(e => e.Reel)
        );
        Assert.Equal(
            ["CAM", "SND"],
            Lay(Pal.Parse("01:00:00:00"), sitting, Covered(over with { After = MediaTime.FromMilliseconds(2_000) }))
                .Events.Select(e => e.Reel)
        );
    }

    [Fact]
    public void Picture_and_recorder_of_a_card_are_listed_at_the_frame_where_they_are()
    {
        var sitting = new ListedSitting(
            1,
            [Listed(1, "CAM", Picture(FrameRate.R25, "01:00:00:00", false, 5000), 2000)],
            Listed(2, "SND", Recorder(300_000, 27_725_000, 3), 0)
        );
        var events = Lay(Pal.Parse("01:00:00:00"), sitting, Card(10_000, 12_000), Card(20_000, 21_000)).Events;
        Assert.Equal(["V", "AA", "V", "AA"], events.Select(e => e.Track.Code()));
        Assert.Equal(("01:00:08:00", "01:00:10:00", "01:00:00:00", "01:00:02:00"), Times(events[0]));
        Assert.Equal(("07:42:15:00", "07:42:17:00", "01:00:00:00", "01:00:02:00"), Times(events[1]));
        Assert.Equal(("01:00:18:00", "01:00:19:00", "01:00:02:00", "01:00:03:00"), Times(events[2]));
        Assert.Equal([3], events[1].ExtraChannels);
        Assert.Equal(["FROM CLIP NAME: CAM.MOV", "COMMENT: MAREN / WHY"], events[0].Comments);
    }

    [Fact]
    public void A_camera_whose_own_sound_is_read_gives_one_event_for_both()
    {
        var camera = Listed(1, "CAM", Picture(FrameRate.R25, "14:05:11:00", false, 5000, channels: 1), 0);
        var e = Assert.Single(Lay(Pal.Parse("01:00:00:00"), new ListedSitting(1, [camera], camera), Card(1000, 3000)).Events);
        Assert.Equal(("B", "14:05:12:00"), (e.Track.Code(), e.SourceIn.ToString()));
    }

    [Fact]
    public void A_card_is_rounded_outwards_to_whole_frames_so_that_no_word_is_clipped()
    {
        var sitting = new ListedSitting(1, [Listed(1, "CAM", Picture(FrameRate.R25, "00:00:00:00", false, 5000), 0)], null);
        var e = Assert.Single(Lay(Pal.Parse("01:00:00:00"), sitting, Card(1039, 2041)).Events);
        Assert.Equal(("00:00:01:00", "00:00:02:02", "01:00:00:00", "01:00:01:02"), Times(e));
    }

    [Fact]
    public void Where_the_first_angle_has_no_picture_the_next_takes_over_and_what_nobody_has_is_black()
    {
        var sitting = new ListedSitting(
            1,
            [
                Listed(1, "ONE", Picture(FrameRate.R25, "00:00:00:00", false, 50), 0),
                Listed(2, "TWO", Picture(FrameRate.R25, "00:00:00:00", false, 50), 1000),
            ],
            null
        );
        var events = Lay(Pal.Parse("00:00:00:00"), sitting, Card(0, 4000)).Events;
        Assert.Equal(["ONE", "TWO", "BL"], events.Select(e => e.Reel));
        Assert.Equal(("00:00:01:00", "00:00:02:00", "00:00:02:00", "00:00:03:00"), Times(events[1]));
        Assert.Equal("00:00:04:00", events[2].RecordOut.ToString());
    }

    [Fact]
    public void The_angle_that_a_person_chose_comes_first()
    {
        var sitting = new ListedSitting(
            1,
            [
                Listed(1, "ONE", Picture(FrameRate.R25, "00:00:00:00", false, 500), 0),
                Listed(2, "TWO", Picture(FrameRate.R25, "00:00:00:00", false, 500), 0),
            ],
            null
        );
        Assert.Equal("TWO", Assert.Single(Lay(Pal.Parse("00:00:00:00"), sitting, Card(0, 1000, angle: 2)).Events).Reel);
    }

    [Fact]
    public void A_card_that_follows_a_plan_changes_its_angle_on_the_nearest_frame_and_one_that_was_chosen_for_it_goes_before()
    {
        var sitting = new ListedSitting(
            1,
            [
                Listed(1, "ONE", Picture(FrameRate.R25, "00:00:00:00", false, 500), 0),
                Listed(2, "TWO", Picture(FrameRate.R25, "00:00:00:00", false, 500), 0),
            ],
            null
        );
        AngleShot[] shots = [new(new SittingRange(At(1_000), At(2_010)), [2]), new(new SittingRange(At(2_010), At(4_000)), [1])];
        var events = Lay(Pal.Parse("00:00:00:00"), sitting, Card(1_000, 4_000) with { Shots = shots }).Events;
        Assert.Equal(["TWO", "ONE"], events.Select(e => e.Reel));
        Assert.Equal(("00:00:01:00", "00:00:02:00", "00:00:00:00", "00:00:01:00"), Times(events[0]));
        Assert.Equal(("00:00:02:00", "00:00:04:00", "00:00:01:00", "00:00:03:00"), Times(events[1]));
        Assert.Equal(
            "ONE",
            Assert.Single(Lay(Pal.Parse("00:00:00:00"), sitting, Card(1_000, 4_000, 1) with { Shots = shots }).Events).Reel
        );
    }

    [Fact]
    public void Whatever_the_shots_are_each_frame_of_a_card_is_shown_once()
    {
        var random = new Random(176);
        for (var n = 0; n < 500; n++)
        {
            var shots = new List<AngleShot>();
            for (
                var at = random.Next(0, 3_000);
                shots.Count < random.Next(0, 6);
                at = (int)shots[^1].Range.Out.FromZero.ToMillisecondsRounded()
            )
            {
                var from = at + random.Next(0, 2) * random.Next(0, 500);
                shots.Add(new AngleShot(new SittingRange(At(from), At(from + random.Next(1, 2_000))), [random.Next(1, 4)]));
            }
            var frames = new CardFrames(random.Next(0, 100), random.Next(1, 100));
            var parts = AngleShot.Part(frames, shots, FrameRate.R25);
            Assert.Equal(frames.First, parts[0].Frames.First);
            Assert.All(parts.Zip(parts.Skip(1)), p => Assert.Equal(p.First.Frames.First + p.First.Frames.Count, p.Second.Frames.First));
            Assert.Equal(frames.Count, parts.Sum(p => p.Frames.Count));
            Assert.All(parts, p => Assert.True(p.Frames.Count > 0));
        }
    }

    [Fact]
    public void A_drop_frame_source_in_a_drop_frame_story_keeps_its_own_labels_across_a_minute()
    {
        var drop = new TimecodeCount(FrameRate.R2997, true);
        var sitting = new ListedSitting(1, [Listed(1, "C", Picture(FrameRate.R2997, "00:59:58;12", true, 5000), 0)], null);
        var from = FrameRate.R2997.TimeOf(48);
        var range = new SittingRange(new SittingTime(from), new SittingTime(FrameRate.R2997.TimeOf(48 + 1800)));
        var card = new ListedCard(new Card(Guid.NewGuid(), 1, 1, range, null), [range], "");
        var e = Assert.Single(Lay(drop.Parse("01:00:00;00"), sitting, card).Events);
        Assert.Equal(("01:00:00;00", "01:01:00;02", "01:00:00;00", "01:01:00;02"), Times(e));
    }

    [Fact]
    public void A_source_at_another_rate_is_written_at_the_storys_rate()
    {
        var sitting = new ListedSitting(1, [Listed(1, "C", Picture(FrameRate.R2997, "00:59:58;15", true, 3000), 0)], null);
        var timeline = Conform.Lay(
            "T",
            Pal.Parse("01:00:00:00"),
            [Card(2000, 4000)],
            new Dictionary<long, ListedSitting> { [1] = sitting }
        );
        // Two seconds on, 59 frames were shown, and two labels left out at the hour are none: 01:00:00;14, of which the first label is 12.
        var e = Assert.Single(EdlEvents.Of(timeline).Events);
        Assert.Equal(("01:00:00:12", "01:00:02:12"), (e.SourceIn.ToString(), e.SourceOut.ToString()));
        Assert.Contains("SOURCE TIMES: CAMERA CLOCK AT 29.97", e.Comments);
        // Half a second of 30 frames is 12.5 of 25: the first frame that the file surely has is 13.
        e = Assert.Single(EdlEvents.Of(timeline, LabelClock.List).Events);
        Assert.Equal(("01:00:00:13", "01:00:02:13"), (e.SourceIn.ToString(), e.SourceOut.ToString()));
        Assert.Contains("SOURCE TIMES: LIST CLOCK AT 25", e.Comments);
    }

    [Fact]
    public void No_event_claims_a_frame_that_its_source_does_not_have_and_source_and_record_are_equally_long_at_every_pair_of_rates() =>
        Gen.Select(
                Gen.OneOfConst([.. TimecodeCount.Supported]),
                Gen.OneOfConst([.. FrameRate.Supported]),
                Gen.Long[0, 3000],
                Gen.Long[100, 4000],
                Gen.Long[0, 100_000]
            )
            .Sample(
                (count, rate, start, frames, from) =>
                {
                    var facts = Picture(rate, "00:00:00:00", false, frames);
                    var source = new ListedSource(1, "C", "C.MOV", facts, new ClockMap(At(start), 20_000));
                    var events = Lay(count.LabelOf(0), new ListedSitting(1, [source], null), Card(from, from + 1777)).Events;
                    Assert.Equal(
                        CardFrames.Of(new SittingRange(At(from), At(from + 1777)), count.Rate).Count,
                        events.Sum(e => e.RecordOut.Frame - e.RecordIn.Frame)
                    );
                    foreach (var e in events.Where(e => e.Reel == "C"))
                    {
                        Assert.Equal(e.RecordOut.Frame - e.RecordIn.Frame, e.SourceOut.Frame - e.SourceIn.Frame);
                        // What the camera shows then: its second, and its frame of that second, which the file has.
                        var label = e.SourceIn;
                        var own = (((label.Hours * 60L) + label.Minutes) * 60) + label.Seconds;
                        var frame =
                            rate == count.Rate
                                ? e.SourceIn.Frame
                                : (own * rate.Nominal) + Exact.FloorDivide((Int128)label.Frames * rate.Nominal, count.Rate.Nominal);
                        Assert.InRange(frame, 0, frames - 1);
                        Assert.True(rate != count.Rate || e.SourceOut.Frame <= frames);
                        // What is shown is what was there: within a frame of the place of the source on the clock.
                        var shown = source.Place!.Value.ToSitting(new SourceTime(rate.TimeOf(frame)));
                        var meant = new SittingTime(
                            count.Rate.TimeOf(
                                CardFrames.Of(new SittingRange(At(from), At(from + 1777)), count.Rate).First + e.RecordIn.Frame
                            )
                        );
                        var most = count.Rate.TimeOf(1).Units + rate.TimeOf(1).Units;
                        Assert.InRange((meant - shown).Units, -most, most);
                    }
                }
            );

    [Fact]
    public void A_story_past_midnight_is_refused() =>
        Assert.Throws<EditRefusedException>(() => Lay(Pal.Parse("23:59:59:00"), new ListedSitting(1, [], null), Card(0, 5000)));

    private static (string, string, string, string) Times(ListedEvent e) =>
        (e.SourceIn.ToString(), e.SourceOut.ToString(), e.RecordIn.ToString(), e.RecordOut.ToString());

    [Fact]
    public void Open_mics_are_lines_of_their_own_channels_and_the_sound_of_the_sitting_fills_what_none_of_them_has()
    {
        var recorder = new ListedSource(2, "SND", "snd.wav", Recorder(60_000, 0, 4), new ClockMap(At(0), 0));
        var spare = new ListedSource(3, "SPARE", "spare.wav", Recorder(60_000, 0, 1), new ClockMap(At(0), 0));
        var sitting = new ListedSitting(1, [Listed(1, "CAM", Picture(FrameRate.R25, "00:00:00:00", false, 5000), 0)], spare)
        {
            Mics =
            [
                new MicShot(new SittingRange(At(0), At(12_000)), recorder, 1, 0),
                new MicShot(new SittingRange(At(11_000), At(14_000)), recorder, 3, 1),
                new MicShot(new SittingRange(At(16_000), At(90_000)), recorder, 2, 2),
            ],
        };
        var list = Lay(Pal.Parse("01:00:00:00"), sitting, Card(10_000, 18_000));
        Assert.Equal(
            [
                "CAM V  01:00:00:00 01:00:08:00",
                "SND A  01:00:00:00 01:00:02:00",
                "SPARE A  01:00:04:00 01:00:06:00",
                "SND NONE 3 01:00:01:00 01:00:04:00",
                "SND A2  01:00:06:00 01:00:08:00",
            ],
            list.Events.Select(e => $"{e.Reel} {e.Track.Code()} {string.Join(' ', e.ExtraChannels)} {e.RecordIn} {e.RecordOut}")
        );
        Assert.All(list.Events, e => Assert.Equal(e.RecordOut.Frame - e.RecordIn.Frame, e.SourceOut.Frame - e.SourceIn.Frame));
        var back = EdlEvents.Timeline(EdlReader.Read(EdlWriter.Write(list)[0], FrameRate.R25));
        Assert.Equal(3, back.Tracks.Count);
        Assert.Equal(
            ["SND 1", "SND 2", "SND 3", "SPARE 1"],
            back.Of(Core.Timeline.TrackKind.Sound)
                .SelectMany(t => t.Items.OfType<Core.Timeline.Clip>())
                .Select(c => $"{c.Media.Reel} {string.Join(' ', c.Channels)}")
                .Order(StringComparer.Ordinal)
        );
    }

    [Fact]
    public void Something_is_heard_in_every_frame_of_a_card_however_mics_open()
    {
        var ranges = Gen.Select(Gen.Int[0, 9_000], Gen.Int[1, 4_000], Gen.Int[0, 3], Gen.Int[0, 20_000]).Array[0, 8];
        Gen.Select(ranges, Gen.Int[0, 5_000], Gen.Int[1, 5_000])
            .Sample(
                (opened, from, length) =>
                {
                    var own = new ListedSource(9, "OWN", "own.wav", Recorder(60_000, 0, 2), new ClockMap(At(0), 0));
                    var mics = opened.Select(o => new MicShot(
                        new SittingRange(At(o.Item1), At(o.Item1 + o.Item2)),
                        new ListedSource(o.Item3, $"R{o.Item3}", "r.wav", Recorder(6_000, 0, 4), new ClockMap(At(o.Item4 - 10_000), 0)),
                        1,
                        o.Item3
                    ));
                    // Openings of one mic never overlap.
                    var apart = mics.GroupBy(m => m.Track).SelectMany(g => g.Take(1)).ToList();
                    var laid = Conform.Lay(
                        "T",
                        Pal.Parse("01:00:00:00"),
                        [Card(from, from + length)],
                        new Dictionary<long, ListedSitting> { [1] = new ListedSitting(1, [], own) { Mics = apart } }
                    );
                    var sounds = laid.Of(Core.Timeline.TrackKind.Sound).ToList();
                    var heard = new HashSet<long>();
                    foreach (var (item, range) in sounds.SelectMany(t => t.Placed()).Where(p => p.Item is Core.Timeline.Clip))
                    {
                        for (var f = FrameRate.R25.NearestFrame(range.In.FromZero); f < FrameRate.R25.NearestFrame(range.Out.FromZero); f++)
                        {
                            heard.Add(f);
                        }
                    }
                    Assert.Equal(FrameRate.R25.NearestFrame(laid.Length), heard.Count);
                    Assert.All(sounds, t => Assert.Equal(laid.Length, t.Length));
                }
            );
    }
}
