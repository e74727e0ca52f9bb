using System.Numerics;
using MathNet.Numerics.IntegralTransforms;

namespace EmberLane.Core.Sync;

/// <summary>
/// Where one sound lies on the clock of another. Strength is the height of the best match over the ordinary spread of all others: below
/// <see cref="SoundMatch.SureFrom"/> nothing is claimed.
/// </summary>
public sealed record SoundOffset(bool Matched, SittingTime Start, long DriftPerBillion, double Strength);

/// <summary>
/// Finds by sound where a source lies on a reference. Coarse: cross-correlation of loudness changes at 100 Hz. Fine: at places across the overlap, the
/// generalised cross-correlation with phase transform (Knapp and Carter, 1976), and a line through the results (Theil and Sen: the median of slopes).
/// </summary>
public static class SoundMatch
{
    /// <summary>Samples a second of the mono sound that is compared.</summary>
    public const int SampleRate = 8_000;

    /// <summary>Strength from which a match is shown as one.</summary>
    public const double SureFrom = 9;

    private const int Step = SampleRate / 100, Window = 32_768;

    /// <summary>
    /// Both sounds are 8 kHz mono, −1..1; the reference's first sample is the zero of the result. Cost grows as n log n with the longer one.
    /// </summary>
    public static SoundOffset Find(float[] reference, float[] source)
    {
        var (lag, strength) = Coarse(Changes(reference), Changes(source));
        if (strength < SureFrom)
        {
            return new SoundOffset(false, default, 0, strength);
        }
        var (offset, slope) = Fine(reference, source, (long)lag * Step);
        var start = new MediaTime((long)Math.Round(offset / SampleRate * MediaTime.UnitsPerSecond));
        return new SoundOffset(true, new SittingTime(start), (long)Math.Round(slope * 1e9), strength);
    }

    // Loudness in dB of each 10 ms, its change from a step before, limited so that one bang does not decide.
    private static double[] Changes(float[] sound)
    {
        var changes = new double[sound.Length / Step];
        double before = 0;
        for (var i = 0; i < changes.Length; i++)
        {
            double sum = 1e-8;
            for (var j = i * Step; j < (i + 1) * Step; j++)
            {
                sum += sound[j] * sound[j];
            }
            var now = 10 * Math.Log10(sum);
            changes[i] = i == 0 ? 0 : Math.Clamp(now - before, -12, 12);
            before = now;
        }
        return changes;
    }

    private static (int Lag, double Strength) Coarse(double[] a, double[] b)
    {
        if (a.Length == 0 || b.Length == 0)
        {
            return (0, 0);
        }
        var size = (int)BitOperations.RoundUpToPowerOf2((uint)(a.Length + b.Length));
        var product = Multiply(a, b, size, whiten: false);
        int best = 0;
        double sum = 0, squares = 0, overlaps = 0;
        var lags = a.Length + b.Length - 1;
        for (var i = 0; i < lags; i++)
        {
            var lag = i - (b.Length - 1);
            // A lag with little overlap has little chance to be high: weigh each by the root of its overlap.
            var overlap = Math.Min(a.Length, lag + b.Length) - Math.Max(0, lag);
            if (overlap < 500)
            {
                continue;
            }
            var value = product[(lag + size) % size].Real / Math.Sqrt(overlap);
            product[(lag + size) % size] = value;
            sum += value;
            squares += value * value;
            overlaps++;
            if (overlaps == 1 || value > product[(best + size) % size].Real)
            {
                best = lag;
            }
        }
        if (overlaps < 2)
        {
            return (0, 0);
        }
        var mean = sum / overlaps;
        var spread = Math.Sqrt(Math.Max(1e-12, (squares / overlaps) - (mean * mean)));
        return (best, (product[(best + size) % size].Real - mean) / spread);
    }

    private static (double Offset, double Slope) Fine(float[] reference, float[] source, long lag)
    {
        var places = new List<(double At, double Lag)>();
        long first = Math.Max(0, -lag), last = Math.Min(source.Length, reference.Length - lag) - Window;
        const int most = 24;
        for (var n = 0; n < most && last > first; n++)
        {
            var at = first + ((last - first) * n / (most - 1));
            if (Near(reference, source, at, lag) is { } exact)
            {
                places.Add((at + (Window / 2.0), exact));
            }
        }
        if (places.Count == 0)
        {
            return (lag, 0);
        }
        var middle = Median(places.Select(p => p.Lag));
        places.RemoveAll(p => Math.Abs(p.Lag - middle) > SampleRate * 0.02);
        var slopes = places.SelectMany((p, i) => places.Skip(i + 1).Select(q => (q.Lag - p.Lag) / (q.At - p.At))).ToList();
        var slope = places.Count >= 4 ? Median(slopes) : 0;
        return (Median(places.Select(p => p.Lag - (slope * p.At))), slope);
    }

    // The lag within ±60 ms of the coarse one at which the phases agree best, to a part of a sample; null where it is too weak to use.
    private static double? Near(float[] reference, float[] source, long at, long lag)
    {
        var a = new double[Window];
        var b = new double[Window];
        double energy = 0;
        for (var i = 0; i < Window; i++)
        {
            var shape = 0.5 - (0.5 * Math.Cos(2 * Math.PI * i / Window));
            b[i] = source[at + i] * shape;
            energy += b[i] * b[i];
            var r = at + i + lag;
            a[i] = r >= 0 && r < reference.Length ? reference[r] * shape : 0;
        }
        if (energy < 1e-6)
        {
            return null;
        }
        var product = Multiply(a, b, Window * 2, whiten: true);
        const int reach = SampleRate * 60 / 1000;
        var best = 0;
        double sum = 0;
        double Value(int k) => product[(k + product.Length) % product.Length].Real;
        for (var k = -reach; k <= reach; k++)
        {
            sum += Value(k) * Value(k);
            best = Value(k) > Value(best) ? k : best;
        }
        var spread = Math.Sqrt(sum / ((2 * reach) + 1));
        if (Value(best) < 5 * spread)
        {
            return null;
        }
        double left = Value(best - 1), top = Value(best), right = Value(best + 1), bend = left - (2 * top) + right;
        return lag + best + (Math.Abs(bend) < 1e-15 ? 0 : (left - right) / (2 * bend));
    }

    private static Complex[] Multiply(double[] a, double[] b, int size, bool whiten)
    {
        var x = new Complex[size];
        var y = new Complex[size];
        for (var i = 0; i < a.Length; i++)
        {
            x[i] = a[i];
        }
        for (var i = 0; i < b.Length; i++)
        {
            y[i] = b[i];
        }
        Fourier.Forward(x, FourierOptions.NoScaling);
        Fourier.Forward(y, FourierOptions.NoScaling);
        for (var i = 0; i < size; i++)
        {
            var cross = x[i] * Complex.Conjugate(y[i]);
            x[i] = whiten ? cross / (cross.Magnitude + 1e-9) : cross;
        }
        Fourier.Inverse(x, FourierOptions.NoScaling);
        return x;
    }

    private static double Median(IEnumerable<double> values)
    {
        var sorted = values.Order().ToArray();
        return sorted.Length % 2 == 1 ? sorted[sorted.Length / 2] : (sorted[(sorted.Length / 2) - 1] + sorted[sorted.Length / 2]) / 2;
    }
}
