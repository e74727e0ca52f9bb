using EmberLane.Core.Bites;
using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Handoff;

public sealed class BiteListsTests
{
    private static TakenBite Taken(int from, int to, string said, string theme = "", string code = "01:00:00:00") =>
        new(
            "The hut",
            new SittingRange(new(MediaTime.FromMilliseconds(from)), new(MediaTime.FromMilliseconds(to))),
            code,
            code.Length > 0 ? "01:00:02:00" : "",
            "A001",
            "Maren Oakhurst",
            said,
            Bite.Of(1, 1, new(0), new(1), default, theme, "=note", "Ada") with
            {
                Grade = 2,
                Kind = "story",
            }
        );

    [Fact]
    public void A_table_holds_all_that_is_known_and_no_cell_is_a_formula()
    {
        var csv = BiteLists.Csv([Taken(1_500, 62_250, "He said, “go\nhome”", "school, hut")]);
        Assert.Equal(
            "sitting,in,out,timecode in,timecode out,reel,who,words,themes,grade,kind,note,kept by\r\n"
                + "The hut,00:00:01.500,00:01:02.250,01:00:00:00,01:00:02:00,A001,Maren Oakhurst,"
                + "\"He said, “go\nhome”\",\"school, hut\",2,story,"
                + "\"'=note\",Ada\r\n",
            csv
        );
    }

    [Fact]
    public void Markers_need_a_timecode_and_are_named_by_theme_else_by_speaker()
    {
        var lines = BiteLists
            .Markers([Taken(0, 1, "one", "hut"), Taken(0, 1, "two", code: ""), Taken(0, 1, "three")])
            .Split("\r\n", StringSplitOptions.RemoveEmptyEntries);
        Assert.Equal(
            ["reel,in,out,name,comment", "A001,01:00:00:00,01:00:02:00,hut,one", "A001,01:00:00:00,01:00:02:00,Maren Oakhurst,three"],
            lines
        );
    }

    [Fact]
    public void Chapters_come_in_order_and_are_read_as_captions_by_our_own_reader()
    {
        var vtt = BiteLists.Chapters([Taken(5_000, 6_000, "b", "a --> b & <c>"), Taken(1_000, 2_000, "a", "first")]);
        Assert.StartsWith("WEBVTT\n\n1\n00:00:01.000 --> 00:00:02.000\nMaren Oakhurst / first / ●●\n", vtt, StringComparison.Ordinal);
        Assert.Contains("a → b &amp; &lt;c>", vtt, StringComparison.Ordinal);
        Assert.Equal(2, WebVtt.ReadLines(vtt).Count);
    }
}
