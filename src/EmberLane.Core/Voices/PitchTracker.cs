using EmberLane.Core.Signal;
using EmberLane.Core.Speech;
using EmberLane.Core.Sync;

namespace EmberLane.Core.Voices;

/// <summary>
/// The pitch of a voice each 20 ms, in hertz, 0 where nothing is voiced: the highest peak of the autocorrelation of 40 ms over that of the
/// window (Boersma, 1993), between 65 and 420 Hz. Linear in the sound.
/// </summary>
public sealed class PitchTracker
{
    /// <summary>Steps of <see cref="Mfcc"/> that one step of this lasts.</summary>
    public const int Every = 2;

    private const int Rate = SilenceSegmenter.SampleRate / 2,
        Window = Rate / 25,
        Step = Rate / 50,
        Size = 1024,
        Shortest = Rate / 420,
        Longest = Rate / 65;

    /// <summary>A peak is voiced from this share of the whole on; quieter windows than this mean square are silence.</summary>
    private const double Voiced = 0.5,
        Silence = 400;

    private static readonly RealFourier Fourier = new(Size);

    private static readonly float[] Shape =
    [
        .. Enumerable.Range(0, Window).Select(i => (float)(0.5 - (0.5 * Math.Cos(2 * Math.PI * (i + 0.5) / Window)))),
    ];

    private static readonly double[] OfWindow = Correlated(Shape);

    private readonly List<float> steps = [];
    private readonly List<float> held = [];
    private short odd;
    private bool hasOdd;

    /// <summary>A value for each whole step that has been heard with the window after it.</summary>
    public IReadOnlyList<float> Steps => steps;

    /// <summary>The next samples of 16 kHz sound; any number of them.</summary>
    public void Add(ReadOnlySpan<short> samples)
    {
        foreach (var sample in samples)
        {
            if (hasOdd)
            {
                held.Add((odd + sample) / 2f);
            }
            (odd, hasOdd) = (sample, !hasOdd);
        }
        var at = 0;
        for (; at + Window <= held.Count; at += Step)
        {
            steps.Add(Pitch(held.GetRange(at, Window)));
        }
        held.RemoveRange(0, at);
    }

    private static float Pitch(List<float> window)
    {
        var mean = window.Average();
        var shaped = new float[Window];
        double energy = 0;
        for (var i = 0; i < Window; i++)
        {
            var value = window[i] - mean;
            energy += value * value;
            shaped[i] = value * Shape[i];
        }
        if (energy < Silence * Window)
        {
            return 0;
        }
        var alike = Correlated(shaped);
        var best = 0;
        for (var lag = Shortest; lag <= Longest; lag++)
        {
            // The shortest lag of nearly the best: its multiples agree as well.
            if (Share(lag) > (best == 0 ? Voiced : Share(best) * 1.02) && Share(lag) >= Share(lag - 1) && Share(lag) >= Share(lag + 1))
            {
                best = lag;
            }
        }
        if (best == 0)
        {
            return 0;
        }
        double before = Share(best - 1),
            here = Share(best),
            after = Share(best + 1),
            bend = before - (2 * here) + after;
        return (float)(Rate / (best + (bend < 0 ? 0.5 * (before - after) / bend : 0)));

        double Share(int lag) => alike[lag] / alike[0] / (OfWindow[lag] / OfWindow[0]);
    }

    private static double[] Correlated(float[] window)
    {
        var padded = new float[Size];
        window.CopyTo(padded, 0);
        var (re, im) = Fourier.Forward(padded);
        for (var i = 0; i < re.Length; i++)
        {
            (re[i], im[i]) = ((re[i] * re[i]) + (im[i] * im[i]), 0);
        }
        return [.. Fourier.Inverse(re, im).Take(Longest + 2).Select(v => (double)v)];
    }
}
