using CsCheck;
using EmberLane.Core.Bites;
using EmberLane.Core.Edits;
using EmberLane.Core.Import;
using EmberLane.Core.Media;

namespace EmberLane.Core.Tests.Import;

public sealed class PaperRangesTests
{
    [Fact]
    public void A_table_names_its_columns_in_any_order()
    {
        var ranges = PaperRanges.Read(
            "Note;Out;In;Reel;Theme\r\nthe letter;01:00:52:00;01:00:43:10;A001;school\r\n;;;;\r\nno end;;1:02;The hut;\r\n"
        );
        Assert.Equal(
            [
                new PaperRange(2, "A001", "01:00:43:10", "01:00:52:00", "the letter", "school"),
                new PaperRange(4, "The hut", "1:02", "", "no end", ""),
            ],
            ranges
        );
    }

    [Fact]
    public void A_table_that_went_out_from_here_is_read_by_its_timecode()
    {
        var ranges = PaperRanges.Read(
            "sitting,in,out,timecode in,timecode out,reel,words\nThe hut,00:00:01.500,00:00:03.000,01:00:01:12,01:00:03:00,A001,So it was\n"
        );
        Assert.Equal([new PaperRange(2, "The hut", "01:00:01:12", "01:00:03:00", "So it was", "")], ranges);
    }

    [Theory]
    [InlineData("The hut 1:02.5 – 1:31 the letter", "The hut", "1:02.5", "1:31", "the letter")]
    [InlineData("A001, 01:00:43:10 to 01:00:52:00, under the compass", "A001", "01:00:43:10", "01:00:52:00", "under the compass")]
    [InlineData("[0:12] - [0:20]", "", "0:12", "0:20", "")]
    [InlineData("10:00:00;12 10:00:05;00 | good", "", "10:00:00;12", "10:00:05;00", "good")]
    public void A_line_of_text_holds_two_times(string line, string where, string begins, string ends, string note) =>
        Assert.Equal([new PaperRange(2, where, begins, ends, note, "")], PaperRanges.Read($"Selects for Friday\n{line}\nat 5:00 lunch\n"));

    [Fact]
    public void Whatever_is_brought_is_read_or_refused_with_a_word() =>
        Gen
            .String.Array[0, 8]
            .Sample(lines =>
            {
                try
                {
                    PaperRanges.Read(string.Join('\n', lines));
                }
                catch (FormatException refused)
                {
                    Assert.NotEmpty(refused.Message);
                }
            });

    [Fact]
    public void More_lines_than_a_paper_edit_has_are_refused() =>
        Assert.Throws<FormatException>(() => PaperRanges.Read(string.Concat(Enumerable.Repeat("0:01 - 0:02\n", PaperRanges.Most + 1))));

    private static readonly TimecodeCount Count = new(FrameRate.R25, false);

    private static NamedTape Tape(long sitting, string title, string reel, string label, int seconds, int placedAt) =>
        new(
            sitting,
            title,
            reel,
            reel + "_cam.mov",
            new SourceFacts(
                "mov",
                MediaTime.FromMilliseconds(1000L * seconds),
                null,
                [],
                new StartOfFile(Count.Parse(label), null),
                null,
                null,
                null
            ),
            new ClockMap(new SittingTime(MediaTime.FromMilliseconds(placedAt)), 0)
        );

    private static readonly NamedTape[] Tapes =
    [
        Tape(1, "The school hut", "A001", "01:00:00:00", 600, 2_000),
        Tape(2, "The ferry", "B001", "02:00:00:00", 60, 0),
    ];

    private static string Where(string where, string begins, string ends)
    {
        try
        {
            var (sitting, range) = PaperPlace.Of(new PaperRange(1, where, begins, ends, "", ""), Tapes);
            return FormattableString.Invariant($"{sitting} {range.In}-{range.Out}");
        }
        catch (EditRefusedException refused)
        {
            return refused.Message;
        }
    }

    [Theory]
    [InlineData("A001", "01:00:43:10", "01:00:52:00", "1 0:45.4-0:54.0")]
    [InlineData("b001_cam", "02:00:00:00", "02:01:00:00", "2 0:00.0-1:00.0")]
    [InlineData("", "02:00:10:00", "02:00:11:00", "2 0:10.0-0:11.0")]
    [InlineData("school", "0:43.5", "0:52", "1 0:43.5-0:52.0")]
    public void A_range_is_laid_by_sitting_reel_file_or_by_its_timecode_alone(string where, string begins, string ends, string lies) =>
        Assert.Equal(lies, Where(where, begins, ends));

    [Theory]
    [InlineData("B001", "02:00:10:00", "02:01:00:01", "beyond")]
    [InlineData("A001", "00:59:59:00", "01:00:10:00", "beyond")]
    [InlineData("school", "9:50", "10:02.1", "beyond “The school hut”, which ends at 10:02.0")]
    [InlineData("A001", "01:00:10:28", "01:00:12:00", "25")]
    [InlineData("A001", "01:00:10:00", "01:00:10:00", "behind its begin")]
    [InlineData("C009", "0:01", "0:02", "is called")]
    [InlineData("", "0:01", "0:02", "Several sittings")]
    [InlineData("school", "0:01", "later", "“later” is not a time")]
    [InlineData("🐟", "0:01", "0:02", "is called")]
    public void A_range_that_fits_nothing_is_told_with_the_reason(string where, string begins, string ends, string says) =>
        Assert.Contains(says, Where(where, begins, ends), StringComparison.Ordinal);
}
