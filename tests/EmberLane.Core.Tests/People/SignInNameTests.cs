using CsCheck;
using EmberLane.Core.People;

namespace EmberLane.Core.Tests.People;

public sealed class SignInNameTests
{
    [Theory]
    [InlineData("Wren Adair", "Wren Adair")]
    [InlineData("  Wren \t Adair\n", "Wren Adair")]
    [InlineData("Éloïse d’Arc-Noé", "Éloïse d’Arc-Noé")]
    [InlineData("logger_2@hut", "logger_2@hut")]
    public void A_name_is_kept_as_it_is_typed_but_for_blanks(string typed, string name) =>
        Assert.Equal((name, null), SignInName.Fit(typed));

    [Theory]
    [InlineData(null)]
    [InlineData("   ")]
    [InlineData("(link)")]
    [InlineData("Ida Loom (link)")]
    [InlineData("-rf")]
    [InlineData("<b>Ida</b>")]
    [InlineData("a\u202Eb")]
    [InlineData("a name that is much longer than any line on a page has room for")]
    public void What_could_pass_for_another_or_breaks_a_line_is_refused_with_the_reason(string? typed)
    {
        var (name, why) = SignInName.Fit(typed);
        Assert.Null(name);
        Assert.NotEmpty(why!);
    }

    [Fact]
    public void Nobody_who_signs_in_is_named_as_one_who_comes_by_a_link() =>
        Gen.String.Sample(typed => SignInName.Fit(typed).Name is not { } name || !name.EndsWith("(link)", StringComparison.Ordinal));

    [Theory]
    [InlineData("Ida Loom", "IDA loom")]
    [InlineData("Ida", "Ｉｄａ")]
    public void Names_that_look_the_same_are_the_same(string one, string other) => Assert.Equal(SignInName.Key(one), SignInName.Key(other));
}
