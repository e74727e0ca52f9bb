namespace EmberLane.Core.Signal;

/// <summary>
/// The discrete Fourier transform of real numbers, of a size that is a power of two, at least four: neighbours are taken as one complex
/// number, transformed at half the length and untangled (Cooley, Lewis and Welch, 1970), which takes 0.7 of the time of the complex one.
/// Only the first half of the spectrum and its middle are kept: the rest mirrors it. Several threads may use one at once.
/// </summary>
internal sealed class RealFourier
{
    private readonly int half;
    private readonly FastFourier transform;
    private readonly float[] cosines,
        sines;

    public RealFourier(int size)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(size, 4);
        half = size / 2;
        transform = new FastFourier(half);
        (cosines, sines) = (new float[half + 1], new float[half + 1]);
        for (var k = 0; k <= half; k++)
        {
            var (sine, cosine) = Math.SinCos(-2 * Math.PI * k / size);
            (cosines[k], sines[k]) = ((float)cosine, (float)sine);
        }
    }

    /// <summary>Numbers of the spectrum: half the size and one.</summary>
    public int Bins => half + 1;

    /// <summary>
    /// The spectrum of <paramref name="samples"/>, size of them, with <c>exp(−2πi·jk/size)</c>, unscaled: <see cref="Bins"/> real and
    /// imaginary parts.
    /// </summary>
    public (float[] Re, float[] Im) Forward(ReadOnlySpan<float> samples)
    {
        float[] zr = new float[half],
            zi = new float[half];
        for (var k = 0; k < half; k++)
        {
            (zr[k], zi[k]) = (samples[2 * k], samples[(2 * k) + 1]);
        }
        transform.Forward(zr, zi);
        float[] re = new float[half + 1],
            im = new float[half + 1];
        for (var k = 0; k <= half; k++)
        {
            int at = k & (half - 1),
                mirror = (half - k) & (half - 1);
            // The even ones are half the sum with the mirrored conjugate, the odd ones half the difference over i, turned by their place.
            float evenRe = (zr[at] + zr[mirror]) / 2,
                evenIm = (zi[at] - zi[mirror]) / 2,
                oddRe = (zi[at] + zi[mirror]) / 2,
                oddIm = (zr[mirror] - zr[at]) / 2;
            re[k] = evenRe + (oddRe * cosines[k]) - (oddIm * sines[k]);
            im[k] = evenIm + (oddRe * sines[k]) + (oddIm * cosines[k]);
        }
        return (re, im);
    }

    /// <summary>
    /// The real numbers with this half of a spectrum, <see cref="Bins"/> of each: forward and inverse give size times the input.
    /// </summary>
    public float[] Inverse(ReadOnlySpan<float> re, ReadOnlySpan<float> im)
    {
        float[] zr = new float[half],
            zi = new float[half];
        for (var k = 0; k < half; k++)
        {
            int mirror = half - k;
            float evenRe = re[k] + re[mirror],
                evenIm = im[k] - im[mirror],
                turnedRe = re[k] - re[mirror],
                turnedIm = im[k] + im[mirror];
            float oddRe = (turnedRe * cosines[k]) + (turnedIm * sines[k]),
                oddIm = (turnedIm * cosines[k]) - (turnedRe * sines[k]);
            (zr[k], zi[k]) = (evenRe - oddIm, evenIm + oddRe);
        }
        transform.Inverse(zr, zi);
        var samples = new float[2 * half];
        for (var k = 0; k < half; k++)
        {
            (samples[2 * k], samples[(2 * k) + 1]) = (zr[k], zi[k]);
        }
        return samples;
    }
}
