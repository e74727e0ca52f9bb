using System.Numerics;
using EmberLane.Core.Signal;

namespace EmberLane.Core.Sync;

/// <summary>
/// A lag at which two sounds may belong together, in 10 ms steps of the reference; how uncertain it is, to both sides; and how far it
/// stands out, in spreads of all lags.
/// </summary>
internal readonly record struct RoughLag(int Steps, int Uncertainty, double Height);

/// <summary>Finds the lags worth a closer look: correlation of loudness changes over all lags at once.</summary>
internal static class CoarseCorrelation
{
    /// <summary>The least overlap that is looked at: 5 s.</summary>
    public const int LeastOverlap = 500;

    /// <summary>No stretch is taken to spread less than this share of the average, however quiet it is.</summary>
    private const double LeastSpread = 0.02;

    private const int Sharp = 32,
        Smeared = 4;

    /// <summary>
    /// Best first. When one clock drifts, a long overlap smears its peak over many lags; so peaks are also sought in sums over neighbouring
    /// lags, as many as the greatest drift can smear.
    /// </summary>
    public static IReadOnlyList<RoughLag> Find(SpectralFlux reference, SpectralFlux source)
    {
        int m = reference.Length,
            n = source.Length;
        if (m < LeastOverlap || n < LeastOverlap)
        {
            return [];
        }
        var (first, values) = Correlate(reference, source);
        var smear = (long)Math.Min(m, n) * SoundMatch.GreatestDriftPerBillion / 1_000_000_000;
        var found = new List<RoughLag>();
        for (var width = 1; width == 1 || width <= 2 * smear; width *= 4)
        {
            found.AddRange(Peaks(Summed(values, width), first, width));
        }
        return [.. found.OrderByDescending(f => f.Height)];
    }

    // The correlation at every lag with enough overlap, over what it would spread by if the two had nothing to do with each other: the root
    // of the correlation of their squares. So hours of quiet, or one long pause, count for no more than they can tell.
    private static (int First, double[] Values) Correlate(SpectralFlux reference, SpectralFlux source)
    {
        int m = reference.Length,
            n = source.Length,
            size = (int)BitOperations.RoundUpToPowerOf2((uint)(m + n));
        var fourier = new FastFourier(size);
        float[] re = new float[size],
            im = new float[size];
        for (var band = 0; band < SpectralFlux.Bands; band += 2)
        {
            // Two bands at once, one as the real and one as the imaginary numbers: the real part of the product then holds the sum of both
            // correlations.
            float[] ourRe = Padded(reference.Changes[band], size),
                ourIm = Padded(reference.Changes[band + 1], size),
                theirRe = Padded(source.Changes[band], size),
                theirIm = Padded(source.Changes[band + 1], size);
            Parallel.Invoke(() => fourier.Forward(ourRe, ourIm), () => fourier.Forward(theirRe, theirIm));
            for (var i = 0; i < size; i++)
            {
                re[i] += (ourRe[i] * theirRe[i]) + (ourIm[i] * theirIm[i]);
                im[i] += (ourIm[i] * theirRe[i]) - (ourRe[i] * theirIm[i]);
            }
        }
        fourier.Inverse(re, im);
        var spread = Spread(reference, source, size);
        int first = LeastOverlap - n,
            last = m - LeastOverlap;
        var values = new double[last - first + 1];
        for (var lag = first; lag <= last; lag++)
        {
            var overlap = Math.Min(m, lag + n) - Math.Max(0, lag);
            var at = (lag + size) & (size - 1);
            values[lag - first] = re[at] / Math.Sqrt(Math.Max(spread[at], LeastSpread * size * size * overlap * SpectralFlux.Bands));
        }
        return (first, values);
    }

    private static float[] Spread(SpectralFlux reference, SpectralFlux source, int size)
    {
        var fourier = new RealFourier(size);
        (float[] Re, float[] Im) ours = ([], []),
            theirs = ([], []);
        Parallel.Invoke(
            () => ours = fourier.Forward(Padded(reference.Squares(), size)),
            () => theirs = fourier.Forward(Padded(source.Squares(), size))
        );
        float[] re = new float[fourier.Bins],
            im = new float[fourier.Bins];
        for (var i = 0; i < re.Length; i++)
        {
            re[i] = ((ours.Re[i] * theirs.Re[i]) + (ours.Im[i] * theirs.Im[i])) * size / SpectralFlux.Bands;
            im[i] = ((ours.Im[i] * theirs.Re[i]) - (ours.Re[i] * theirs.Im[i])) * size / SpectralFlux.Bands;
        }
        return fourier.Inverse(re, im);
    }

    private static float[] Padded(float[] values, int size)
    {
        var padded = new float[size];
        values.CopyTo(padded, 0);
        return padded;
    }

    private static double[] Summed(double[] values, int width)
    {
        if (width == 1)
        {
            return values;
        }
        var summed = new double[values.Length];
        double sum = 0;
        for (var i = 0; i < values.Length + (width / 2); i++)
        {
            sum += i < values.Length ? values[i] : 0;
            sum -= i >= width ? values[i - width] : 0;
            if (i >= width / 2)
            {
                summed[i - (width / 2)] = sum;
            }
        }
        return summed;
    }

    private static List<RoughLag> Peaks(double[] values, int first, int width)
    {
        double mean = values.Average(),
            spread = Math.Sqrt(Math.Max(1e-18, values.Sum(v => (v - mean) * (v - mean)) / values.Length));
        var taken = new List<int>();
        var left = (double[])values.Clone();
        for (var p = 0; p < (width == 1 ? Sharp : Smeared); p++)
        {
            var best = Array.IndexOf(left, left.Max());
            taken.Add(best);
            var apart = width + 10;
            left.AsSpan(Math.Max(0, best - apart)..Math.Min(left.Length, best + apart)).Fill(double.NegativeInfinity);
        }
        return
        [
            .. taken
                .Where(t => !double.IsNegativeInfinity(values[t]))
                .Select(t => new RoughLag(first + t, width + 4, (values[t] - mean) / spread)),
        ];
    }
}
