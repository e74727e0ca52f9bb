using CsCheck;
using EmberLane.Core.Finding;

namespace EmberLane.Core.Tests.Finding;

public sealed class EditDistanceTests
{
    [Theory]
    [InlineData("", "", 0, 0, 0)]
    [InlineData("ferry", "", 0, 5, 0)]
    [InlineData("", "ferry", 0, 0, 5)]
    [InlineData("ferry", "merry", 1, 0, 0)]
    [InlineData("ferry", "fry", 0, 2, 0)]
    [InlineData("rope", "ropes", 0, 0, 1)]
    [InlineData("tern hollow", "turn hollows", 1, 0, 1)]
    public void Changes_are_counted_by_kind(string one, string other, int substituted, int deleted, int inserted) =>
        Assert.Equal(new EditDistance(substituted, deleted, inserted), EditDistance.Between<char>(one, other));

    [Fact]
    public void It_is_the_least_number_of_changes_whatever_is_compared() =>
        Gen.Select(Gen.Int[0, 2].Array[0, 6], Gen.Int[0, 2].Array[0, 6])
            .Sample(
                (one, other) =>
                {
                    var distance = EditDistance.Between<int>(one, other);
                    Assert.Equal(Least(one, other), distance.Changes);
                    Assert.Equal(other.Length - one.Length, distance.Inserted - distance.Deleted);
                    Assert.All([distance.Substituted, distance.Deleted, distance.Inserted], n => Assert.True(n >= 0));
                }
            );

    // Every way of changing one into the other.
    private static int Least(ReadOnlySpan<int> one, ReadOnlySpan<int> other) =>
        one.Length == 0 || other.Length == 0 ? one.Length + other.Length
        : one[0] == other[0] ? Least(one[1..], other[1..])
        : 1 + Math.Min(Least(one[1..], other[1..]), Math.Min(Least(one[1..], other), Least(one, other[1..])));
}
