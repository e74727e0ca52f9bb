using System.Collections.Immutable;
using CsCheck;
using EmberLane.Core.Handoff;
using EmberLane.Core.Handoff.Back;
using EmberLane.Core.Media;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Handoff;

public sealed class WayBackTests
{
    private static readonly TimecodeCount Pal = new(FrameRate.R25, false);

    private static SittingTime At(long milliseconds) => new(MediaTime.FromMilliseconds(milliseconds));

    private static SourceFacts Camera(FrameRate rate, int hour) =>
        new(
            "mov",
            MediaTime.FromMilliseconds(600_000),
            new PictureFacts("h264", "yuv420p", 960, 540, rate, false),
            [],
            new StartOfFile(new Timecode(new TimecodeCount(rate, false), hour, 0, 0, 0), null),
            null,
            null,
            null
        );

    private static SourceFacts Recorder(long sinceMidnight, int channels) =>
        new(
            "wav",
            MediaTime.FromMilliseconds(600_000),
            null,
            [new SoundTrack(0, "pcm_s16le", 48_000, channels)],
            new StartOfFile(null, MediaTime.FromMilliseconds(sinceMidnight)),
            null,
            null,
            null
        );

    // Two sittings of two cameras and a recorder each, one of the cameras at another rate, and loose music.
    private static readonly ListedSource Music = new(99, "MUSIC", "music.wav", Recorder(0, 2), null);

    private static readonly Dictionary<long, ListedSitting> Sittings = new[] { 1, 2 }.ToDictionary(
        n => (long)n,
        n =>
        {
            var recorder = new ListedSource((n * 10) + 3, $"SND{n}", $"snd{n}.wav", Recorder(n * 20_000_123L, 2), new ClockMap(At(0), 0));
            return new ListedSitting(
                n,
                [
                    new ListedSource((n * 10) + 1, $"A00{n}", $"a{n}.mov", Camera(FrameRate.R25, n), new ClockMap(At(1_000), 12_000)),
                    new ListedSource((n * 10) + 2, $"B00{n}", $"b{n}.mov", Camera(FrameRate.R2997, n + 4), new ClockMap(At(-2_000), 0)),
                ],
                recorder
            );
        }
    );

    private static readonly BackSources Sources = new([
        .. Sittings.Values.SelectMany(s => s.Angles.Append(s.Sound!).Select(a => new BackSource(a, s.Id))),
        new BackSource(Music, null),
    ]);

    private static Card Card(long sitting, long from, long to, long? angle = null) =>
        new(Guid.NewGuid(), 7, sitting, new SittingRange(At(from), At(to)), angle);

    private static Story StoryOf(Timecode start, params Piece[] pieces) => new(ImmutableList.Create(pieces)) { Title = "T", Start = start };

    private static EditedTimeline Laid(Story story)
    {
        var cut = new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>>());
        var rate = story.Start.Count.Rate;
        return Conform.Lay(
            "T",
            story.Start,
            [
                .. story
                    .Pieces.Where(p => p is not SectionHead)
                    .Select(p =>
                        (
                            p switch
                            {
                                Card card => (ListedPiece)new ListedCard(card, cut.Of(card), "Maren"),
                                PlainMedia media => new ListedMedia(Music, media.Range.In, cut.Frames(p, rate), ""),
                                _ => new ListedGap(cut.Frames(p, rate), ""),
                            }
                        ) with
                        {
                            ComesIn = p.ComesIn,
                        }
                    ),
            ],
            Sittings
        );
    }

    private static BackList Runs(EditedTimeline timeline, BackForm form) =>
        BackList.Of(
            form == BackForm.Edl
                ? EdlEvents.Timeline(EdlReader.Read(string.Concat(EdlWriter.Write(EdlEvents.Of(timeline))), timeline.Start.Count.Rate))
                : OtioReader.Read(OtioWriter.Write(timeline, m => m.FileName), timeline.Start.Count.Rate),
            form,
            Sources
        );

    private static ReturnedStory Back(Story left, Story edited, BackForm form) =>
        WayBack.Of(
            Runs(Laid(edited), form),
            Runs(Laid(left), form),
            left,
            new StoryCut(left, new Dictionary<long, IReadOnlyList<SittingRange>>()),
            Guid.NewGuid
        );

    [Fact]
    public void Of_two_spaces_side_by_side_none_is_taken_for_another_of_the_same_length()
    {
        static Space Free(long milliseconds) => new(Guid.NewGuid(), MediaTime.FromMilliseconds(milliseconds), "the ferry");
        var story = StoryOf(
            new TimecodeCount(FrameRate.R2997, true).Parse("01:00:00;00"),
            Free(1_522),
            Free(5_526),
            Card(2, 474_707, 483_265),
            Free(5_555)
        );
        Assert.Equal(story.Pieces, Back(story, story, BackForm.Edl).Pieces);
    }

    [Fact]
    public void A_list_that_nobody_changed_gives_the_same_story_in_both_forms_for_a_thousand_random_stories()
    {
        var pieces = Gen.Select(Gen.Int[0, 6], Gen.Int[1, 2], Gen.Long[0, 500_000], Gen.Long[40, 9_000], Gen.Int[0, 2]).Array[1, 12];
        Gen.Select(pieces, Gen.OneOfConst([.. TimecodeCount.Supported]), Gen.Bool)
            .Sample(
                (made, count, isEdl) =>
                {
                    var story = StoryOf(
                        count.Parse(count.DropFrame ? "01:00:00;00" : "01:00:00:00"),
                        [
                            .. made.Select(m =>
                                m.Item1 switch
                                {
                                    0 => (Piece)new Space(Guid.NewGuid(), MediaTime.FromMilliseconds(m.Item4), "the ferry"),
                                    1 => new SectionHead(Guid.NewGuid(), "Part", MediaTime.Zero, false),
                                    2 => new PlainMedia(
                                        Guid.NewGuid(),
                                        99,
                                        new SourceRange(
                                            new SourceTime(MediaTime.FromMilliseconds(m.Item3)),
                                            new SourceTime(MediaTime.FromMilliseconds(m.Item3 + m.Item4))
                                        ),
                                        -60,
                                        MediaTime.Zero,
                                        MediaTime.Zero
                                    ),
                                    _ => Card(m.Item2, m.Item3, m.Item3 + m.Item4, m.Item5 == 0 ? null : (m.Item2 * 10) + m.Item5) with
                                    {
                                        ComesIn =
                                            m.Item4 % 3 == 0 ? new Dissolve(MediaTime.FromMilliseconds(m.Item4), m.Item4 % 2 == 0) : null,
                                    },
                                }
                            ),
                        ]
                    );
                    var back = Back(story, story, isEdl ? BackForm.Edl : BackForm.Otio);
                    Assert.Empty(back.Unknown);
                    Assert.Equal(story.Pieces, back.Pieces);
                },
                iter: 1_000
            );
    }

    [Theory]
    [InlineData(BackForm.Edl)]
    [InlineData(BackForm.Otio)]
    public void What_an_editor_moved_shortened_took_out_split_and_put_in_is_told_piece_by_piece(BackForm form)
    {
        var (one, two, three, four) = (Card(1, 10_010, 20_010), Card(1, 40_000, 45_000), Card(2, 5_000, 9_000), Card(2, 100_000, 130_000));
        var head = new SectionHead(Guid.NewGuid(), "The crossing", MediaTime.Zero, false);
        var space = new Space(Guid.NewGuid(), MediaTime.FromMilliseconds(2_000), "the bell");
        var start = Pal.Parse("01:00:00:00");
        var left = StoryOf(start, one, two, head, three, space, four);
        var edited = StoryOf(
            start,
            three with
            {
                Range = new SittingRange(At(5_400), At(9_000)),
            },
            one with
            {
                Range = new SittingRange(At(10_010), At(22_010)),
            },
            space with
            {
                Length = MediaTime.FromMilliseconds(3_000),
            },
            four with
            {
                Range = new SittingRange(At(100_000), At(110_000)),
            },
            Card(2, 115_000, 130_000),
            Card(1, 300_000, 304_000)
        );
        var back = Back(left, edited, form);
        Assert.Equal(
            [
                "head",
                $"{three.Id} 5400-9000",
                $"{one.Id} 10010-22010",
                $"space {space.WaitsFor} 3000",
                $"{four.Id} 100000-110000",
                "other of bite 7 115000-130000",
                "other of bite 0 300000-304000",
            ],
            back.Pieces.Select(p =>
                p switch
                {
                    Card c => $"{(left.IndexOf(c.Id) >= 0 ? c.Id.ToString() : $"other of bite {c.BiteId}")} "
                        + $"{c.Range.In.FromZero.ToMillisecondsRounded()}-{c.Range.Out.FromZero.ToMillisecondsRounded()}",
                    Space s => $"space {s.WaitsFor} {s.Length.ToMillisecondsRounded()}",
                    _ => "head",
                }
            )
        );
        var compared = StoryCompare.Of(left, left with { Pieces = [.. back.Pieces] });
        Assert.Contains(compared, c => c is { Became: Became.WentOut, Was.Id: var id } && id == two.Id);
    }

    [Fact]
    public void A_reel_that_was_renamed_is_known_by_its_file_and_one_that_nobody_knows_is_told_and_keeps_its_length()
    {
        const string List = """
            TITLE: BACK
            001  ROLL_7   V     C        01:00:10:00 01:00:12:00 01:00:00:00 01:00:02:00
            * FROM CLIP NAME: a1.mov
            002  STOCK    V     C        00:00:00:00 00:00:03:00 01:00:02:00 01:00:05:00
            """;
        var story = StoryOf(Pal.Parse("01:00:00:00"), Card(1, 11_000, 13_000));
        var came = BackList.Of(EdlEvents.Timeline(EdlReader.Read(List, FrameRate.R25)), BackForm.Edl, Sources);
        var back = WayBack.Of(
            came,
            Runs(Laid(story), BackForm.Edl),
            story,
            new StoryCut(story, new Dictionary<long, IReadOnlyList<SittingRange>>()),
            Guid.NewGuid
        );
        Assert.Equal(["STOCK"], back.Unknown);
        Assert.Equal(story.Pieces[0], back.Pieces[0]);
        Assert.Equal(
            ("STOCK, which is not known here", 3_000),
            (((Space)back.Pieces[1]).WaitsFor, ((Space)back.Pieces[1]).Length.ToMillisecondsRounded())
        );
    }

    [Fact]
    public void Taking_every_change_gives_the_list_that_came_back_and_taking_none_the_story_that_left()
    {
        var ids = Enumerable.Range(0, 8).Select(_ => Guid.NewGuid()).ToArray();
        var order = Gen.Select(Gen.Int[0, 7], Gen.Int[1, 3]).Array[0, 9];
        Gen.Select(order, order, Gen.Int[0, 1 << 12])
            .Sample(
                (left, came, mask) =>
                {
                    Story Made((int, int)[] some) =>
                        StoryOf(
                            Pal.LabelOf(0),
                            [
                                .. some.DistinctBy(s => s.Item1)
                                    .Select(s => (Piece)new Space(ids[s.Item1], MediaTime.FromMilliseconds(s.Item2 * 1_000), $"{s.Item1}")),
                            ]
                        );
                    var (was, now) = (Made(left), Made(came));
                    var lines = StoryCompare.Of(was, now);
                    Assert.Equal(now.Pieces, ChosenPieces.Of(lines, null));
                    Assert.Equal(was.Pieces, ChosenPieces.Of(lines, new HashSet<int>()));
                    // Whatever is taken, no piece is there twice, and each is as it was or as it came.
                    var some = ChosenPieces.Of(lines, Enumerable.Range(0, 12).Where(i => (mask >> i & 1) == 1).ToHashSet());
                    Assert.Equal(some.Count, some.DistinctBy(p => p.Id).Count());
                    Assert.All(some, p => Assert.True(was.Pieces.Contains(p) || now.Pieces.Contains(p)));
                }
            );
    }
}
