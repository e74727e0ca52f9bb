using EmberLane.Core.Finding;

namespace EmberLane.Core.Tests.Finding;

public sealed class FindingTests
{
    [Theory]
    [InlineData("", true)]
    [InlineData("  ", true)]
    [InlineData("FERRY cam", true)]
    [InlineData("uber", true)]
    [InlineData("ferry hut", false)]
    [InlineData("ferrycam", false)]
    public void Every_word_has_to_be_somewhere_without_regard_to_case_and_accents(string asked, bool fits) =>
        Assert.Equal(fits, Folded.Fits(asked, ["A001_Ferry.mov", "camera A", "Über den Fluss"]));

    [Fact]
    public void Names_come_in_the_order_in_which_people_count()
    {
        string[] inOrder = ["", "A2", "a2b", "A010", "A11", "b1", "b1 x", "ß"];
        Assert.Equal(inOrder, inOrder.Reverse().Order(NumbersInOrder.Comparer));
    }

    [Fact]
    public void The_order_is_an_order_for_any_names()
    {
        var random = new Random(7);
        var names = Enumerable
            .Range(0, 60)
            .Select(_ => new string([.. Enumerable.Range(0, random.Next(0, 6)).Select(_ => "aB01 29"[random.Next(7)])]))
            .ToList();
        var c = NumbersInOrder.Comparer;
        foreach (var (x, y) in names.SelectMany(x => names.Select(y => (x, y))))
        {
            Assert.Equal(Math.Sign(c.Compare(x, y)), -Math.Sign(c.Compare(y, x)));
            Assert.Equal(Same(x) == Same(y), c.Compare(x, y) == 0);
            Assert.All(
                names.Where(z => c.Compare(x, y) <= 0 && c.Compare(y, z) <= 0),
                z => Assert.True(c.Compare(x, z) <= 0, $"“{x}” “{y}” “{z}”")
            );
        }
    }

    // Without case and without the zeros that a number begins with.
    private static string Same(string name) =>
        System.Text.RegularExpressions.Regex.Replace(name.ToUpperInvariant(), "(?<![0-9])0+(?=[0-9])", "");
}
