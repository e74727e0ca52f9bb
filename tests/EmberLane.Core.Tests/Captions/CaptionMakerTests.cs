using CsCheck;
using EmberLane.Core.Captions;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Captions;

public sealed class CaptionMakerTests
{
    private static MediaTime At(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    private static RecognisedWord Word(string text, long from, long to, string? who = "Maren") =>
        new(text, new SourceRange(new SourceTime(At(from)), new SourceTime(At(to))), null, who);

    // Words of even length, one behind the other.
    private static List<RecognisedWord> Said(string text, long from, long each, string? who = "Maren") =>
        [.. text.Split(' ').Select((w, i) => Word(w, from + (i * each), from + (i * each) + each - 20, who))];

    private static string Shown(Caption caption) => string.Join('|', caption.Lines.Select(l => l.Shown));

    [Fact]
    public void Captions_part_where_sentences_and_clauses_end_and_no_line_ends_in_a_word_that_leans_on_the_next()
    {
        const string Text = "We pulled the ferry out at dawn. Nobody on the island had asked for it, and the harbour master was asleep.";
        var captions = CaptionMaker.Make(Said(Text, 1_000, 300), new CaptionRules { Line = 40 }, []);
        Assert.Equal(
            ["We pulled the ferry out at dawn.", "Nobody on the island had asked for it,", "and the harbour master was asleep."],
            captions.SelectMany(c => c.Lines).Select(l => l.Shown)
        );
        Assert.Equal(At(1_000), captions[0].In);
    }

    [Fact]
    public void A_caption_stands_on_into_a_pause_until_it_can_be_read()
    {
        var words = Said("Extraordinarily unforeseeable circumstances", 0, 400).Concat(Said("Yes.", 8_000, 300)).ToList();
        var captions = CaptionMaker.Make(words, new CaptionRules { Line = 45 }, []);
        Assert.Equal(2, captions.Count);
        // 43 characters at 17 a second.
        Assert.Equal(2_529, captions[0].Out.ToMillisecondsRounded());
        Assert.Equal((8_000, 9_000), (captions[1].In.ToMillisecondsRounded(), captions[1].Out.ToMillisecondsRounded()));
    }

    [Fact]
    public void Two_who_answer_each_other_quickly_share_a_caption_a_line_each_with_dashes()
    {
        var words = Said("Were you there?", 0, 200, "Ivo")
            .Concat(Said("Yes.", 700, 200))
            .Concat(Said("All night, alone.", 1_300, 300, "Ivo"))
            .ToList();
        var captions = CaptionMaker.Make(words, new CaptionRules(), []);
        Assert.Equal(["– Were you there?|– Yes.", "All night, alone."], captions.Select(Shown));
        Assert.Equal(["Ivo", "Maren"], captions[0].Lines.Select(l => l.Who));
        Assert.Contains("<v Ivo>– Were you there?\n<v Maren>– Yes.\n", CaptionFiles.WebVtt(captions), StringComparison.Ordinal);
    }

    [Fact]
    public void A_caption_ends_at_a_cut_rather_than_standing_over_it()
    {
        var words = Said("That was the last boat.", 0, 300).Concat(Said("They came back in March.", 1_900, 300)).ToList();
        var captions = CaptionMaker.Make(words, new CaptionRules { Lines = 2, Line = 60 }, [At(1_600)]);
        Assert.Equal(2, captions.Count);
        Assert.True(captions[0].Out <= At(1_600));
    }

    [Fact]
    public void A_word_longer_than_a_line_is_broken_at_its_end_and_nothing_of_it_is_lost()
    {
        var captions = CaptionMaker.Make([Word(new string('w', 95), 0, 3_000)], new CaptionRules { Line = 20 }, []);
        Assert.Equal(new string('w', 95), string.Concat(captions.SelectMany(c => c.Lines).Select(l => l.Said)));
        Assert.All(captions.SelectMany(c => c.Lines), l => Assert.True(l.Shown.Length <= 20));
    }

    [Fact]
    public void Lines_lengths_and_gaps_hold_and_no_word_is_lost_whatever_is_said()
    {
        var word = Gen.Select(
            Gen.String[Gen.Char["abcdefghij.,?"], 1, 14],
            Gen.OneOf(Gen.Long[0, 500], Gen.Long[0, 4_000]),
            Gen.Long[0, 900],
            Gen.Int[0, 8]
        );
        var rules = Gen.Select(Gen.Int[10, 50], Gen.Int[1, 4], Gen.Int[5, 40], Gen.Long[100, 2_000], Gen.Long[0, 5_000], Gen.Long[0, 400])
            .Select(
                (line, lines, speed, shortest, more, gap) =>
                    new CaptionRules
                    {
                        Line = line,
                        Lines = lines,
                        Speed = speed,
                        Shortest = At(shortest),
                        Longest = At(shortest + more),
                        Gap = At(gap),
                    }
            );
        Gen.Select(word.Array[1, 60], rules)
            .Sample(
                (said, own) =>
                {
                    long at = 0;
                    var words = new List<RecognisedWord>();
                    foreach (var (text, pause, length, voice) in said)
                    {
                        words.Add(
                            Word(
                                text,
                                at,
                                at + length,
                                voice < 7 ? "A"
                                    : voice == 7 ? "B"
                                    : null
                            )
                        );
                        at += pause;
                    }
                    var captions = CaptionMaker.Make(words, own, [At(700), At(2_100)]);
                    Assert.Equal(
                        string.Concat(words.Select(w => w.Text)),
                        string.Concat(captions.SelectMany(c => c.Lines).Select(l => l.Said)).Replace(" ", "", StringComparison.Ordinal)
                    );
                    foreach (var c in captions)
                    {
                        Assert.InRange(c.Lines.Count, 1, own.Lines);
                        Assert.All(c.Lines, l => Assert.InRange(l.Shown.Length, 1, own.Line));
                        Assert.InRange((c.Out - c.In).Units, own.Shortest.Units, own.Longest.Units);
                    }
                    Assert.All(captions.Zip(captions.Skip(1)), p => Assert.True(p.Second.In >= p.First.Out + own.Gap));
                    // The file is read again as it was written.
                    var back = SubRip.Read(CaptionFiles.SubRip(captions));
                    Assert.Equal(captions.Select(c => (c.In, c.Out)), back.Select(b => (b.In!.Value, b.Out!.Value)));
                }
            );
    }

    [Theory]
    [InlineData(5, 2, "line")]
    [InlineData(37, 0, "lines")]
    public void Rules_that_can_not_be_kept_are_refused_by_name(int line, int lines, string named) =>
        Assert.StartsWith(
            named + ":",
            Assert
                .Throws<FormatException>(() => CaptionMaker.Make([Word("a", 0, 1)], new CaptionRules { Line = line, Lines = lines }, []))
                .Message,
            StringComparison.Ordinal
        );
}
