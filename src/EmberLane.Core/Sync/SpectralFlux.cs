using System.Runtime.Intrinsics;

namespace EmberLane.Core.Sync;

/// <summary>
/// What two recordings of the same talk share whatever the mic and the room: when it gets louder and softer. For each 10 ms and each of
/// four bands of the voice, the change of loudness.
/// </summary>
internal sealed class SpectralFlux
{
    public const int Step = SoundMatch.SampleRate / 100,
        Bands = 4;

    private const int Block = Step * 6_000;

    /// <summary>Loudness is taken over this many steps before and after: 30 ms.</summary>
    private const int Around = 3;

    /// <summary>A change is limited to this many decibels, so that one bang does not decide.</summary>
    private const double Most = 12;

    /// <summary>The bands' edges in Hz: noise of a room lies evenly, the voice mostly in the lower ones.</summary>
    private static readonly (double Low, double High)[] Edges = [(150, 450), (450, 900), (900, 1700), (1700, 3200)];

    private SpectralFlux(float[][] changes, float[] energy) => (Changes, Energy) = (changes, energy);

    /// <summary>Changes by band, each scaled to a mean square of one.</summary>
    public float[][] Changes { get; }

    /// <summary>Mean square of each step over all bands.</summary>
    public float[] Energy { get; }

    public int Length => Energy.Length;

    /// <summary>The squares of the changes, summed over the bands.</summary>
    public float[] Squares()
    {
        var squares = new float[Length];
        foreach (var band in Changes)
        {
            for (var i = 0; i < squares.Length; i++)
            {
                squares[i] += band[i] * band[i];
            }
        }
        return squares;
    }

    public static SpectralFlux Of(ISound sound)
    {
        var energies = Measure(sound);
        var all = new float[energies[0].Length];
        for (var i = 0; i < all.Length; i++)
        {
            all[i] = energies.Sum(band => band[i]);
        }
        return new SpectralFlux([.. energies.Select(Rises)], all);
    }

    // All bands at once, a lane each: two second-order band-passes one after the other (the usual bilinear form).
    private static float[][] Measure(ISound sound)
    {
        var steps = (int)(sound.Length / Step);
        var energies = Enumerable.Range(0, Bands).Select(_ => new float[steps]).ToArray();
        var (gain, a1, a2) = Design();
        Vector128<float> p1 = default,
            p2 = default,
            q1 = default,
            q2 = default;
        var buffer = new float[Block];
        var breath = Vector128.Create(1e-9f);
        for (var first = 0; first < steps; first += Block / Step)
        {
            sound.Read((long)first * Step, buffer);
            for (var s = first; s < Math.Min(steps, first + (Block / Step)); s++)
            {
                var sum = Vector128<float>.Zero;
                var at = (s - first) * Step;
                for (var i = at; i < at + Step; i++)
                {
                    // A breath of constant before each filter keeps it out of the smallest numbers, which are slow: in true silence it
                    // comes to rest at nothing.
                    var x = gain * (Vector128.Create(buffer[i]) + breath);
                    var y = x + p1;
                    p1 = p2 - (a1 * y);
                    p2 = -x - (a2 * y);
                    var u = gain * (y + breath);
                    var z = u + q1;
                    q1 = q2 - (a1 * z);
                    q2 = -u - (a2 * z);
                    sum += z * z;
                }
                for (var band = 0; band < Bands; band++)
                {
                    energies[band][s] = sum[band] / Step;
                }
            }
        }
        return energies;
    }

    private static (Vector128<float> Gain, Vector128<float> A1, Vector128<float> A2) Design()
    {
        float[] gain = new float[Bands],
            a1 = new float[Bands],
            a2 = new float[Bands];
        for (var band = 0; band < Bands; band++)
        {
            var (low, high) = Edges[band];
            double centre = Math.Sqrt(low * high),
                turn = 2 * Math.PI * centre / SoundMatch.SampleRate,
                alpha = Math.Sin(turn) * (high - low) / (2 * centre);
            (gain[band], a1[band], a2[band]) = (
                (float)(alpha / (1 + alpha)),
                (float)(-2 * Math.Cos(turn) / (1 + alpha)),
                (float)((1 - alpha) / (1 + alpha))
            );
        }
        return (Vector128.Create(gain), Vector128.Create(a1), Vector128.Create(a2));
    }

    // In decibels above the band's own floor: below it there is only noise, whose changes tell nothing.
    private static float[] Rises(float[] energy)
    {
        var rises = new float[energy.Length];
        if (energy.Length <= 2 * Around)
        {
            return rises;
        }
        var floor = Quartile(energy) + 1e-10f;
        double squares = 0;
        for (var i = Around; i + Around <= energy.Length; i++)
        {
            float after = energy[i] + energy[i + 1] + energy[i + 2],
                before = energy[i - 1] + energy[i - 2] + energy[i - 3];
            rises[i] = (float)Math.Clamp(10 * Math.Log10((after + (Around * floor)) / (before + (Around * floor))), -Most, Most);
            squares += rises[i] * rises[i];
        }
        var scale = squares > 0 ? (float)Math.Sqrt(energy.Length / squares) : 0;
        for (var i = 0; i < rises.Length; i++)
        {
            rises[i] *= scale;
        }
        return rises;
    }

    // The lower quartile of a sample: near enough for a floor, without sorting hours.
    private static float Quartile(float[] values)
    {
        var sample = new float[Math.Min(values.Length, 20_000)];
        for (var i = 0; i < sample.Length; i++)
        {
            sample[i] = values[(long)i * values.Length / sample.Length];
        }
        Array.Sort(sample);
        return sample[sample.Length / 4];
    }
}
