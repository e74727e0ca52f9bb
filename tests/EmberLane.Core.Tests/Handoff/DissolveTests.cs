using System.Text.Json;
using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Handoff.Back;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Handoff;

/// <summary>Pieces that dissolve in: what lists, copies and the way back make of it.</summary>
public sealed class DissolveTests
{
    private static readonly FrameRate Rate = FrameRate.R25;
    private static readonly Timecode Start = new TimecodeCount(Rate, false).Parse("01:00:00:00");

    // A camera of forty seconds and a recorder of fifty; both begin with the sitting.
    private static readonly SourceFacts Camera = new(
        "mov",
        MediaTime.FromMilliseconds(40_000),
        new PictureFacts("h264", "yuv420p", 960, 540, Rate, false),
        [],
        new StartOfFile(new TimecodeCount(Rate, false).Parse("10:00:00:00"), null),
        null,
        null,
        null
    );

    private static readonly SourceFacts Recorder = new(
        "wav",
        MediaTime.FromMilliseconds(50_000),
        null,
        [new SoundTrack(0, "pcm_s16le", 48_000, 1)],
        new StartOfFile(null, MediaTime.Zero),
        null,
        null,
        null
    );

    private static readonly ListedSitting Sitting = new(
        1,
        [new ListedSource(1, "CAM", "cam.mov", Camera, new ClockMap(default, 0))],
        new ListedSource(2, "SND", "snd.wav", Recorder, new ClockMap(default, 0))
    );

    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    private static Dissolve Over(long milliseconds, bool isHeard = false) => new(Ms(milliseconds), isHeard);

    private static ListedCard Card(long from, long to, Dissolve? comesIn = null) =>
        new SittingRange(new SittingTime(Ms(from)), new SittingTime(Ms(to))) is var range
            ? new ListedCard(new Card(Guid.NewGuid(), 1, 1, range, null) { ComesIn = comesIn }, [range], "") { ComesIn = comesIn }
            : throw new InvalidOperationException();

    private static EditedTimeline Lay(FreeBeyond? beyond, params ListedPiece[] pieces) =>
        Conform.Lay("T", Start, pieces, new Dictionary<long, ListedSitting> { [1] = Sitting }, null, beyond);

    private static EditedTimeline Lay(params ListedPiece[] pieces) => Lay(null, pieces);

    private static string LinesOf(EditedTimeline timeline) =>
        string.Join(
            '\n',
            EdlEvents
                .Of(timeline)
                .Events.Select(e =>
                    $"{e.Number} {e.Reel} {e.Track.Code()} {(object?)e.DissolveFrames ?? "C"} "
                    + $"{e.SourceIn} {e.SourceOut} {e.RecordIn} {e.RecordOut}"
                )
        );

    [Fact]
    public void A_dissolve_is_one_event_of_two_lines_and_the_sound_beside_it_is_cut() =>
        Assert.Equal(
            """
            1 CAM V C 10:00:02:00 10:00:04:00 01:00:00:00 01:00:02:00
            2 SND A C 00:00:02:00 00:00:04:00 01:00:00:00 01:00:02:00
            3 CAM V C 10:00:04:00 10:00:04:00 01:00:02:00 01:00:02:00
            3 CAM V 25 10:00:10:00 10:00:13:00 01:00:02:00 01:00:05:00
            4 SND A C 00:00:10:00 00:00:13:00 01:00:02:00 01:00:05:00
            """,
            LinesOf(Lay(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000))))
        );

    [Fact]
    public void Where_the_sound_is_wanted_too_it_goes_over_in_its_own_event_and_into_a_space_it_goes_into_nothing()
    {
        Assert.EndsWith(
            """
            4 SND A C 00:00:04:00 00:00:04:00 01:00:02:00 01:00:02:00
            4 SND A 25 00:00:10:00 00:00:13:00 01:00:02:00 01:00:05:00
            """,
            LinesOf(Lay(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000, true))))
        );
        Assert.EndsWith(
            """
            3 CAM V C 10:00:04:00 10:00:04:00 01:00:02:00 01:00:02:00
            3 BL V 12 00:00:00:00 00:00:02:00 01:00:02:00 01:00:04:00
            4 SND A C 00:00:04:00 00:00:04:00 01:00:02:00 01:00:02:00
            4 BL A 12 00:00:00:00 00:00:02:00 01:00:02:00 01:00:04:00
            """,
            LinesOf(Lay(Card(2_000, 4_000), new ListedGap(50, "") { ComesIn = Over(480, true) }))
        );
    }

    [Fact]
    public void It_is_no_longer_than_what_lies_beyond_the_cut_than_what_may_be_seen_there_and_than_what_comes_in()
    {
        static long Seen(EditedTimeline timeline) => Rate.NearestFrame(LaidDissolve.Of(timeline).GetValueOrDefault(50)?.Seen ?? default);
        Assert.Equal(25, Seen(Lay(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000)))));
        // The camera stops eight frames after the cut.
        Assert.Equal(8, Seen(Lay(Card(37_680, 39_680), Card(10_000, 13_000, Over(1_000)))));
        Assert.Equal(0, Seen(Lay(Card(38_000, 40_000), Card(10_000, 13_000, Over(1_000)))));
        // Words off the record come 300 ms after it.
        Assert.Equal(
            7,
            Seen(Lay((id, from) => id == 1 ? Ms(4_300) - from.FromZero : null, Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000))))
        );
        Assert.Equal(0, Seen(Lay((_, _) => MediaTime.Zero, Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000)))));
        Assert.Equal(10, Seen(Lay(Card(2_000, 4_000), Card(10_000, 10_400, Over(1_000)))));
        // Nothing lies before the first piece, and black does not dissolve into black.
        Assert.Empty(LaidDissolve.Of(Lay(Card(2_000, 4_000, Over(1_000)))));
        Assert.Empty(LaidDissolve.Of(Lay(new ListedGap(50, ""), new ListedGap(50, "") { ComesIn = Over(1_000, true) })));
    }

    [Fact]
    public void Of_random_stories_no_dissolve_asks_for_what_its_files_have_not_and_both_forms_give_the_same_back() =>
        Gen.Select(Gen.Int[0, 39], Gen.Int[1, 60], Gen.Long[0, 4_000], Gen.Bool)
            .Array[1, 12]
            .Sample(
                made =>
                {
                    var timeline = Lay([
                        .. made.Select(m =>
                            m.Item1 == 0
                                ? new ListedGap(m.Item2, "") { ComesIn = m.Item3 < 40 ? null : Over(m.Item3, m.Item4) }
                                : (ListedPiece)Card(
                                    m.Item1 * 1_000,
                                    (m.Item1 * 1_000) + (m.Item2 * 40),
                                    m.Item3 < 40 ? null : Over(m.Item3, m.Item4)
                                )
                        ),
                    ]);
                    foreach (var track in timeline.Tracks)
                    {
                        foreach (var (i, item) in track.Items.Index().Where(t => t.Item is Transition))
                        {
                            Assert.True(
                                item is Transition { Lasting: var lasting }
                                    && lasting > MediaTime.Zero
                                    && lasting <= track.Items[i + 1].Length
                            );
                            Assert.True(
                                track.Items[i - 1] is not Clip before
                                    || before.Range.Out.FromZero + ((Transition)item).Lasting <= before.Media.Facts!.Duration
                            );
                        }
                    }
                    Assert.All(
                        EdlEvents.Of(timeline).Events,
                        e => Assert.Equal(e.SourceOut.Frame - e.SourceIn.Frame, e.RecordOut.Frame - e.RecordIn.Frame)
                    );
                    var laid = LaidDissolve.Of(timeline);
                    var written = string.Concat(EdlWriter.Write(EdlEvents.Of(timeline)));
                    Assert.Equal(laid.Where(Lasts), LaidDissolve.Of(EdlEvents.Timeline(EdlReader.Read(written, Rate))).Where(Lasts));
                    Assert.Equal(laid, LaidDissolve.Of(OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), Rate)));
                },
                iter: 1_000
            );

    private static bool Lasts(KeyValuePair<long, LaidDissolve> dissolve) => dissolve.Value.Seen > MediaTime.Zero;

    [Theory]
    [InlineData(BackForm.Edl)]
    [InlineData(BackForm.Otio)]
    public void A_dissolve_that_an_editor_made_longer_took_out_or_put_in_is_taken_over_and_others_stay_to_the_unit(BackForm form)
    {
        static Card Of(long from, long to, Dissolve? comesIn) => (Card)Card(from, to, comesIn).Card;
        var (one, two, three, four) = (
            Of(1_000, 3_000, null),
            Of(10_000, 13_000, Over(1_010)),
            Of(20_000, 22_000, Over(500)),
            Of(30_000, 32_000, null)
        );
        var left = new Story([one, two, three, four]) { Title = "T", Start = Start };
        var edited = left with { Pieces = [one, two, three with { ComesIn = Over(800, true) }, four with { ComesIn = Over(400) }] };
        Assert.Equal(edited.Pieces, Back(edited));
        Assert.Equal(left.Pieces, Back(left));
        Assert.Null(Back(left with { Pieces = [one, two with { ComesIn = null }, three, four] })[1].ComesIn);

        IReadOnlyList<Piece> Back(Story came) =>
            WayBack
                .Of(Read(came), Read(left), left, new StoryCut(left, new Dictionary<long, IReadOnlyList<SittingRange>>()), Guid.NewGuid)
                .Pieces;

        BackList Read(Story story)
        {
            var timeline = Lay([.. story.Cards.Select(c => new ListedCard(c, [c.Range], "") { ComesIn = c.ComesIn })]);
            var sources = new BackSources([.. Sitting.Angles.Append(Sitting.Sound!).Select(s => new BackSource(s, 1))]);
            return BackList.Of(
                form == BackForm.Edl
                    ? EdlEvents.Timeline(EdlReader.Read(string.Concat(EdlWriter.Write(EdlEvents.Of(timeline))), Rate))
                    : OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), Rate),
                form,
                sources
            );
        }
    }

    private static HandedStory Story(params ListedCard[] cards)
    {
        var pieces = new List<HandedPiece>();
        long first = 0;
        foreach (var card in cards)
        {
            var frames = CardFrames.Of(card.Pieces, Rate).Sum(f => f.Count);
            pieces.Add(new HandedPiece(card.Card, first, frames, "", "", "", "", "", "", "", []));
            first += frames;
        }
        var timeline = Lay(cards);
        return new HandedStory("P", "T", 1, timeline, EdlEvents.Of(timeline), pieces, [], []);
    }

    [Fact]
    public void In_a_copy_what_goes_is_seen_under_what_comes_and_its_sound_goes_as_the_other_comes()
    {
        var story = Story(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000, true)));
        var whole = CopyLay.Seen(story, new FrameSpan(0, 125));
        Assert.Equal(
            [(0L, 50L, 2_000L, -1L), (50, 25, 10_000, 4_000), (75, 50, 11_000, -1)],
            whole.Select(s => (s.Frames.First, s.Frames.Count, Milliseconds(s.At), s.Leaving is { } goes ? Milliseconds(goes.Seen.At) : -1))
        );
        Assert.Equal(
            (20, 500, 980),
            (whole[1].Leaving!.Share(0).Value, whole[1].Leaving!.Share(12).Value, whole[1].Leaving!.Share(24).Value)
        );
        // A part of the story that begins within it goes on from there.
        var part = CopyLay.Seen(story, new FrameSpan(60, 20));
        Assert.Equal(
            (0, 15, 4_400, 420),
            (part[0].Frames.First, part[0].Frames.Count, Milliseconds(part[0].Leaving!.Seen.At), part[0].Leaving!.Share(0).Value)
        );
        Assert.Null(part[1].Leaving);

        var heard = CopyLay.Heard(story, new FrameSpan(0, 125), card => CardFrames.Of([card.Range], Rate), false);
        Assert.Equal([(0L, 75L), (50, 75)], heard.Select(h => (h.Frames.First, h.Frames.Count)));
        Assert.Equal((Ms(1_000), Ms(1_000)), (heard[0].FadeOut, heard[1].FadeIn));
        // Only the picture: the sounds do not meet.
        var cut = Story(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000)));
        Assert.Equal(50, CopyLay.Heard(cut, new FrameSpan(0, 125), card => CardFrames.Of([card.Range], Rate), false)[0].Frames.Count);

        static long Milliseconds(SourceTime at) => at.FromZero.ToMillisecondsRounded();
    }

    [Fact]
    public void Before_it_leaves_it_is_told_which_dissolves_are_shorter_than_wished()
    {
        var fine = HandoffChecks.Of(Story(Card(2_000, 4_000), Card(10_000, 13_000, Over(1_000))), new CaptionRules());
        Assert.Contains(fine, c => c is { Fine: true, Title: "1 dissolve" });
        var tight = HandoffChecks.Of(Story(Card(37_680, 39_680), Card(10_000, 13_000, Over(1_000))), new CaptionRules());
        Assert.Contains(
            tight,
            c => !c.Fine && c.Title == "1 dissolve is shorter than wished" && c.Detail.StartsWith("01:00:02:00", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void How_a_piece_comes_in_is_undone_survives_the_log_and_is_refused_where_it_makes_no_sense()
    {
        var (card, head) = ((Card)Card(1_000, 3_000).Card, new SectionHead(Guid.NewGuid(), "The bench", MediaTime.Zero, false));
        var space = new Space(Guid.NewGuid(), Ms(2_000), "the bell");
        var story = new Story([head, card, space]);
        var edit = JsonSerializer.Deserialize<StoryEdit>(JsonSerializer.Serialize<StoryEdit>(new ComeIn(space.Id, Over(500, true))))!;
        var (next, inverse) = edit.Apply(story);
        Assert.Equal(Over(500, true), next.Pieces[2].ComesIn);
        Assert.Equal(story.Pieces, inverse.Apply(next).Story.Pieces);
        // The form that changes a piece says nothing of it, so that it stays.
        Assert.Equal(Over(500, true), new ChangePiece(space with { WaitsFor = "the ferry" }).Apply(next).Story.Pieces[2].ComesIn);
        Assert.Throws<EditRefusedException>(() => new ComeIn(head.Id, Over(500)).Apply(story));
        Assert.Throws<EditRefusedException>(() => new ComeIn(card.Id, Over(39)).Apply(story));
        Assert.Throws<EditRefusedException>(() => new ComeIn(card.Id, Over(10_001)).Apply(story));
        Assert.Throws<EditRefusedException>(() =>
            LayPiece.Of(card with { Id = Guid.NewGuid(), ComesIn = Over(86_400_000) }, 0).Apply(story)
        );
    }
}
