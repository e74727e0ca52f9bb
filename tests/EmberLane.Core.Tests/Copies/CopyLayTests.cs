using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Copies;

public sealed class CopyLayTests
{
    private static readonly FrameRate Rate = FrameRate.R25;

    private static readonly MediaTime Softly = MediaTime.FromMilliseconds(8);

    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    private static SittingTime At(long frame) => new(Rate.TimeOf(frame));

    private static Card CardOf(long first, long count, long sitting = 1) =>
        new(Guid.NewGuid(), 1, sitting, new SittingRange(At(first), At(first + count)), null);

    private static RecognisedWord Word(string text, long from, long to, string who) =>
        new(text, new SourceRange(new SourceTime(Ms(from)), new SourceTime(Ms(to))), null, who);

    private static IReadOnlyList<CaptionWord> InPiece(IReadOnlyList<RecognisedWord> words, Guid piece) =>
        [.. words.Select(w => new CaptionWord(w, piece, 0, default))];

    /// <summary>A story of these pieces, each with its frames, and tracks if any.</summary>
    private static HandedStory Story(
        IReadOnlyList<(Piece Piece, long Frames)> pieces,
        IReadOnlyList<Track>? tracks = null,
        IReadOnlyList<RecognisedWord>? words = null
    )
    {
        var handed = new List<HandedPiece>();
        long first = 0;
        foreach (var (piece, frames) in pieces)
        {
            handed.Add(
                new HandedPiece(piece, first, frames, "", "", "", "", "", "", "", handed.Count == 0 ? InPiece(words ?? [], piece.Id) : [])
            );
            first += frames;
        }
        var start = new Timecode(new TimecodeCount(Rate, false), 1, 0, 0, 0);
        var timeline = new EditedTimeline("T", start, tracks ?? [], []);
        return new HandedStory("P", "T", 3, timeline, new EventList("T", start.Count, []), handed, [], []);
    }

    private static IReadOnlyList<HeardStretch> Heard(HandedStory story, Guid? only = null, bool isRead = false) =>
        CopyLay.Heard(story, FrameSpan.Of(story.Pieces, only), card => CardFrames.Of([card.Range], Rate), isRead);

    [Fact]
    public void Cards_that_go_on_are_one_stretch_and_what_is_cut_comes_and_goes_softly()
    {
        var heard = Heard(Story([(CardOf(100, 50), 50), (CardOf(150, 25), 25), (CardOf(10, 20), 20)]));
        Assert.Equal(
            [
                new HeardStretch(new FrameSpan(0, 75), new FromSitting(1, At(100))) { FadeIn = Softly, FadeOut = Softly },
                new HeardStretch(new FrameSpan(75, 20), new FromSitting(1, At(10))) { FadeIn = Softly, FadeOut = Softly },
            ],
            heard
        );
    }

    [Fact]
    public void Of_a_part_only_its_frames_are_heard_from_where_they_begin()
    {
        var head = new SectionHead(Guid.NewGuid(), "The bench", MediaTime.Zero, false);
        var (one, next) = (CardOf(100, 50), CardOf(150, 25));
        var story = Story([(one, 50), (head, 0), (next, 25), (new Space(Guid.NewGuid(), Ms(400), ""), 10)]);
        var of = Assert.Single(Heard(story, head.Id));
        Assert.Equal((new FrameSpan(0, 25), new FromSitting(1, At(150))), (of.Frames, of.From));
        Assert.Equal(new FrameSpan(50, 35), FrameSpan.Of(story.Pieces, head.Id));
        Assert.Equal(new FrameSpan(0, 50), FrameSpan.Of(story.Pieces, one.Id));
        Assert.Throws<FormatException>(() => FrameSpan.Of(story.Pieces, Guid.NewGuid()));
    }

    [Fact]
    public void Plain_media_keeps_its_level_and_fades_and_narration_is_heard_where_it_is_read()
    {
        var media = new PlainMedia(
            Guid.NewGuid(),
            7,
            new SourceRange(new SourceTime(Ms(2_000)), new SourceTime(Ms(4_000))),
            -60,
            Ms(500),
            Ms(700)
        );
        var narration = new Narration(Guid.NewGuid(), "Two hours later", Ms(2_000));
        var story = Story([(media, 50), (narration, 50)]);
        Assert.Single(Heard(story));
        var heard = Heard(story, isRead: true);
        Assert.Equal(
            new HeardStretch(new FrameSpan(0, 50), new FromFile(7, null, new SourceTime(Ms(2_000))))
            {
                Level = -60,
                FadeIn = Ms(500),
                FadeOut = Ms(700),
            },
            heard[0]
        );
        Assert.Equal(new FromNarration(narration, MediaTime.Zero), heard[1].From);
    }

    [Fact]
    public void Where_the_timeline_opens_mics_those_are_heard_instead_of_the_mix_each_as_long_as_it_goes_on()
    {
        var (one, next) = (CardOf(100, 50), CardOf(0, 50, sitting: 2));
        var media = new TimelineMedia(9, "SND", "SND.WAV", 4, null, new TimecodeCount(Rate, false));
        Clip Mic(long frame, long count, int channel) =>
            new(1, "", media, new SourceRange(new SourceTime(Rate.TimeOf(frame)), new SourceTime(Rate.TimeOf(frame + count))))
            {
                Open = [channel],
            };
        var story = Story(
            [(one, 50), (next, 50)],
            [
                new Track(TrackKind.Sound, "A1", [Mic(100, 20, 2), Mic(120, 30, 2), new Gap(2, "", Rate.TimeOf(50))]),
                new Track(TrackKind.Sound, "A2", [new Gap(1, "", Rate.TimeOf(10)), Mic(110, 10, 3), new Gap(1, "", Rate.TimeOf(80))]),
            ]
        );
        var heard = Heard(story);
        Assert.Equal(
            [(new FrameSpan(0, 50), 2L, 2), (new FrameSpan(10, 10), 9L, 3), (new FrameSpan(50, 50), 2L, 0)],
            heard.Select(h => h.From is FromFile f ? (h.Frames, f.Channels![0] == 2 ? 2L : 9L, f.Channels[0]) : (h.Frames, 2L, 0))
        );
    }

    [Fact]
    public void Another_person_takes_over_half_way_between_the_words_and_moments_count_from_the_copys_begin()
    {
        var story = Story(
            [(CardOf(0, 100), 100)],
            words: [Word("Why", 0, 400, "Maren"), Word("Because", 1_000, 1_500, "Tobias"), Word("of", 1_500, 1_700, "Tobias")]
        );
        Assert.Equal(
            [new SpeakerRun(MediaTime.Zero, "Maren"), new SpeakerRun(Ms(700), "Tobias")],
            CopyLay.Speakers(story, new FrameSpan(0, 100))
        );
        Assert.Equal([new SpeakerRun(MediaTime.Zero, "Tobias")], CopyLay.Speakers(story, new FrameSpan(20, 80)));
        Assert.Empty(CopyLay.Speakers(Story([(CardOf(0, 10), 10)]), new FrameSpan(0, 10)));
    }

    [Fact]
    public void What_is_seen_has_no_holes_and_begins_in_the_file_where_the_span_begins()
    {
        var media = new TimelineMedia(4, "CAM", "CAM.MOV", 0, null, new TimecodeCount(Rate, false));
        var clip = new Clip(1, "", media, new SourceRange(new SourceTime(Ms(4_000)), new SourceTime(Ms(8_000))));
        var story = Story([], [new Track(TrackKind.Picture, "V1", [new Gap(0, "", Ms(1_000)), clip])]);
        Assert.Equal(
            [new SeenStretch(new FrameSpan(0, 25), null, default), new SeenStretch(new FrameSpan(25, 100), 4, new SourceTime(Ms(4_000)))],
            CopyLay.Seen(story, new FrameSpan(0, 125))
        );
        Assert.Equal([new SeenStretch(new FrameSpan(0, 30), 4, new SourceTime(Ms(4_400)))], CopyLay.Seen(story, new FrameSpan(35, 30)));
    }

    [Fact]
    public void Frames_of_a_file_are_picked_in_order_by_what_it_shows_at_that_moment_whatever_the_rates()
    {
        Gen.Select(
                Gen.OneOfConst([.. FrameRate.Supported]),
                Gen.OneOfConst([.. FrameRate.Supported]),
                Gen.Long[0, 36_000_000],
                Gen.Long[1, 5_000]
            )
            .Sample(
                (source, copy, from, count) =>
                {
                    var pick = new FramePick(new SourceTime(Ms(from)), source, copy);
                    long last = pick.Of(0);
                    for (long frame = 0; frame < Math.Min(count, 400); frame++)
                    {
                        Assert.True(pick.Of(frame) >= last);
                        last = pick.Of(frame);
                        var at = Ms(from) + copy.TimeOf(frame);
                        Assert.True(source.TimeOf(last) <= at + Ms(1) && source.TimeOf(last + 1) > at - Ms(1));
                    }
                    Assert.True(
                        pick.SeekTo <= source.TimeOf(pick.Of(0)) && (pick.Of(0) == 0 || pick.SeekTo > source.TimeOf(pick.Of(0) - 1))
                    );
                },
                iter: 300
            );
    }
}
