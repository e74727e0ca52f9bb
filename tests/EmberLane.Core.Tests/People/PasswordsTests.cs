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

    [Theory]
    [InlineData("basketball")]
    [InlineData("BasketBall")]
    [InlineData("soso123aljg")]
    [InlineData("Sunshine2024!")]
    [InlineData("123monkey123")]
    public void One_that_many_had_is_refused_also_with_digits_and_signs_around_it(string password) =>
        Assert.Contains("Many people had that password", Passwords.WhyNot(password, "Ida Loom"), StringComparison.Ordinal);

    [Theory]
    [InlineData("basketball on sundays")]
    [InlineData("sunshine on the quay")]
    public void Words_in_a_row_are_taken_though_one_alone_would_not_be(string password) =>
        Assert.Null(Passwords.WhyNot(password, "Ida Loom"));

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
