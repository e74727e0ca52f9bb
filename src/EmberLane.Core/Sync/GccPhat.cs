using EmberLane.Core.Signal;

namespace EmberLane.Core.Sync;

/// <summary>
/// How well a stretch of the source agrees with the reference at lags around the expected one, in spreads of all those lags;
/// <see cref="At"/> is the stretch's middle, in samples of the source.
/// </summary>
internal sealed class StretchLags(double at, float[] values)
{
    /// <summary>Lags at either end that <see cref="Between"/> needs around a lag.</summary>
    public const int Margin = Taps + 2;

    private const int Taps = 16;

    public double At { get; } = at;

    public int Reach { get; } = values.Length / 2;

    /// <summary>At a whole lag within reach.</summary>
    public float this[int lag] => values[lag + Reach];

    /// <summary>Between lags, by band-limited interpolation; 0 out of reach.</summary>
    public double Between(double lag)
    {
        var whole = (int)Math.Floor(lag);
        if (whole - Taps < -Reach || whole + Taps > Reach)
        {
            return 0;
        }
        var part = lag - whole;
        if (part < 1e-9)
        {
            return this[whole];
        }
        double sum = 0,
            sine = Math.Sin(Math.PI * part) / Math.PI;
        for (var k = 1 - Taps; k <= Taps; k++)
        {
            var d = part - k;
            sum += this[whole + k] * ((k & 1) == 0 ? sine : -sine) / d * (0.5 + (0.5 * Math.Cos(Math.PI * d / (Taps + 1))));
        }
        return sum;
    }

    /// <summary>The lag with the strongest agreement, of either polarity, and its height.</summary>
    public (int Lag, double Height) Peak()
    {
        var best = 0;
        for (var k = -Reach; k <= Reach; k++)
        {
            best = Math.Abs(this[k]) > Math.Abs(this[best]) ? k : best;
        }
        return (best, Math.Abs(this[best]));
    }
}

/// <summary>
/// Compares short stretches to the sample: the generalised cross-correlation with phase transform (Knapp and Carter, 1976), which looks at
/// when and not at how loud, and so withstands echo and another mic's colour.
/// </summary>
internal sealed class GccPhat(ISound reference, ISound source)
{
    /// <summary>Samples of a stretch: 4.1 s.</summary>
    public const int Window = 32_768;

    private const int Size = Window * 2;

    /// <summary>
    /// Frequencies in which the reference holds less than this share of the mean power tell less and less of the response.
    /// </summary>
    private const float Regular = 0.003f;

    private static readonly FastFourier Fourier = new(Size);

    private static readonly float[] Shape =
    [
        .. Enumerable.Range(0, Window).Select(i => (float)(0.5 - (0.5 * Math.Cos(2 * Math.PI * i / Window)))),
    ];

    /// <summary>
    /// Compares the source's stretch from <paramref name="at"/> with the reference where <paramref name="line"/> expects it, at lags within
    /// <paramref name="reach"/> samples to both sides; a positive lag lies later than expected. <paramref name="weights"/> by frequency,
    /// from <see cref="Shared"/>, or null while nothing is known: then the spectrum's shape is taken away to the power of three quarters,
    /// since all of it would lift bands that hold only noise as high as the voice. Null where there is too little sound.
    /// </summary>
    public StretchLags? Compare(long at, LagLine line, int reach, float[]? weights = null)
    {
        if (Cross(at, line) is not { } cross)
        {
            return null;
        }
        var (re, im) = cross;
        for (var i = 0; i < Size; i++)
        {
            var magnitude = MathF.Sqrt((re[i] * re[i]) + (im[i] * im[i]));
            var root = MathF.Sqrt(magnitude);
            var weight =
                magnitude <= 0 ? 0
                : weights is null ? 1 / (root * MathF.Sqrt(root))
                : weights[Math.Min(i, Size - i)] / magnitude;
            (re[i], im[i]) = (re[i] * weight, im[i] * weight);
        }
        Fourier.Inverse(re, im);
        return Around(at + (Window / 2.0), re, Math.Min(reach, Size / 4));
    }

    /// <summary>
    /// How much of each frequency the two sounds share, 0–1: where the phases of all stretches agree once they lie on the line. With these
    /// weights every stretch has a peak of the same shape, whatever is said in it, so that an echo shifts all of them alike and not the
    /// drift.
    /// </summary>
    public float[] Shared(IReadOnlyList<long> places, LagLine line)
    {
        const int half = Window,
            blur = 64;
        float[] sumRe = new float[half + 1],
            sumIm = new float[half + 1];
        var count = 0;
        Parallel.ForEach(
            places,
            at =>
            {
                if (Cross(at, line) is not { } cross)
                {
                    return;
                }
                lock (sumRe)
                {
                    count++;
                    for (var i = 0; i <= half; i++)
                    {
                        var magnitude = MathF.Sqrt((cross.Re[i] * cross.Re[i]) + (cross.Im[i] * cross.Im[i])) + 1e-30f;
                        sumRe[i] += cross.Re[i] / magnitude;
                        sumIm[i] += cross.Im[i] / magnitude;
                    }
                }
            }
        );
        var running = new double[half + 2];
        for (var i = 0; i <= half; i++)
        {
            // Random phases of so many stretches would sum to their number, squared agreement to its square.
            running[i + 1] = running[i] + ((sumRe[i] * sumRe[i]) + (sumIm[i] * sumIm[i]) - count);
        }
        return
        [
            .. Enumerable
                .Range(0, half + 1)
                .Select(i =>
                {
                    int from = Math.Max(0, i - blur),
                        to = Math.Min(half + 1, i + blur + 1);
                    return (float)
                        Math.Clamp((running[to] - running[from]) / (to - from) / Math.Max(1.0, (double)count * (count - 1)), 0, 1);
                }),
        ];
    }

    /// <summary>
    /// What the source hears of the reference, as the response to an impulse at lags within <paramref name="reach"/> samples of the line:
    /// the spectra of all stretches together, the source's over the reference's (regularised deconvolution), so that what is said and how
    /// the reference sounds fall out. In spreads of all its lags. Null where there is too little sound.
    /// </summary>
    public StretchLags? Response(IReadOnlyList<long> places, LagLine line, int reach)
    {
        const int half = Window;
        float[] re = new float[Size],
            im = new float[Size],
            power = new float[half + 1];
        Parallel.ForEach(
            places,
            at =>
            {
                if (Laid(at, line) is not { } laid)
                {
                    return;
                }
                Fourier.Forward(laid.Re, laid.Im);
                lock (power)
                {
                    for (var i = 0; i <= half; i++)
                    {
                        var (refRe, refIm, srcRe, srcIm) = Parted(laid.Re, laid.Im, i);
                        re[i] += (refRe * srcRe) + (refIm * srcIm);
                        im[i] += (refIm * srcRe) - (refRe * srcIm);
                        power[i] += (refRe * refRe) + (refIm * refIm);
                    }
                }
            }
        );
        var least = Regular * power.Average();
        if (least <= 0)
        {
            return null;
        }
        for (var i = 0; i <= half; i++)
        {
            var weight = 1 / (power[i] + least);
            (re[i], im[i]) = (re[i] * weight, im[i] * weight);
            if (i is > 0 and < half)
            {
                (re[Size - i], im[Size - i]) = (re[i], -im[i]);
            }
        }
        Fourier.Inverse(re, im);
        return Around(0, re, reach);
    }

    private static (float RefRe, float RefIm, float SrcRe, float SrcIm) Parted(float[] re, float[] im, int i)
    {
        var m = (Size - i) & (Size - 1);
        // Half the sum with the mirrored conjugate is the reference's spectrum, half the difference over i the source's.
        return ((re[i] + re[m]) / 2, (im[i] - im[m]) / 2, (im[i] + im[m]) / 2, (re[m] - re[i]) / 2);
    }

    private (float[] Re, float[] Im)? Cross(long at, LagLine line) => Laid(at, line) is { } laid ? Cross(laid.Re, laid.Im) : null;

    // The reference as the real part, the source as the imaginary one.
    private (float[] Re, float[] Im)? Laid(long at, LagLine line)
    {
        float[] re = new float[Size],
            im = new float[Size];
        float[] ours = new float[Window],
            theirs = new float[Window];
        source.Read(at, ours);
        Expected(at, line, theirs);
        double mine = 0,
            yours = 0;
        for (var i = 0; i < Window; i++)
        {
            (re[i], im[i]) = (theirs[i] * Shape[i], ours[i] * Shape[i]);
            mine += ours[i] * ours[i];
            yours += theirs[i] * theirs[i];
        }
        return mine < 1e-5 || yours < 1e-5 ? null : (re, im);
    }

    // The reference at the moments that the line gives for each sample of the stretch: with the drift taken out, the whole stretch agrees
    // at one lag.
    private void Expected(long at, LagLine line, float[] into)
    {
        var start = at + line.At(at);
        var whole = (long)Math.Floor(start);
        if (line.Slope == 0 && start == whole)
        {
            reference.Read(whole, into);
            return;
        }
        var near = new float[Window + 8];
        reference.Read(whole - 3, near);
        for (var i = 0; i < Window; i++)
        {
            var place = start - whole + 3 + (i * (1 + line.Slope));
            var k = (int)place;
            var f = place - k;
            into[i] = k + 2 < near.Length && k >= 1 ? Cubic(near[k - 1], near[k], near[k + 1], near[k + 2], f) : 0;
        }
    }

    private static float Cubic(float a, float b, float c, float d, double f) =>
        (float)(b + (0.5 * f * (c - a + (f * ((2 * a) - (5 * b) + (4 * c) - d + (f * ((3 * (b - c)) + d - a)))))));

    // Both sounds in one transform.
    private static (float[] Re, float[] Im) Cross(float[] re, float[] im)
    {
        Fourier.Forward(re, im);
        float[] crossRe = new float[Size],
            crossIm = new float[Size];
        for (var i = 0; i < Size; i++)
        {
            var (refRe, refIm, srcRe, srcIm) = Parted(re, im, i);
            (crossRe[i], crossIm[i]) = ((refRe * srcRe) + (refIm * srcIm), (refIm * srcRe) - (refRe * srcIm));
        }
        return (crossRe, crossIm);
    }

    private static StretchLags? Around(double middle, float[] correlation, int reach)
    {
        var values = new float[(2 * reach) + 1];
        double sum = 0;
        for (var k = -reach; k <= reach; k++)
        {
            var value = correlation[(k + Size) & (Size - 1)];
            values[k + reach] = value;
            sum += value * value;
        }
        var spread = Math.Sqrt(sum / values.Length);
        if (spread <= 0)
        {
            return null;
        }
        for (var i = 0; i < values.Length; i++)
        {
            values[i] = (float)(values[i] / spread);
        }
        return new StretchLags(middle, values);
    }
}
