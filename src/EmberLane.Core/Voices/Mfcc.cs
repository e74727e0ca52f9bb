using EmberLane.Core.Signal;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// How a sound sounds, each 10 ms: mel-frequency cepstral coefficients 1–19 (Davis and Mermelstein, 1980) of 32 ms, from 24 bands between
/// 80 Hz and 7.6 kHz. The loudness itself, the zeroth, is left out: it tells of the distance, not of the voice.
/// </summary>
public sealed class Mfcc
{
    /// <summary>Coefficients of a step.</summary>
    public const int Coefficients = 19;

    private const int Window = 512,
        Step = SilenceSegmenter.SampleRate / 100,
        MelBands = 24;

    private const double Lowest = 80,
        Highest = 7_600,
        Emphasis = 0.97;

    private static readonly RealFourier Fourier = new(Window);

    private static readonly float[] Shape =
    [
        .. Enumerable.Range(0, Window).Select(i => (float)(0.54 - (0.46 * Math.Cos(2 * Math.PI * i / (Window - 1))))),
    ];

    private static readonly float[][] Filters = MakeFilters();

    private static readonly float[][] Cosines =
    [
        .. Enumerable
            .Range(1, Coefficients)
            .Select(c => Enumerable.Range(0, MelBands).Select(b => (float)Math.Cos(Math.PI * c * (b + 0.5) / MelBands)).ToArray()),
    ];

    private readonly List<float[]> frames = [];
    private readonly List<short> held = [];

    /// <summary>A row of <see cref="Coefficients"/> for each whole step that has been heard with the window after it.</summary>
    public IReadOnlyList<float[]> Frames => frames;

    /// <summary>The next samples of 16 kHz sound; any number of them.</summary>
    public void Add(ReadOnlySpan<short> samples)
    {
        held.AddRange(samples);
        var at = 0;
        for (; at + Window <= held.Count; at += Step)
        {
            frames.Add(Frame(at));
        }
        held.RemoveRange(0, at);
    }

    private float[] Frame(int at)
    {
        var shaped = new float[Window];
        for (var i = 0; i < Window; i++)
        {
            shaped[i] = (float)((held[at + i] - (i == 0 ? 0 : Emphasis * held[at + i - 1])) * Shape[i]);
        }
        var (re, im) = Fourier.Forward(shaped);
        var power = new float[Fourier.Bins];
        for (var i = 0; i < power.Length; i++)
        {
            power[i] = (re[i] * re[i]) + (im[i] * im[i]);
        }
        var bands = Array.ConvertAll(
            Filters,
            f =>
            {
                float sum = 0;
                for (var i = 0; i < power.Length; i++)
                {
                    sum += f[i] * power[i];
                }
                return MathF.Log(sum + 1);
            }
        );
        return Array.ConvertAll(
            Cosines,
            c =>
            {
                float sum = 0;
                for (var b = 0; b < MelBands; b++)
                {
                    sum += c[b] * bands[b];
                }
                return sum;
            }
        );
    }

    private static float[][] MakeFilters()
    {
        static double Mel(double hertz) => 2595 * Math.Log10(1 + (hertz / 700));
        static double Hertz(double mel) => 700 * (Math.Pow(10, mel / 2595) - 1);
        double low = Mel(Lowest),
            part = (Mel(Highest) - low) / (MelBands + 1);
        return
        [
            .. Enumerable
                .Range(0, MelBands)
                .Select(b =>
                {
                    double left = Hertz(low + (part * b)),
                        centre = Hertz(low + (part * (b + 1))),
                        right = Hertz(low + (part * (b + 2)));
                    return Enumerable
                        .Range(0, (Window / 2) + 1)
                        .Select(i =>
                        {
                            var f = (double)i * SilenceSegmenter.SampleRate / Window;
                            return (float)Math.Max(0, f <= centre ? (f - left) / (centre - left) : (right - f) / (right - centre));
                        })
                        .ToArray();
                }),
        ];
    }
}
