using CsCheck;
using EmberLane.Core.Handoff;

namespace EmberLane.Core.Tests.Handoff;

public sealed class EdlTests
{
    private const string Sample = """
        TITLE: SLACK WATER V3
        FCM: NON-DROP FRAME

        001  A001C002 V     C        01:02:10:05 01:02:14:17 01:00:00:00 01:00:04:12
        * FROM CLIP NAME: A001C002_FERRY.MOV
        * COMMENT: MAREN OAKHURST / WHY I STAYED
        002  SND01    AA    C        07:44:02:11 07:44:06:23 01:00:00:00 01:00:04:12
        003  A001C002 V     C        01:02:20:00 01:02:20:00 01:00:04:12 01:00:04:12
        003  B004     V     D    012 02:10:00:00 02:10:05:00 01:00:04:12 01:00:09:12

        """;

    [Fact]
    public void The_sample_of_the_format_is_read_and_written_to_the_letter()
    {
        var list = EdlReader.Read(Sample, FrameRate.R25);
        Assert.Equal(4, list.Events.Count);
        Assert.Equal(12, list.Events[3].DissolveFrames);
        Assert.Equal(["FROM CLIP NAME: A001C002_FERRY.MOV", "COMMENT: MAREN OAKHURST / WHY I STAYED"], list.Events[0].Comments);
        Assert.Equal(Sample, Assert.Single(EdlWriter.Write(list)));
    }

    [Fact]
    public void Any_case_tabs_carriage_returns_unknown_and_blank_lines_and_semicolons_are_read()
    {
        var list = EdlReader.Read(
            "\uFEFFtitle: x\r\nfcm: drop frame\r\n\r\nM2 something\r\n1\tb004  aa/v\tc\t01:00:00;02 01:00:01.02  01:00:00;00 "
                + "01:00:01;00\r\nAUD  3  4\r\n",
            FrameRate.R2997
        );
        var e = Assert.Single(list.Events);
        Assert.True(list.Count.DropFrame);
        Assert.Equal(("b004", "AA/V", "01:00:01;02"), (e.Reel, e.Track.Code(), e.SourceOut.ToString()));
        Assert.Equal([3, 4], e.ExtraChannels);
    }

    [Theory]
    [InlineData("001 A V C 01:00:00:00 01:00:01:00 01:00:00:00", "Line 3")]
    [InlineData("001 A V C 01:00:00:00 01:00:01:25 01:00:00:00 01:00:01:00", "frames go from 00 to 24")]
    [InlineData("001 A X9 C 01:00:00:00 01:00:01:00 01:00:00:00 01:00:01:00", "is not a track")]
    [InlineData("001 A V W001 01:00:00:00 01:00:01:00 01:00:00:00 01:00:01:00", "transition")]
    [InlineData("001 A V D x 01:00:00:00 01:00:01:00 01:00:00:00 01:00:01:00", "number of frames")]
    [InlineData("001 A V C 01:00:00:00 01:00:01:00 01:00:02:00 01:00:01:00", "before the record in")]
    public void A_bad_line_is_refused_with_its_number_and_the_reason(string line, string reason)
    {
        var error = Assert
            .Throws<FormatException>(() => EdlReader.Read("TITLE: T\nFCM: NON-DROP FRAME\n" + line + "\n", FrameRate.R25))
            .Message;
        Assert.StartsWith("Line 3: ", error, StringComparison.Ordinal);
        Assert.Contains(reason, error, StringComparison.Ordinal);
    }

    [Fact]
    public void Drop_frame_at_a_rate_without_it_is_refused() =>
        Assert.Contains(
            "Line 1",
            Assert.Throws<FormatException>(() => EdlReader.Read("FCM: DROP FRAME\n", FrameRate.R25)).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void Any_text_is_either_read_or_refused_as_badly_formed() =>
        Gen.OneOf(Gen.String, Gen.Char["0123456789:; VACDAUD*\n\t"].Array.Select(c => "001 A V C " + new string(c)))
            .Sample(text =>
            {
                try
                {
                    EdlReader.Read(text, FrameRate.R2997);
                }
                catch (FormatException)
                {
                    // Refused with a reason.
                }
            });

    [Fact]
    public void Any_list_written_and_read_is_the_same_list()
    {
        var comments = Gen.OneOfConst("FROM CLIP NAME: X.MOV", "COMMENT: A / B", "SOURCE FILE: y 1.wav");
        var lists =
            from count in Gen.OneOfConst([.. TimecodeCount.Supported])
            from events in (
                from reel in Gen.Char["ABC019_"].Array[1, 8]
                from track in Gen.OneOfConst(Enum.GetValues<EdlTrack>())
                from source in Gen.Long[0, count.FramesInDay - 2000]
                from record in Gen.Long[0, count.FramesInDay - 2000]
                from length in Gen.Long[0, 1999]
                from dissolve in Gen.Int[-20, 20]
                from extra in Gen.Int[3, 8].Array[0, 3]
                from said in comments.Array[0, 3]
                select new ListedEvent(
                    0,
                    new string(reel),
                    track,
                    dissolve > 0 ? dissolve : null,
                    count.LabelOf(source),
                    count.LabelOf(source + length),
                    count.LabelOf(record),
                    count.LabelOf(record + length),
                    extra,
                    said
                )
            ).Array[0, 30]
            select new EventList("SLACK WATER", count, [.. events.Select((e, i) => e with { Number = i + 1 })]);
        lists.Sample(list =>
        {
            var read = EdlReader.Read(Assert.Single(EdlWriter.Write(list)), list.Count.Rate);
            Assert.Equal(list.Events, read.Events);
            Assert.Equal((list.Title, list.Count), (read.Title, read.Count));
        });
    }

    [Fact]
    public void More_than_999_events_go_on_in_a_second_file_from_001_with_record_times_going_on()
    {
        var count = new TimecodeCount(FrameRate.R25, false);
        var events = Enumerable
            .Range(0, 1500)
            .Select(i => new ListedEvent(
                i + 1,
                "A",
                EdlTrack.Video,
                null,
                count.LabelOf(0),
                count.LabelOf(10),
                count.LabelOf(90_000 + (i * 10)),
                count.LabelOf(90_010 + (i * 10)),
                [],
                []
            ));
        var files = EdlWriter.Write(new EventList("LONG", count, [.. events]));
        Assert.Equal(2, files.Count);
        var second = EdlReader.Read(files[1], FrameRate.R25).Events;
        Assert.Equal((501, 1, 90_000 + 9990), (second.Count, second[0].Number, second[0].RecordIn.Frame));
        Assert.Equal(999, EdlReader.Read(files[0], FrameRate.R25).Events[^1].Number);
    }

    [Fact]
    public void A_list_is_kept_in_signs_of_a_typewriter() =>
        Assert.Equal(
            "COMMENT: A SPACE FOR 'THE DRUM' - JOSE'S CAFE... 12 x Strasse AE ?\n",
            System.Text.Encoding.ASCII.GetString(EdlWriter.Bytes("COMMENT: A SPACE FOR “THE DRUM” – JOSÉ’S CAFÉ… 12 × Straße Æ 鼓\n"))
        );

    [Fact]
    public void A_newline_in_a_comment_or_title_can_not_begin_a_line_of_its_own()
    {
        var count = new TimecodeCount(FrameRate.R25, false);
        var e = new ListedEvent(
            1,
            "A",
            EdlTrack.Video,
            null,
            count.LabelOf(0),
            count.LabelOf(1),
            count.LabelOf(0),
            count.LabelOf(1),
            [],
            ["NOTE\n002 X V C 00:00:00:00 00:00:00:00 00:00:00:00 00:00:00:00"]
        );
        var read = EdlReader.Read(EdlWriter.Write(new EventList("A\nFCM: DROP FRAME", count, [e]))[0], FrameRate.R25);
        Assert.Single(read.Events);
        Assert.False(read.Count.DropFrame);
    }
}
