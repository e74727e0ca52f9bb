using EmberLane.Core.People;

namespace EmberLane.Core.Tests.People;

public sealed class PasswordsTests
{
    [Theory]
    [InlineData("seven herons at dusk")]
    [InlineData("x7#Lq-29_wZ")]
    [InlineData("Möwe über der Fähre")]
    public void Long_ones_are_taken_whatever_they_are_made_of(string password) => Assert.Null(Passwords.WhyNot(password, "Ida Loom"));

    [Theory]
    [InlineData("short one")]
    [InlineData("")]
    [InlineData("aaaaaaaaaaaa")]
    [InlineData("abababababab")]
    [InlineData("password123")]
    [InlineData("EmberLane2026")]
    [InlineData("1234567890")]
    [InlineData("ida loom is here")]
    public void What_is_guessed_first_is_refused_with_the_reason(string password) =>
        Assert.NotEmpty(Passwords.WhyNot(password, "Ida Loom") ?? "");

    [Fact]
    public void Both_ends_of_the_lengths_are_taken_and_one_beyond_each_is_not()
    {
        const string Made = "0a1b2c3d4e5f6g7h";
        string Of(int length) => string.Concat(Enumerable.Repeat(Made, 10))[..length];
        Assert.Null(Passwords.WhyNot(Of(Passwords.Shortest), ""));
        Assert.Null(Passwords.WhyNot(Of(Passwords.Longest), ""));
        Assert.NotNull(Passwords.WhyNot(Of(Passwords.Shortest - 1), ""));
        Assert.NotNull(Passwords.WhyNot(Of(Passwords.Longest + 1), ""));
    }
}
