using EmberLane.Core.Tidy;

namespace EmberLane.Core.Tests.Tidy;

public sealed class ScriptTests
{
    private const string Script = """
        MAREN: Every boat has a last day.
        TOBIAS: (quietly) And nobody rings a bell for it.

        The cable was singing that morning, as it does before weather.
        Yes.
        We never learned how to stop.
        """;

    private static readonly string[] Takes =
    [
        "A: So, first line.",
        "B: Every boat has a. Sorry. Every boat has its last day. Every boat has a last day.",
        "C: And nobody rings a bell. / And nobody rings a bell for it.",
        "A: Good. We had rain all week and the road was closed.",
        "B: Yes. The cable was singing this morning, as it does before weather.",
    ];

    [Fact]
    public void Lines_are_read_with_who_says_them_and_without_what_stands_in_brackets()
    {
        var lines = ScriptText.Read(Script);
        Assert.Equal(5, lines.Count);
        Assert.Equal((1, "MAREN", "Every boat has a last day."), (lines[0].Number, lines[0].Speaker, lines[0].Text));
        Assert.Equal(("TOBIAS", "And nobody rings a bell for it."), (lines[1].Speaker, lines[1].Text));
        Assert.Equal((3, null), (lines[2].Number, lines[2].Speaker));
    }

    [Fact]
    public void Each_line_has_its_takes_in_order_the_last_good_one_proposed_and_a_missing_line_has_none()
    {
        var talk = Telling.Of(Takes);
        var matched = ScriptTakes.Of(talk, ScriptText.Read(Script));
        string[] Said(int line) => [.. matched[line].Takes.Select(t => talk.Said(t.First, t.Last))];
        Assert.Equal(["Every boat has a.", "Every boat has its last day.", "Every boat has a last day."], Said(0));
        Assert.Equal(2, matched[0].Best);
        Assert.Equal(["And nobody rings a bell.", "And nobody rings a bell for it."], Said(1));
        Assert.Equal(1, matched[1].Best);
        Assert.Equal(["The cable was singing this morning, as it does before weather."], Said(2));
        Assert.Equal(["Yes."], Said(3));
        Assert.Empty(matched[4].Takes);
        Assert.Null(matched[4].Best);
        Assert.True(matched[0].Takes[0].Score < matched[0].Takes[1].Score);
        Assert.Equal(1, matched[0].Takes[2].Score, 1e-9);
    }

    [Fact]
    public void Of_lines_with_the_same_words_the_next_one_is_said_next()
    {
        var talk = Telling.Of("A: Who painted the boat? Maren painted the boat. Who painted the boat? Tobias painted it, of course.");
        var matched = ScriptTakes.Of(
            talk,
            ScriptText.Read("Who painted the boat?\nMaren painted the boat.\nWho painted the boat?\nTobias painted it, of course.")
        );
        Assert.Equal([0, 1, 2, 3], matched.OrderBy(m => m.Takes.Single().First).Select(m => m.Line.Number - 1));
    }

    [Fact]
    public void A_script_whose_lines_are_all_the_same_or_that_nobody_says_is_matched_too()
    {
        var talk = Telling.Of([.. Enumerable.Repeat("A: The ferry is late again today.", 40)]);
        var lines = ScriptText.Read(string.Join('\n', Enumerable.Repeat("The ferry is late again today.", ScriptText.MostLines)));
        Assert.Equal(40, ScriptTakes.Of(talk, lines).Sum(m => m.Takes.Count));
        Assert.All(ScriptTakes.Of(talk, ScriptText.Read("Nothing of this was said.\nNor that.")), m => Assert.Empty(m.Takes));
        Assert.All(ScriptTakes.Of(new Talk([]), lines), m => Assert.Empty(m.Takes));
    }

    [Fact]
    public void What_is_no_script_is_refused_with_the_line()
    {
        string Refused(string text) => Assert.Throws<FormatException>(() => ScriptText.Read(text)).Message;
        Assert.Equal("The script has no line with words.", Refused("\n  \n(music)\n***"));
        Assert.StartsWith("This file holds no text", Refused("ftypqt" + string.Concat(Enumerable.Repeat("\u0001x", 40))));
        Assert.StartsWith("Line 2 has 6000 characters", Refused("One.\n" + new string('x', 6_000)));
        Assert.StartsWith("The script has more than 5000 lines", Refused(string.Join('\n', Enumerable.Repeat("a line", 5_001))));
    }

    [Fact]
    public void Takes_never_lie_beyond_the_text_nor_twice_on_the_same_words()
    {
        var random = new Random(8);
        string[] some = ["the", "ferry", "was", "late", "and", "nobody", "came", "again", "bell.", "um", "river", "bridge,", "why?"];
        string Words(int most) => string.Join(' ', Enumerable.Range(0, random.Next(1, most)).Select(_ => some[random.Next(some.Length)]));
        for (var round = 0; round < 200; round++)
        {
            var talk = Telling.Of([.. Enumerable.Range(0, 6).Select(i => $"{(i % 3 == 0 ? 'A' : 'B')}: {Words(20)}")]);
            var takes = ScriptTakes
                .Of(talk, ScriptText.Read("word\n" + string.Join('\n', Enumerable.Range(0, 5).Select(_ => Words(9)))))
                .SelectMany(m => m.Takes)
                .OrderBy(t => t.First)
                .ToList();
            Assert.All(takes, t => Assert.True(t.First >= 0 && t.First <= t.Last && t.Last < talk.Words.Count && t.Score is > 0 and <= 1));
            foreach (var (one, next) in takes.Zip(takes.Skip(1)))
            {
                var both = one.Last - next.First + 1;
                Assert.True(both <= 0.3 * Math.Min(one.Last - one.First + 1, next.Last - next.First + 1));
            }
        }
    }
}
