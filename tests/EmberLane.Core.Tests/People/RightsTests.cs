using CsCheck;
using EmberLane.Core.People;

namespace EmberLane.Core.Tests.People;

public sealed class RightsTests
{
    [Theory]
    [InlineData(Role.Producer, Rights.All)]
    [InlineData(Role.Editor, Rights.Read | Rights.Listen | Rights.Comment | Rights.Mark | Rights.Order | Rights.HandOff)]
    [InlineData(Role.Logger, Rights.Read | Rights.Listen | Rights.Comment | Rights.Mark | Rights.Log)]
    [InlineData(Role.Director, Rights.Read | Rights.Listen | Rights.Comment | Rights.Mark)]
    [InlineData(Role.Guest, Rights.Read | Rights.Listen | Rights.Comment)]
    public void Each_role_may_do_what_its_work_takes(Role role, Rights rights) => Assert.Equal(rights, RoleRules.Of(role));

    [Fact]
    public void A_number_that_is_no_role_may_do_nothing() =>
        Gen.Int.Where(n => !RoleRules.All.Contains((Role)n)).Sample(n => RoleRules.Of((Role)n) == Rights.None);

    [Fact]
    public void Only_a_producer_lets_people_in() =>
        Assert.Equal([Role.Producer], RoleRules.All.Where(r => RoleRules.Of(r).HasFlag(Rights.Run)));

    [Fact]
    public void A_link_reads_always_and_never_changes_the_work_of_others() =>
        Gen.Int[0, (int)Rights.All]
            .Sample(asked =>
            {
                var given = RightsRules.ForLink((Rights)asked);
                return given.HasFlag(Rights.Read) && !given.HasAny(Rights.Log | Rights.Order | Rights.HandOff | Rights.Run);
            });

    [Theory]
    [InlineData(Rights.None, "nothing")]
    [InlineData(Rights.Read, "read")]
    [InlineData(Rights.Read | Rights.Mark, "read and mark")]
    [InlineData(Rights.Read | Rights.Listen | Rights.Comment, "read, listen and comment")]
    public void Rights_are_said_in_words(Rights rights, string said) => Assert.Equal(said, rights.Said());
}
