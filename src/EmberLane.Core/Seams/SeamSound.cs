using EmberLane.Core.Signal;

namespace EmberLane.Core.Seams;

/// <summary>
/// How loud a sound is, finely enough to place cuts: a number of decibels for each step of 5 ms, of the sound with its low tones held back,
/// so that the end of a hiss stands out of the hum of a room.
/// </summary>
public sealed class SeamSound
{
    private readonly ReadOnlyMemory<float> decibels;
    private readonly ReadOnlyMemory<byte> halves;
    private readonly Func<MediaTime, MediaTime>? crossing;

    /// <summary>A number of decibels for each step.</summary>
    public SeamSound(float[] decibels, Func<MediaTime, MediaTime>? crossing = null)
    {
        this.decibels = decibels;
        this.crossing = crossing;
    }

    private SeamSound(ReadOnlyMemory<byte> halves) => this.halves = halves;

    /// <summary>A sound of which each step is kept as half decibels in a byte: 0.7 MB an hour.</summary>
    public static SeamSound OfHalves(ReadOnlyMemory<byte> halves) => new(halves);

    /// <summary>The steps as half decibels, to be kept.</summary>
    public byte[] Halves()
    {
        var kept = new byte[Count];
        for (var step = 0; step < kept.Length; step++)
        {
            kept[step] = (byte)Math.Clamp(Math.Round(At(step) * 2), 0, byte.MaxValue);
        }
        return kept;
    }

    /// <summary>Sound is taken at so many samples a second.</summary>
    public const int Rate = 16_000;

    /// <summary>Samples of a step.</summary>
    public const int StepSamples = 80;

    /// <summary>Softer than this is silence, in decibels of one unit of a 16-bit sample.</summary>
    private const double Least = 0;

    // How much of the sample before is taken off: what makes low tones softer.
    private const double Held = 0.95;

    private static readonly MediaTime Step = new(MediaTime.UnitsPerSecond * StepSamples / Rate);

    /// <summary>How many steps there are.</summary>
    public int Count => decibels.Length + halves.Length;

    /// <summary>The moment nearest to one at which the sound passes through nothing, where that is known.</summary>
    public MediaTime Crossing(MediaTime at) => crossing?.Invoke(at) ?? at;

    /// <summary>The loudness of a step; silence where there is no sound.</summary>
    public double At(int step) =>
        step < 0 || step >= Count ? Least
        : halves.IsEmpty ? decibels.Span[step]
        : halves.Span[step] / 2d;

    /// <summary>The step that holds a moment; it may lie beyond the sound.</summary>
    public static int StepAt(MediaTime at) => (int)Exact.FloorDivide(at.Units, Step.Units);

    /// <summary>Where a step begins.</summary>
    public static MediaTime TimeOf(int step) => new(step * Step.Units);

    /// <summary>The steps of samples at <see cref="Rate"/>; <paramref name="before"/> is the sample before the first.</summary>
    public static float[] Decibels(ReadOnlySpan<short> samples, short before = 0)
    {
        var steps = new float[(samples.Length + StepSamples - 1) / StepSamples];
        double last = before;
        for (var step = 0; step < steps.Length; step++)
        {
            var part = samples[(step * StepSamples)..Math.Min(samples.Length, (step + 1) * StepSamples)];
            double energy = 0;
            foreach (var sample in part)
            {
                var high = sample - (Held * last);
                energy += high * high;
                last = sample;
            }
            steps[step] = (float)Math.Max(Least, 10 * Math.Log10((energy / part.Length) + 1e-9));
        }
        return steps;
    }

    /// <summary>The loudness below which so many hundredths of the steps from one to another lie; silence where there are none.</summary>
    public double Share(int first, int end, int percent)
    {
        (first, end) = (Math.Clamp(first, 0, Count), Math.Clamp(end, 0, Count));
        return Percentile.Of([.. Enumerable.Range(first, Math.Max(0, end - first)).Select(At)], percent, whenEmpty: Least);
    }
}
