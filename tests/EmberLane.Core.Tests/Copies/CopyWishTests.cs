using EmberLane.Core.Captions;
using EmberLane.Core.Copies;
using EmberLane.Core.Handoff;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using EmberLane.Core.Speech;
using EmberLane.Core.Stories;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Tests.Copies;

public sealed class CopyWishTests
{
    private static readonly PictureFacts Wide = new("h264", "yuv420p", 1920, 1080, FrameRate.R25, false);

    private static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    [Theory]
    [InlineData("−16", -160)]
    [InlineData("-23", -230)]
    [InlineData(" -16.5 ", -165)]
    public void A_loudness_is_read_as_it_is_typed(string text, int tenths) => Assert.Equal(tenths, CopyWish.LoudnessOf(text));

    [Theory]
    [InlineData("loud")]
    [InlineData("16")]
    [InlineData("-5")]
    [InlineData("-1e9")]
    public void What_is_no_loudness_is_refused(string text) => Assert.Throws<FormatException>(() => CopyWish.LoudnessOf(text));

    [Fact]
    public void What_can_not_be_had_is_refused_by_name()
    {
        Assert.Contains(
            "9:16",
            Assert.Throws<FormatException>(() => new CopyWish { Shape = "2:1" }.Check()).Message,
            StringComparison.Ordinal
        );
        Assert.Throws<FormatException>(() => new CopyWish { Kilobits = 8 }.Check());
        Assert.Throws<FormatException>(() => new CopyWish { CaptionSize = 500 }.Check());
        Assert.Throws<FormatException>(() => new CopyWish { CaptionLine = 3 }.Check());
        Assert.Throws<FormatException>(() => new CopyWish { Loudness = 0 }.Check());
        Assert.All(CopyShape.All, s => Assert.Equal((0, 0), (s.Width % 2, s.Height % 2)));
    }

    [Fact]
    public void A_picture_is_cut_around_the_faces_in_it_and_seen_whole_where_they_do_not_fit()
    {
        var tall = CopyShape.Named("9:16");
        Assert.Equal(500, PeopleCrop.Of([], Wide, tall));
        Assert.Equal(250, PeopleCrop.Of([new PictureBox(200, 100, 100, 200)], Wide, tall));
        Assert.Null(PeopleCrop.Of([new PictureBox(200, 100, 100, 200), new PictureBox(600, 100, 100, 200)], Wide, tall));
        Assert.Equal(
            450,
            PeopleCrop.Of([new PictureBox(200, 100, 100, 200), new PictureBox(600, 100, 100, 200)], Wide, CopyShape.Named("1:1"))
        );
    }

    [Fact]
    public void People_are_brought_to_the_mean_of_all_by_how_long_they_speak_and_none_by_more_than_nine_decibels()
    {
        var gains = Evening.Of(
            new Dictionary<string, (double, MediaTime)>
            {
                ["Maren"] = (-20, Ms(30_000)),
                ["Tobias"] = (-28, Ms(10_000)),
                ["Far away"] = (-60, Ms(1)),
                ["Silent"] = (double.NaN, Ms(1_000)),
            }
        );
        Assert.Equal(
            (-2.0, 6.0, 9.0, false),
            (Math.Round(gains["Maren"], 1), Math.Round(gains["Tobias"], 1), gains["Far away"], gains.ContainsKey("Silent"))
        );
        Assert.Empty(Evening.Of(new Dictionary<string, (double, MediaTime)> { ["Maren"] = (-20, Ms(30_000)) }));
    }

    [Fact]
    public void What_is_read_in_a_copy_is_held_to_its_span_and_no_word_is_taken_for_a_command()
    {
        var rate = FrameRate.R25;
        var start = new Timecode(new TimecodeCount(rate, false), 1, 0, 0, 0);
        CaptionWord Word(string text, long from, long to) =>
            new(
                new RecognisedWord(text, new SourceRange(new SourceTime(Ms(from)), new SourceTime(Ms(to))), null, "Maren"),
                Guid.Empty,
                0,
                default
            );
        var title = new TitleCard(Guid.NewGuid(), "Low {\\b1}water\\N", Ms(2_000));
        var pieces = new[]
        {
            new HandedPiece(title, 0, 50, "", "", "", "", "", "", "", []),
            new HandedPiece(
                new Space(Guid.NewGuid(), Ms(4_000), "the drum"),
                50,
                100,
                "",
                "",
                "",
                "",
                "",
                "",
                "",
                [Word("I", 2_000, 2_300), Word("stayed.", 2_300, 3_000)]
            ),
        };
        var story = new HandedStory(
            "P",
            "T",
            4,
            new EditedTimeline("T", start, [], []),
            new EventList("T", start.Count, []),
            pieces,
            [],
            []
        );
        var text = CopyText.Write(story, new FrameSpan(25, 100), new CopyWish { HasCaptions = true, IsWordMarked = true });
        Assert.Contains("Dialogue: 0,0:00:00.00,0:00:04.00,Name,,0,0,0,,T · version 4\n", text, StringComparison.Ordinal);
        Assert.Contains("0:00:00.00,0:00:01.00,Title,,0,0,0,,Low ❴⧵b1❵water⧵N\n", text, StringComparison.Ordinal);
        Assert.Contains("0:00:01.00,0:00:04.00,Waits,,0,0,0,,Space for the drum\n", text, StringComparison.Ordinal);
        Assert.Contains("0:00:01.00,0:00:01.30,Caption,,0,0,0,,{\\c&H4CB4FF&}I{\\c} stayed.\n", text, StringComparison.Ordinal);
        Assert.Contains("{\\c&H4CB4FF&}stayed.{\\c}", text, StringComparison.Ordinal);
        var end = new CopyWish { Form = CopyForm.Video, EndCard = "Slack {Water}" };
        Assert.Contains(
            "Dialogue: 0,0:00:04.00,0:00:08.00,Title,,0,0,0,,Slack ❴Water❵\n",
            CopyText.Write(story, new FrameSpan(25, 100), end),
            StringComparison.Ordinal
        );
        Assert.Equal((100, 0), (end.EndFrames(FrameRate.R25), (end with { Form = CopyForm.Mp3 }).EndFrames(FrameRate.R25)));
        Assert.Throws<FormatException>(() => (end with { EndCard = new string('e', CopyWish.LongestEnd + 1) }).Check());
    }
}
