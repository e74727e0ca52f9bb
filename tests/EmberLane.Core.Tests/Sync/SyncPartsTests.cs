using CsCheck;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class SyncPartsTests
{
    [Fact]
    public void The_line_is_the_one_that_most_points_agree_with_whatever_the_others_say()
    {
        var random = new Random(3);
        var points = Enumerable
            .Range(0, 20)
            .Select(i => (At: i * 8000.0, Lag: i % 3 == 0 ? random.Next(-400, 400) : 50 + (i * 8000 * 40e-6), Weight: 1.0))
            .ToList();
        var (line, agreeing) = LagLine.Fit(points, 200e-6, 1);
        Assert.Equal(50, line.Offset, 0.5);
        Assert.Equal(40e-6, line.Slope, 2e-6);
        Assert.True(Enumerable.Range(0, 20).Where(i => i % 3 != 0).All(agreeing.Contains));
    }

    [Fact]
    public void A_line_steeper_than_clocks_drift_is_not_drawn()
    {
        List<(double, double, double)> points = [.. Enumerable.Range(0, 10).Select(i => (i * 8000.0, i * 8000 * 1e-3, 1.0))];
        Assert.InRange(LagLine.Fit(points, 200e-6, 1).Agreeing.Count, 0, 2);
        Assert.Empty(LagLine.Fit([], 200e-6, 1).Agreeing);
    }

    [Fact]
    public void Stretches_that_show_nothing_alone_show_their_line_together()
    {
        // Peaks of three spreads in noise of one: the highest of 800 lags of noise alone is as high.
        const int reach = 400;
        const double slope = 60e-6;
        var random = new Random(8);
        double Noise() => Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble());
        var stretches = Enumerable
            .Range(0, 24)
            .Select(i =>
            {
                var at = 16_384.0 + (i * 16_000);
                var values = Enumerable.Range(0, (2 * reach) + 1).Select(_ => (float)Noise()).ToArray();
                var lag = 31 + (slope * at);
                foreach (var k in Enumerable.Range((int)lag - 3, 8))
                {
                    var d = Math.PI * (k - lag);
                    values[k + reach] += (float)(3 * (Math.Abs(d) < 1e-9 ? 1 : Math.Sin(d) / d));
                }
                return new StretchLags(at, values);
            })
            .ToList();
        var (line, height, tries, agreeing, apart) = Stack.Highest(stretches, 200e-6);
        Assert.InRange(line.Offset, 30, 32);
        Assert.InRange(line.Slope, slope - 4e-6, slope + 4e-6);
        Assert.True(Chance.ZerosOfHeight(height, tries) > 8);
        Assert.InRange(agreeing, 10, 24);
        // The stretches lie two seconds apart and are four long: every third shares nothing with the one before.
        Assert.InRange(apart, 4, 8);
    }

    [Theory]
    [InlineData(2, 12, 0.02)]
    [InlineData(0, 0, 0.02)]
    public void Two_places_that_agree_prove_nothing(int agreeing, int compared, double share) =>
        Assert.Equal(0, Chance.ZerosAgainst(agreeing, compared, share));

    [Fact]
    public void Chance_agrees_with_the_binomial_sum_and_falls_with_every_place_that_agrees()
    {
        // 4 of 6 places at a share of a half: two are free, so 2 or more of 4, times 15 pairs: more than likely.
        Assert.Equal(0, Chance.ZerosAgainst(4, 6, 0.5));
        // 5 of 5 at a tenth: one in a thousand, times 10 pairs.
        Assert.Equal(2, Chance.ZerosAgainst(5, 5, 0.1), 1e-9);
        Assert.All(Enumerable.Range(5, 8), k => Assert.True(Chance.ZerosAgainst(k, 12, 0.02) > Chance.ZerosAgainst(k - 1, 12, 0.02)));
    }

    [Fact]
    public void A_height_of_six_spreads_among_one_try_is_two_in_a_thousand_million()
    {
        Assert.Equal(8.7, Chance.ZerosOfHeight(6, 1), 0.1);
        Assert.Equal(0, Chance.ZerosOfHeight(3, 1e6));
    }

    [Fact]
    public void A_held_sound_is_silent_before_its_start_and_after_its_end()
    {
        var sound = new HeldSound([1, 2, 3]);
        var into = new float[6];
        sound.Read(-2, into);
        Assert.Equal([0, 0, 1, 2, 3, 0], into);
        sound.Read(50, into);
        Assert.Equal(new float[6], into);
        sound.Read(-50, into);
        Assert.Equal(new float[6], into);
    }
}
