using System.Text;
using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Import;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Import;

/// <summary>Texts as typing services and caption makers deliver them.</summary>
public sealed class TextFilesTests
{
    [Theory]
    [InlineData("[00:01:05] MAREN: The cable was singing.", "MAREN", "The cable was singing.", 65_000)]
    [InlineData("00:01:05 Maren Oakhurst: The cable", "Maren Oakhurst", "The cable", 65_000)]
    [InlineData("1:05 - the cable", null, "the cable", 65_000)]
    [InlineData("Maren Oakhurst 00:01:05.500: The cable", "Maren Oakhurst", "The cable", 65_500)]
    [InlineData("(01:00:05:12) TOBIAS: Twice.", "TOBIAS", "Twice.", 3_605_480)]
    [InlineData("Speaker 1: Well, yes", "Speaker 1", "Well, yes", null)]
    [InlineData("it does that: before weather", null, "it does that: before weather", null)]
    [InlineData("مارين: نعم", null, "مارين: نعم", null)]
    public void Plain_lines_tell_who_what_and_when(string line, string? who, string said, int? milliseconds)
    {
        var read = Assert.Single(TextFiles.Read("a.txt", line).Lines);
        Assert.Equal((who, said, (long?)milliseconds), (read.Who, read.Said, read.In?.ToMillisecondsRounded()));
    }

    [Fact]
    public void A_bare_time_at_a_lines_beginning_is_said_unless_many_lines_begin_so()
    {
        var said = TextFiles
            .Read(
                "a.txt",
                "MAREN: When did you leave?\nTOBIAS: Early.\n10:30 we left the pier, I think.\nIt was cold.\n[00:01:00] MAREN: And then?\n"
            )
            .Lines;
        Assert.Equal(("TOBIAS", "10:30 we left the pier, I think.", null), (said[2].Who, said[2].Said, said[2].In));
        Assert.Equal(60_000, said[4].In?.ToMillisecondsRounded());
        var timed = TextFiles.Read("a.txt", "0:05 when did you leave\nearly\n0:09 we left the pier\n\n0:12 it was cold\n").Lines;
        Assert.Equal([5_000L, null, 9_000L, 12_000L], timed.Select(l => l.In?.ToMillisecondsRounded()));
        Assert.Equal("we left the pier", timed[2].Said);
    }

    [Fact]
    public void A_name_and_a_time_on_a_line_of_their_own_go_with_what_follows()
    {
        var lines = TextFiles
            .Read("a.txt", "Maren Oakhurst  00:00:12\r\n\r\nThe cable was singing.\r\nIt does that.\r\n\r\nTOBIAS FENN:\r\nTwice.\r\n")
            .Lines;
        Assert.Equal(
            [("Maren Oakhurst", "The cable was singing.", 3), ("Maren Oakhurst", "It does that.", 4), ("TOBIAS FENN", "Twice.", 7)],
            lines.Select(l => (l.Who!, l.Said, l.Number))
        );
        Assert.Equal([12_000L, null, null], lines.Select(l => l.In?.ToMillisecondsRounded()));
    }

    [Fact]
    public void Captions_tell_their_times_and_names_and_lose_their_formatting()
    {
        var lines = TextFiles
            .Read(
                "a.srt",
                "\uFEFF1\r\n00:00:01,000 --> 00:00:02,500 X1:40\r\n<i>MAREN: The cable</i>\r\nwas &amp; is\r\n\r\n2\r\n00:00:02.000 --> "
                    + "00:00:03.000\r\n{\\an8}and again\r\n"
            )
            .Lines;
        Assert.Equal(
            [("MAREN", "The cable was & is", 1000L, 2500L), (null, "and again", 2000L, 3000L)],
            lines.Select(l => (l.Who, l.Said, l.In!.Value.ToMillisecondsRounded(), l.Out!.Value.ToMillisecondsRounded()))!
        );
        var web = TextFiles.Read("a.vtt", "WEBVTT\n\n00:01.000 --> 00:02.000\n<v Maren>The cable <v Tobias>Twice\n").Lines;
        Assert.Equal([("Maren", "The cable"), ("Tobias", "Twice")], web.Select(l => (l.Who!, l.Said)));
    }

    [Theory]
    [InlineData("start,name,words\r\n00:00:01,Maren,\"The cable, singing\"\r\n", "Maren", "The cable, singing")]
    [InlineData("Speaker;Text\nMaren;'=2+2\n", "Maren", "=2+2")]
    [InlineData("text\ttime\nyes\t0:05\n", null, "yes")]
    public void Tables_are_read_by_their_header(string table, string? who, string said)
    {
        var line = Assert.Single(TextFiles.Read("a.csv", table).Lines);
        Assert.Equal((who, said), (line.Who, line.Said));
    }

    [Theory]
    [InlineData("a.srt", "1\n00:00:05,000 --> 00:00:02,000\nno", "Line 2: the caption ends before it begins.")]
    [InlineData("a.srt", "1\n00:00:05 -> 00:00:07\nno", "Line 1: there are no captions")]
    [InlineData("a.srt", "00:00:05,000 --> soon\nno", "Line 1: the times of a caption")]
    [InlineData("a.csv", "a,b\n1,2\n", "Line 1: no column is called words")]
    [InlineData("a.csv", "start,words\n0:01,yes\nlater,no\n", "Line 3: “later” is not a time.")]
    [InlineData("a.csv", "", "Line 1: the table is empty.")]
    [InlineData(
        "a.csv",
        "name,words\nMaren,yes\nTobias,\"never closed\nIlse,no\nIlse,more\n",
        "Line 3: a quotation mark opens a cell here and is never closed"
    )]
    [InlineData("a.txt", " \r\n\t\n", "There are no words in this text.")]
    [InlineData("a.pdf", "words", "Files that end in .pdf are not read.")]
    [InlineData("a.json", "{\"schema\":\"other\"}", "This is not words JSON")]
    [InlineData("a.vtt", "no", "Line 1: a WebVTT file begins with WEBVTT.")]
    public void What_can_not_be_read_is_refused_with_the_line(string name, string text, string reason) =>
        Assert.StartsWith(reason, Assert.Throws<FormatException>(() => TextFiles.Read(name, text)).Message, StringComparison.Ordinal);

    [Fact]
    public void Hours_of_one_word_and_files_beyond_all_measure_are_refused()
    {
        Assert.StartsWith(
            "Line 2: “aaaaaaaaaaaaaaaaaaaa…” has 100000 letters",
            Assert.Throws<FormatException>(() => TextFiles.Read("a.txt", "yes\n" + new string('a', 100_000))).Message,
            StringComparison.Ordinal
        );
        Assert.Contains(
            "larger than 20 MB",
            Assert.Throws<FormatException>(() => TextFiles.Read("a.txt", new byte[TextFiles.MostBytes + 1])).Message,
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void What_is_no_text_at_all_is_refused_and_a_stray_control_character_is_not()
    {
        var random = new Random(3);
        var noise = new byte[5000];
        random.NextBytes(noise);
        Assert.StartsWith(
            "This file holds no text",
            Assert.Throws<FormatException>(() => TextFiles.Read("a.txt", noise)).Message,
            StringComparison.Ordinal
        );
        Assert.Equal("We crossed twice", Assert.Single(TextFiles.Read("a.txt", "We\0 crossed\a twice").Lines).Said);
    }

    [Fact]
    public void Cells_over_several_lines_and_inch_marks_are_read() =>
        Assert.Equal(
            ["one two", "a 5\" nail", "three"],
            TextFiles.Read("a.csv", "name,words\nMaren,\"one\ntwo\"\nTobias,a 5\" nail\nIlse,three\n").Lines.Select(l => l.Said)
        );

    [Fact]
    public void Captions_out_of_order_are_read_by_their_times() =>
        Assert.Equal(
            ["one", "two", "three"],
            TextFiles
                .Read(
                    "a.srt",
                    "1\n00:00:05,000 --> 00:00:06,000\nthree\n\n2\n00:00:01,000 --> 00:00:02,000\none\n\n3\n00:00:01,000 --> "
                        + "00:00:04,000\ntwo\n"
                )
                .Lines.Select(l => l.Said)
        );

    [Theory]
    [InlineData("utf-8", true)]
    [InlineData("utf-8", false)]
    [InlineData("utf-16", true)]
    [InlineData("utf-16BE", true)]
    public void Marks_of_encoding_are_understood(string name, bool mark)
    {
        var encoding = Encoding.GetEncoding(name);
        Assert.Equal("Grüße – 水", TextFiles.Decode([.. mark ? encoding.GetPreamble() : [], .. encoding.GetBytes("Grüße – 水")]));
    }

    [Fact]
    public void What_is_no_unicode_is_taken_for_windows_latin() =>
        Assert.Equal("Grüße – “ja”", TextFiles.Decode([0x47, 0x72, 0xFC, 0xDF, 0x65, 0x20, 0x96, 0x20, 0x93, 0x6A, 0x61, 0x94]));

    [Fact]
    public void Any_text_is_read_or_refused_and_nothing_else() =>
        Gen.Select(
                Gen.OneOfConst(".txt", ".srt", ".vtt", ".csv", ".json"),
                Gen.OneOf(Gen.String, Gen.String[Gen.Char["0123456789:,.->\n\r<v>\"; MARENwords{}[]"], 0, 200])
            )
            .Sample(
                (ending, text) =>
                {
                    try
                    {
                        Assert.NotNull(TextFiles.Read("a" + ending, text));
                    }
                    catch (FormatException refused)
                    {
                        Assert.NotEmpty(refused.Message);
                    }
                },
                iter: 2000
            );

    [Theory]
    [InlineData(".txt")]
    [InlineData(".csv")]
    [InlineData(".srt")]
    [InlineData(".vtt")]
    public void What_is_taken_out_reads_back(string ending)
    {
        string[] said = ["=the cable", "was", "singing,", "he", "said", "<x>"];
        var transcript = new Transcript(
            [
                .. said.Select(
                    (t, i) =>
                        new RecordWord(
                            new(i),
                            t,
                            new SittingRange(
                                new SittingTime(MediaTime.FromMilliseconds(i * 400L)),
                                new SittingTime(MediaTime.FromMilliseconds((i * 400L) + 300))
                            ),
                            null,
                            i / 3
                        )
                ),
            ],
            Layers.None with
            {
                VoiceNames = Layers.None.VoiceNames.Add(0, "Maren Oakhurst").Add(1, "Tobias"),
            }
        );
        var choice = new TextChoice(new(0), new(5), true, true);
        var text = ending switch
        {
            ".txt" => TranscriptText.Plain(transcript, choice),
            ".csv" => TranscriptText.Csv(transcript, choice),
            ".srt" => TranscriptText.SubRip(transcript, choice, new()),
            _ => TranscriptText.WebVtt(transcript, choice, new()),
        };
        var lines = TextFiles.Read("a" + ending, text).Lines;
        // What would be markup in SubRip is written with other brackets.
        Assert.Equal(["=the cable was singing,", ending == ".srt" ? "he said ‹x›" : "he said <x>"], lines.Select(l => l.Said));
        Assert.Equal(["MAREN OAKHURST", "TOBIAS"], lines.Select(l => l.Who!.ToUpperInvariant()));
    }
}
