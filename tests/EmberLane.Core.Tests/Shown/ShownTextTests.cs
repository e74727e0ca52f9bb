using EmberLane.Core.Shown;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Tests.Shown;

public sealed class ShownTextTests
{
    // Numbers are not in order: the word with the number 9 was added behind the first.
    private static readonly ShownText Text = new([
        Line("a", 1, ("The", 0, 0), ("loud", 9, 1), ("cable", 1, 2)),
        Line("b", 1, ("was", 2, 3), ("singing.", 5, 6)),
        Line("c", 2, ("Ninety", 0, 0), ("years.", 1, 1)),
        new ShownLine("d", ShownKind.Title, "", "0:09.0", 0, [new ShownWord("Low water", null, null)]),
    ]);

    private static ShownLine Line(string key, long sitting, params (string Text, int Number, int Place)[] words) =>
        new(
            key,
            ShownKind.Talk,
            "Tobias Fenn",
            "0:00.0",
            sitting,
            [.. words.Select(w => new ShownWord(w.Text, new ShownPlace(new(w.Number), new(w.Number), new(w.Place), new(w.Place)), null))]
        );

    [Fact]
    public void A_passage_is_found_by_its_ends_across_lines_of_one_sitting()
    {
        var passage = Text.Of(1, new(9), new(2))!;
        Assert.Equal("loud cable was", passage.Said);
        Assert.Equal(("a", "b", false), (passage.Begins.Key, passage.Ends.Key, passage.IsOfOneLine));
        Assert.True(Text.Of(2, new(0), new(1))!.IsOfOneLine);
    }

    [Theory]
    [InlineData(1, 2, 0)]
    [InlineData(1, 3, 5)]
    [InlineData(1, 2, 4)]
    [InlineData(2, 0, 5)]
    [InlineData(3, 0, 1)]
    [InlineData(0, -1, -1)]
    public void What_is_not_shown_or_runs_backwards_is_no_passage(long sitting, int first, int last) =>
        Assert.Null(Text.Of(sitting, new(first), new(last)));

    [Fact]
    public void Of_a_stretch_of_the_text_only_what_is_shown_is_read_and_nothing_where_nothing_is()
    {
        // Places 4 and 5 were set aside.
        Assert.Equal("was singing.", Text.Between(1, new(3), new(6))!.Said);
        Assert.Equal("was", Text.Between(1, new(3), new(5))!.Said);
        Assert.Null(Text.Between(1, new(4), new(5)));
        Assert.Null(Text.Between(9, new(0), new(9)));
        Assert.Equal("Low water", Text.Line("d")!.Said);
        Assert.Null(Text.Line("e"));
    }
}
