using System.Collections.Concurrent;
using System.Numerics;
using EmberLane.Core.Signal;

namespace EmberLane.Core.Sync;

/// <summary>
/// Outlines of many sounds, held so that one is compared with all the others fast: the transform of each is made once, and a pair costs one
/// more. It tells which pairs are worth the close comparison of <see cref="SoundMatch"/>; by itself it decides nothing.
/// </summary>
public sealed class OutlineIndex
{
    /// <summary>
    /// From this height on a pair is worth a close look. Where it lies is measured: <c>./ember bench loose</c> prints both sides of it.
    /// </summary>
    public const double WorthALook = 8;

    /// <summary>The least overlap that is looked at: 8 s.</summary>
    private const int LeastOverlap = 8 * SoundOutline.StepsPerSecond;

    private const long MostHeld = 400L << 20;

    private readonly List<SoundOutline> outlines = [];
    private readonly ConcurrentDictionary<int, FastFourier> transforms = new();
    private readonly Dictionary<(int Outline, int Size), (float[] Re, float[] Im)[]> held = [];
    private readonly Lock guard = new();
    private long heldBytes;

    /// <summary>How many outlines it holds.</summary>
    public int Count => outlines.Count;

    /// <summary>Adds an outline, and returns its number, from 0.</summary>
    public int Add(SoundOutline outline)
    {
        outlines.Add(outline);
        return outlines.Count - 1;
    }

    /// <summary>
    /// How far the best lag of this outline against each of <paramref name="others"/> stands out, in spreads over all lags; in their order.
    /// Uses all cores. Cost: n log n of the longer of the two for each.
    /// </summary>
    public double[] Heights(int one, IReadOnlyList<int> others, CancellationToken cancel)
    {
        var heights = new double[others.Count];
        Parallel.For(
            0,
            others.Count,
            new ParallelOptions { CancellationToken = cancel, MaxDegreeOfParallelism = Environment.ProcessorCount },
            i => heights[i] = Height(one, others[i])
        );
        return heights;
    }

    private double Height(int one, int other)
    {
        int m = outlines[one].Length,
            n = outlines[other].Length;
        if (Math.Min(m, n) < LeastOverlap)
        {
            return 0;
        }
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)(m + n));
        var transform = transforms.GetOrAdd(size, s => new FastFourier(s));
        var (ours, theirs) = (Spectra(one, size, transform), Spectra(other, size, transform));
        float[] re = new float[size],
            im = new float[size];
        for (var p = 0; p < ours.Length; p++)
        {
            Add(ours[p], theirs[p], re, im);
        }
        transform.Inverse(re, im);
        return Highest(re, m, n, size);
    }

    // Onto the sum: ours times the conjugate of theirs. The real part of its inverse is the sum of the correlations of both bands.
    private static void Add((float[] Re, float[] Im) ours, (float[] Re, float[] Im) theirs, float[] re, float[] im)
    {
        var wide = Vector<float>.Count;
        for (var i = 0; i + wide <= re.Length; i += wide)
        {
            Vector<float> a = new(ours.Re, i),
                b = new(ours.Im, i),
                c = new(theirs.Re, i),
                d = new(theirs.Im, i);
            (new Vector<float>(re, i) + (a * c) + (b * d)).CopyTo(re, i);
            (new Vector<float>(im, i) + (b * c) - (a * d)).CopyTo(im, i);
        }
    }

    // Over the root of the overlap every lag spreads alike. Drift smears the peak of a long overlap over neighbouring lags: those are
    // summed too.
    private static double Highest(float[] re, int m, int n, int size)
    {
        int first = LeastOverlap - n,
            count = m - LeastOverlap - first + 1;
        var values = new float[count];
        for (var i = 0; i < count; i++)
        {
            var lag = first + i;
            values[i] = re[(lag + size) & (size - 1)] / MathF.Sqrt(Math.Min(m, lag + n) - Math.Max(0, lag));
        }
        var smear = (long)Math.Min(m, n) * SoundMatch.GreatestDriftPerBillion / 1_000_000_000;
        var best = Peak(values);
        for (var width = 2; width <= 2 * smear; width *= 2)
        {
            best = Math.Max(best, Peak(Summed(values, width)));
        }
        return best;
    }

    private static float[] Summed(float[] values, int width)
    {
        var summed = new float[values.Length - width + 1];
        double sum = 0;
        for (var i = 0; i < values.Length; i++)
        {
            sum += values[i] - (i >= width ? values[i - width] : 0);
            if (i >= width - 1)
            {
                summed[i - width + 1] = (float)sum;
            }
        }
        return summed;
    }

    private static double Peak(float[] values)
    {
        double sum = 0,
            squares = 0;
        var most = float.MinValue;
        foreach (var v in values)
        {
            sum += v;
            squares += (double)v * v;
            most = Math.Max(most, v);
        }
        var mean = sum / values.Length;
        return (most - mean) / Math.Sqrt(Math.Max(1e-12, (squares / values.Length) - (mean * mean)));
    }

    private (float[] Re, float[] Im)[] Spectra(int outline, int size, FastFourier transform)
    {
        lock (guard)
        {
            if (held.TryGetValue((outline, size), out var known))
            {
                return known;
            }
        }
        var made = new (float[] Re, float[] Im)[SpectralFlux.Bands / 2];
        for (var p = 0; p < made.Length; p++)
        {
            made[p] = outlines[outline].Pair(2 * p, size);
            transform.Forward(made[p].Re, made[p].Im);
        }
        lock (guard)
        {
            var bytes = (long)size * 8 * made.Length;
            if (heldBytes + bytes > MostHeld)
            {
                // All are used as often: which go does not matter.
                held.Clear();
                heldBytes = 0;
            }
            if (held.TryAdd((outline, size), made))
            {
                heldBytes += bytes;
            }
        }
        return made;
    }
}
