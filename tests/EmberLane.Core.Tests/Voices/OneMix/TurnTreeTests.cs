using EmberLane.Core.Voices.OneMix;

namespace EmberLane.Core.Tests.Voices.OneMix;

public sealed class TurnTreeTests
{
    private static (double[][] Rows, double[] Weights) Made(int count, int seed)
    {
        var random = new Random(seed);
        return (
            [.. Enumerable.Range(0, count).Select(_ => new[] { random.NextDouble(), random.NextDouble(), random.NextDouble() })],
            [.. Enumerable.Range(0, count).Select(_ => 0.5 + (5 * random.NextDouble()))]
        );
    }

    // The pair that costs least, again and again, over all pairs.
    private static int[] Slowly(double[][] rows, double[] weights, int groups)
    {
        var parts = rows.Select((r, i) => (Mean: (double[])r.Clone(), Weight: weights[i], Turns: new List<int> { i })).ToList();
        while (parts.Count > groups)
        {
            var (one, other) = (
                from i in Enumerable.Range(0, parts.Count)
                from j in Enumerable.Range(0, i)
                orderby VoiceGroup.Apart(parts[i].Mean, parts[i].Weight, parts[j].Mean, parts[j].Weight)
                select (i, j)
            ).First();
            var (a, b) = (parts[one], parts[other]);
            var both = a.Weight + b.Weight;
            parts[other] = ([.. a.Mean.Zip(b.Mean, (x, y) => ((a.Weight * x) + (b.Weight * y)) / both)], both, [.. a.Turns, .. b.Turns]);
            parts.RemoveAt(one);
        }
        return [.. Enumerable.Range(0, rows.Length).Select(i => parts.FindIndex(p => p.Turns.Contains(i)))];
    }

    private static bool SameParting(int[] one, int[] other) =>
        Enumerable.Range(0, one.Length).All(i => Enumerable.Range(0, i).All(j => one[i] == one[j] == (other[i] == other[j])));

    [Theory]
    [InlineData(2, 1)]
    [InlineData(9, 3)]
    [InlineData(40, 1)]
    [InlineData(40, 6)]
    public void Chains_of_neighbours_find_the_groups_that_trying_all_pairs_finds(int count, int groups)
    {
        for (var seed = 0; seed < 10; seed++)
        {
            var (rows, weights) = Made(count, seed);
            var found = TurnTree.Groups(rows, weights, groups);
            Assert.Equal(groups, found.Distinct().Count());
            Assert.True(SameParting(Slowly(rows, weights, groups), found), $"seed {seed}");
        }
    }

    [Fact]
    public void Many_hours_of_turns_fall_into_the_people_that_they_are_of()
    {
        var random = new Random(8);
        const int count = 20_000;
        double[][] rows =
        [
            .. Enumerable.Range(0, count).Select(i => new[] { (10.0 * (i % 3)) + random.NextDouble(), random.NextDouble() }),
        ];
        var found = TurnTree.Groups(rows, [.. Enumerable.Repeat(1.0, count)], 3);
        Assert.Equal(3, found.Distinct().Count());
        Assert.All(Enumerable.Range(0, count), i => Assert.Equal(found[i % 3], found[i]));
    }

    [Fact]
    public void A_turn_alone_and_fewer_turns_than_groups_stay_apart()
    {
        Assert.Equal(
            [0],
            TurnTree.Groups(
                [
                    [1.0],
                ],
                [1],
                5
            )
        );
        Assert.Equal(
            3,
            TurnTree
                .Groups(
                    [
                        [1.0],
                        [2.0],
                        [3.0],
                    ],
                    [1, 1, 1],
                    9
                )
                .Distinct()
                .Count()
        );
    }

    [Fact]
    public void Turns_that_are_all_alike_fall_into_one_group()
    {
        Assert.Single(TurnTree.Groups([.. Enumerable.Repeat(new[] { 2.0, 2.0 }, 20)], [.. Enumerable.Repeat(1.0, 20)], 1).Distinct());
    }
}
