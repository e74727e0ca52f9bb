using CsCheck;
using EmberLane.Core.Comments;

namespace EmberLane.Core.Tests.Comments;

public sealed class CommentTextTests
{
    private static readonly string[] Names = ["Ida", "Ida Loom", "Wren Adair", "Bo"];

    [Theory]
    [InlineData("@Ida Loom look", "Ida Loom")]
    [InlineData("@ida loom look", "Ida Loom")]
    [InlineData("so, @Ida: look", "Ida")]
    [InlineData("@Ida Loomis look", "Ida")]
    [InlineData("@Wren Adair, @Bo", "Wren Adair|Bo")]
    [InlineData("@Bo @bo", "Bo")]
    [InlineData("mail@Bo.example", "")]
    [InlineData("@Bob", "")]
    [InlineData("@ Bo @", "")]
    [InlineData("@@Bo", "Bo")]
    public void The_longest_name_behind_an_at_is_mentioned_where_no_word_goes_on(string text, string mentioned) =>
        Assert.Equal(mentioned, string.Join('|', CommentText.Mentioned(text, Names)));

    [Fact]
    public void The_parts_are_all_of_the_text() =>
        Gen.String[Gen.Char["@ BoIdaLmx,.\n"], 0, 60]
            .Sample(text =>
                string.Concat(CommentText.Parts(text, Names).Select(p => p.IsName ? "@" + p.Text : p.Text))
                    .Equals(text, StringComparison.OrdinalIgnoreCase)
            );

    [Theory]
    [InlineData("  so \r\n\r\n it is\t", "so\n\nit is")]
    [InlineData("\n\na\u0007b\n", "a b")]
    public void Lines_stay_and_what_nobody_sees_goes(string typed, string kept) => Assert.Equal(kept, CommentText.Fit(typed));

    [Theory]
    [InlineData(null)]
    [InlineData(" \n\t ")]
    public void Nothing_is_no_comment(string? typed) => Assert.Throws<EditRefusedException>(() => CommentText.Fit(typed));

    [Fact]
    public void Too_much_is_refused_and_the_most_is_taken()
    {
        Assert.Equal(CommentText.Longest, CommentText.Fit(new string('a', CommentText.Longest)).Length);
        Assert.Throws<EditRefusedException>(() => CommentText.Fit(new string('a', CommentText.Longest + 1)));
        Assert.Throws<EditRefusedException>(() => CommentText.Fit(string.Join('\n', Enumerable.Repeat("a", 61))));
    }
}
