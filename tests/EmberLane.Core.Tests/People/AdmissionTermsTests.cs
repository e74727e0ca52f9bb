using EmberLane.Core.People;

namespace EmberLane.Core.Tests.People;

public sealed class AdmissionTermsTests
{
    private static readonly DateTimeOffset Made = new(2026, 12, 1, 9, 0, 0, TimeSpan.Zero);

    private static readonly AdmissionTerms Open = new(Made, Made.AddDays(7), null, null);

    [Theory]
    [InlineData(0, true)]
    [InlineData(-5, true)]
    [InlineData((7 * 24 * 60) - 1, true)]
    [InlineData(7 * 24 * 60, false)]
    [InlineData(-11, false)]
    public void It_lets_in_from_when_it_was_made_until_it_expires(int minutes, bool lets) =>
        Assert.All(Enum.GetValues<AdmissionKind>(), kind => Assert.Equal(lets, Open.WhyNot(kind, Made.AddMinutes(minutes)) is null));

    [Fact]
    public void A_clock_that_was_set_back_does_not_bring_an_old_one_back_to_life()
    {
        Assert.NotNull(Open.WhyNot(AdmissionKind.Link, Made.AddYears(-1)));
        Assert.Contains("clock", Open.WhyNot(AdmissionKind.Link, Made.AddYears(-1)), StringComparison.Ordinal);
    }

    [Fact]
    public void An_invitation_works_once_and_a_link_as_often_as_wanted()
    {
        var used = Open with { UsedAt = Made.AddHours(1) };
        Assert.Null(used.WhyNot(AdmissionKind.Link, Made.AddHours(2)));
        Assert.NotNull(used.WhyNot(AdmissionKind.Invitation, Made.AddHours(2)));
        Assert.NotNull(used.WhyNot(AdmissionKind.NewPassword, Made.AddHours(2)));
    }

    [Fact]
    public void What_was_withdrawn_lets_nobody_in_and_says_so_first() =>
        Assert.Contains(
            "withdrawn",
            (Open with { WithdrawnAt = Made, UsedAt = Made }).WhyNot(AdmissionKind.Invitation, Made.AddYears(1)),
            StringComparison.Ordinal
        );
}
