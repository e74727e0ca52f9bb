namespace EmberLane.Core.Sync;

/// <summary>
/// The outline of a sound: how its loudness changes in four bands of the voice, 25 times a second. Small enough (100 bytes a second) to be
/// kept of every file, and enough to see which of a thousand may hold the same sound.
/// </summary>
public sealed class SoundOutline
{
    /// <summary>Steps of an outline in a second.</summary>
    public const int StepsPerSecond = 25;

    /// <summary>Steps of 10 ms that make one step of 40 ms.</summary>
    private const int Together = 100 / StepsPerSecond;

    /// <summary>A spread of changes is this many units of the byte that each is kept in.</summary>
    private const float Units = 20;

    private readonly sbyte[] steps;

    private SoundOutline(sbyte[] steps) => this.steps = steps;

    /// <summary>Steps of 40 ms.</summary>
    public int Length => steps.Length / SpectralFlux.Bands;

    /// <summary>Measures a sound at 8 kHz; cost grows with its length.</summary>
    public static SoundOutline Of(ISound sound) => Of(SpectralFlux.Of(sound));

    internal static SoundOutline Of(SpectralFlux onsets)
    {
        var length = onsets.Length / Together;
        var steps = new sbyte[length * SpectralFlux.Bands];
        for (var band = 0; band < SpectralFlux.Bands; band++)
        {
            var sums = new float[length];
            double squares = 0;
            for (var i = 0; i < length; i++)
            {
                for (var k = 0; k < Together; k++)
                {
                    sums[i] += onsets.Changes[band][(i * Together) + k];
                }
                squares += sums[i] * sums[i];
            }
            var scale = squares > 0 ? Units * (float)Math.Sqrt(length / squares) : 0;
            for (var i = 0; i < length; i++)
            {
                steps[(i * SpectralFlux.Bands) + band] = (sbyte)Math.Clamp(MathF.Round(sums[i] * scale), -127, 127);
            }
        }
        return new SoundOutline(steps);
    }

    /// <summary>As it is kept in a file: four bytes a step.</summary>
    public byte[] Write() => (byte[])(Array)steps.Clone();

    /// <summary>Reads what <see cref="Write"/> wrote. Throws <see cref="FormatException"/> for bytes that are no whole steps.</summary>
    public static SoundOutline Read(byte[] bytes) =>
        bytes.Length % SpectralFlux.Bands == 0
            ? new SoundOutline((sbyte[])(Array)bytes.Clone())
            : throw new FormatException("This is no outline of a sound.");

    /// <summary>Two bands as real and imaginary numbers, with nothing behind them up to <paramref name="size"/>.</summary>
    internal (float[] Re, float[] Im) Pair(int first, int size)
    {
        float[] re = new float[size],
            im = new float[size];
        for (var i = 0; i < Length; i++)
        {
            (re[i], im[i]) = (steps[(i * SpectralFlux.Bands) + first], steps[(i * SpectralFlux.Bands) + first + 1]);
        }
        return (re, im);
    }
}
