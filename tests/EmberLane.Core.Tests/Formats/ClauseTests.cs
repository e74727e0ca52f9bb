using EmberLane.Core.Captions;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;

namespace EmberLane.Core.Tests.Formats;

/// <summary>
/// What is read of open formats, by the clause that says it: WebVTT (W3C Candidate Recommendation of 4 April 2019), RFC 4180 and SMPTE
/// 258M. SubRip has no standard; what players agree on is held here too.
/// </summary>
public sealed class ClauseTests
{
    private static byte[] Sample(string name) => File.ReadAllBytes(Path.Combine(AppContext.BaseDirectory, "Formats", "Samples", name));

    private static IReadOnlyList<TypedLine> Lines(string name) => TextFiles.Read(name, Sample(name)).Lines;

    private static IEnumerable<(string? Who, string Said, long In, long Out)> Timed(string name) =>
        Lines(name).Select(l => (l.Who, l.Said, l.In!.Value.ToMillisecondsRounded(), l.Out!.Value.ToMillisecondsRounded()));

    [Fact]
    public void WebVTT_4_1_a_header_text_and_REGION_STYLE_and_NOTE_blocks_are_no_cues_and_identifiers_and_settings_are_no_words() =>
        Assert.Equal(
            [(null, "the cable", 1000L, 2000L), (null, "after a hundred hours", 360_000_000L, 360_001_500L)],
            Timed("webvtt-header-and-blocks.vtt")
        );

    [Fact]
    public void WebVTT_4_1_lines_may_end_in_a_carriage_return_alone() =>
        Assert.Equal([(null, "one", 1000L, 2000L), (null, "two", 2000L, 3000L)], Timed("webvtt-carriage-returns.vtt"));

    [Fact]
    public void WebVTT_4_1_what_follows_the_signature_stands_behind_a_blank() =>
        Assert.Contains(
            "begins with WEBVTT",
            Assert.Throws<FormatException>(() => Lines("webvtt-no-signature.vtt")).Message,
            StringComparison.Ordinal
        );

    [Fact]
    public void WebVTT_4_2_2_a_voice_span_names_who_speaks_until_it_ends_and_other_tags_and_references_are_no_words()
    {
        var words = WebVtt.ReadWords(TextFiles.Decode(Sample("webvtt-voices-and-tags.vtt")));
        Assert.Equal(
            [("Maren Oakhurst", "The cable was singing"), (null, "and so on"), ("Tobias Fenn", "It does that <twice> & more")],
            Lines("webvtt-voices-and-tags.vtt").Select(l => (l.Who, l.Said))
        );
        Assert.Equal(6000, words.Single(w => w.Text == "does").Range.In.FromZero.ToMillisecondsRounded());
    }

    [Fact]
    public void RFC_4180_2_the_last_line_needs_no_break_commas_and_breaks_stand_in_quotes_and_a_quote_is_doubled() =>
        Assert.Equal(
            [
                ("Maren", "The cable, singing"),
                ("Maren", "He said \"twice\""),
                ("Tobias", "over two lines"),
                (null, "leading and trailing"),
                ("Ilse", "last line without a break"),
            ],
            Lines("csv-rfc4180.csv").Select(l => (l.Who, l.Said))
        );

    [Fact]
    public void SMPTE_258M_the_two_lines_of_a_dissolve_are_one_event_and_comments_and_speeds_are_no_events()
    {
        var list = EdlReader.Read(TextFiles.Decode(Sample("edl-258m.edl")), FrameRate.R25);
        Assert.Equal("SLACK WATER", list.Title);
        Assert.False(list.Count.DropFrame);
        Assert.Equal(
            [(1, "A001", null), (2, "A001", null), (2, "B001", 12), (3, "AX", (int?)null)],
            list.Events.Select(e => (e.Number, e.Reel, e.DissolveFrames))
        );
        Assert.Equal(EdlTrack.BothAudio, list.Events[^1].Track);
        Assert.Equal("10:10:03:00", list.Events[2].SourceOut.ToString());
    }

    [Fact]
    public void SMPTE_258M_FCM_tells_how_frames_are_counted() =>
        Assert.Equal(
            1800,
            EdlReader.Read(TextFiles.Decode(Sample("edl-drop-frame.edl")), FrameRate.R2997).Events.Single() is var e
                ? e.RecordOut.Frame - e.RecordIn.Frame
                : 0
        );

    [Fact]
    public void SubRip_places_on_the_picture_and_formatting_are_no_words_and_a_point_does_for_the_comma() =>
        Assert.Equal([(null, "The cable", 1000L, 2000L), (null, "- twice - and once more", 2000L, 3000L)], Timed("subrip.srt"));
}
