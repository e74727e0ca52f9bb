using System.Numerics;
using CsCheck;
using EmberLane.Core.Signal;

namespace EmberLane.Core.Tests.Signal;

public sealed class FourierTests
{
    [Fact]
    public void The_transform_agrees_with_its_definition_and_turns_back() =>
        Gen.Select(Gen.Int[0, 9], Gen.Int)
            .Sample(
                (power, seed) =>
                {
                    var size = 1 << power;
                    var random = new Random(seed);
                    float[] re = [.. Enumerable.Range(0, size).Select(_ => random.NextSingle() - 0.5f)],
                        im = [.. Enumerable.Range(0, size).Select(_ => random.NextSingle() - 0.5f)];
                    float[] turnedRe = [.. re],
                        turnedIm = [.. im];
                    var fourier = new FastFourier(size);
                    fourier.Forward(turnedRe, turnedIm);
                    for (var k = 0; k < size; k++)
                    {
                        var sum = Complex.Zero;
                        for (var j = 0; j < size; j++)
                        {
                            sum += new Complex(re[j], im[j]) * Complex.Exp(new Complex(0, -2 * Math.PI * j * k / size));
                        }
                        Assert.Equal(sum.Real, turnedRe[k], 1e-3);
                        Assert.Equal(sum.Imaginary, turnedIm[k], 1e-3);
                    }
                    fourier.Inverse(turnedRe, turnedIm);
                    Assert.All(
                        Enumerable.Range(0, size),
                        i => Assert.Equal((re[i], im[i]), (turnedRe[i] / size, turnedIm[i] / size), Close)
                    );
                },
                iter: 60
            );

    private static bool Close((float, float) a, (float, float) b) =>
        Math.Abs(a.Item1 - b.Item1) < 1e-4 && Math.Abs(a.Item2 - b.Item2) < 1e-4;

    [Fact]
    public void A_size_that_is_no_power_of_two_is_refused() => Assert.ThrowsAny<ArgumentException>(() => new FastFourier(48));

    [Fact]
    public void The_transform_of_real_numbers_is_the_first_half_of_the_complex_one_and_turns_back() =>
        Gen.Select(Gen.Int[2, 11], Gen.Int)
            .Sample(
                (power, seed) =>
                {
                    var size = 1 << power;
                    var random = new Random(seed);
                    float[] samples = [.. Enumerable.Range(0, size).Select(_ => random.NextSingle() - 0.5f)],
                        re = [.. samples],
                        im = new float[size];
                    new FastFourier(size).Forward(re, im);
                    var fourier = new RealFourier(size);
                    var half = fourier.Forward(samples);
                    Assert.Equal((size / 2) + 1, fourier.Bins);
                    Assert.All(
                        Enumerable.Range(0, fourier.Bins),
                        k =>
                            Assert.Equal(
                                (re[k], im[k]),
                                (half.Re[k], half.Im[k]),
                                (a, b) => Math.Abs(a.Item1 - b.Item1) < 1e-3 && Math.Abs(a.Item2 - b.Item2) < 1e-3
                            )
                    );
                    var back = fourier.Inverse(half.Re, half.Im);
                    Assert.All(Enumerable.Range(0, size), i => Assert.Equal(samples[i], back[i] / size, 1e-4));
                },
                iter: 80
            );

    [Fact]
    public void Fewer_than_four_real_numbers_are_refused() => Assert.ThrowsAny<ArgumentException>(() => new RealFourier(2));
}
