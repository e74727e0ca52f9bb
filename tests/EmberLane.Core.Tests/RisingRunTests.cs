namespace EmberLane.Core.Tests;

public sealed class RisingRunTests
{
    [Fact]
    public void A_run_rises_lies_in_order_and_none_is_longer_by_trying_all()
    {
        var random = new Random(11);
        for (var round = 0; round < 400; round++)
        {
            var numbers = Enumerable.Range(0, random.Next(10)).ToArray();
            random.Shuffle(numbers);
            var run = RisingRun.Of(numbers);
            Assert.All(run.Zip(run.Skip(1)), p => Assert.True(p.First < p.Second && numbers[p.First] < numbers[p.Second]));
            var longest = Enumerable
                .Range(0, 1 << numbers.Length)
                .Select(some => numbers.Where((_, i) => (some >> i & 1) == 1).ToList())
                .Where(some => some.Zip(some.Skip(1)).All(p => p.First < p.Second))
                .Max(some => some.Count);
            Assert.Equal(longest, run.Count);
        }
    }
}
