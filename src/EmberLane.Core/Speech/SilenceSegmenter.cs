namespace EmberLane.Core.Speech;

/// <summary>Cuts sound into pieces at quiet places, so that pieces can be recognised apart without breaking a word.</summary>
public static class SilenceSegmenter
{
    /// <summary>Samples a second of the sound that is cut: what recognisers take.</summary>
    public const int SampleRate = 16_000;

    private const int StepSamples = SampleRate / Step.PerSecond;

    /// <summary>
    /// Energy of each step of 16 kHz mono sound, as mean square; a part of a step at the end counts as one.
    /// </summary>
    public static float[] Energy(ReadOnlySpan<short> samples)
    {
        var energy = new float[(samples.Length + StepSamples - 1) / StepSamples];
        for (var i = 0; i < energy.Length; i++)
        {
            var part = samples[(i * StepSamples)..Math.Min(samples.Length, (i + 1) * StepSamples)];
            long sum = 0;
            foreach (var sample in part)
            {
                sum += (long)sample * sample;
            }
            energy[i] = (float)sum / part.Length;
        }
        return energy;
    }

    /// <summary>
    /// Plans pieces from energies of 10 ms steps: each at least <paramref name="shortest"/> and at most <paramref name="longest"/> steps,
    /// cut in the middle of the quietest 250 ms in between; they cover everything once, in order. The last may be shorter. Cost is linear
    /// in the length.
    /// </summary>
    public static IReadOnlyList<StepRange> Plan(ReadOnlySpan<float> energy, int shortest, int longest)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(shortest);
        ArgumentOutOfRangeException.ThrowIfLessThan(longest, shortest);
        const int quiet = 25;
        var sums = new double[energy.Length + 1];
        for (var i = 0; i < energy.Length; i++)
        {
            sums[i + 1] = sums[i] + energy[i];
        }
        var pieces = new List<StepRange>();
        var first = 0;
        while (energy.Length - first > longest)
        {
            int best = first + longest;
            var least = double.MaxValue;
            for (var cut = first + shortest; cut <= first + longest; cut++)
            {
                int from = Math.Max(first, cut - (quiet / 2)),
                    to = Math.Min(energy.Length, from + quiet);
                var mean = (sums[to] - sums[from]) / (to - from);
                if (mean <= least)
                {
                    (best, least) = (cut, mean);
                }
            }
            pieces.Add(StepRange.Of(first, best));
            first = best;
        }
        if (first < energy.Length)
        {
            pieces.Add(StepRange.Of(first, energy.Length));
        }
        return pieces;
    }
}
