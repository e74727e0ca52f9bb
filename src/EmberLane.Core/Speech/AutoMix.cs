namespace EmberLane.Core.Speech;

/// <summary>
/// Mixes the mics of a sitting into one sound for reading. The mic that hears loudest at a moment leads and the open mics of silent people
/// fade, since each of them would add the same voice again, later and with echo.
/// </summary>
public sealed class AutoMix
{
    private readonly int step;

    /// <summary>How much of the earlier loudness stays from one 10 ms step to the next: it halves in about 50 ms.</summary>
    private const double Stays = 0.87;

    private readonly double[] loudness,
        weights,
        before;

    /// <summary>For so many mics at so many samples a second.</summary>
    public AutoMix(int channels, int rate)
    {
        step = rate / 100;
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(channels);
        (loudness, weights, before) = (new double[channels], new double[channels], new double[channels]);
        Array.Fill(weights, 1.0 / channels);
    }

    /// <summary>
    /// Mixes the next interleaved samples; a sample of each channel gives one of the mix. State carries over, so a sound may come in parts
    /// of whole 10 ms steps. The weights always add up to one: nothing gets louder than its loudest mic.
    /// </summary>
    public short[] Mix(ReadOnlySpan<short> interleaved)
    {
        var channels = loudness.Length;
        var mix = new short[interleaved.Length / channels];
        for (var start = 0; start < mix.Length; start += step)
        {
            var length = Math.Min(step, mix.Length - start);
            Weigh(interleaved.Slice(start * channels, length * channels));
            for (var i = 0; i < length; i++)
            {
                // From the weights of the step before to these, so that no change clicks.
                var part = (double)(i + 1) / length;
                double sum = 0;
                for (var c = 0; c < channels; c++)
                {
                    sum += interleaved[((start + i) * channels) + c] * (before[c] + (part * (weights[c] - before[c])));
                }
                mix[start + i] = (short)Math.Clamp(Math.Round(sum), short.MinValue, short.MaxValue);
            }
        }
        return mix;
    }

    private void Weigh(ReadOnlySpan<short> step)
    {
        var channels = loudness.Length;
        double total = 0;
        for (var c = 0; c < channels; c++)
        {
            double energy = 0;
            for (var i = c; i < step.Length; i += channels)
            {
                energy += (double)step[i] * step[i];
            }
            loudness[c] = (Stays * loudness[c]) + ((1 - Stays) * energy);
            before[c] = weights[c];
            weights[c] = (loudness[c] + 1) * (loudness[c] + 1);
            total += weights[c];
        }
        for (var c = 0; c < channels; c++)
        {
            weights[c] /= total;
        }
    }
}
