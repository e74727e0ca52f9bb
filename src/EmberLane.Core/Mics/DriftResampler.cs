namespace EmberLane.Core.Mics;

/// <summary>
/// Lays the samples of a source on its sitting's clock. The sitting's samples are asked for in order, the source's come in order; between
/// two of the source's the straight line is taken, and where the source lies at whole samples and does not drift every sample stays what it
/// was.
/// </summary>
public sealed class DriftResampler(ClockMap place, SittingTime from, int rate)
{
    /// <summary>
    /// Where a run of <paramref name="count"/> samples of the sitting from its <paramref name="first"/> (counted from the beginning asked
    /// for) lies in the source: its first position and the way from one to the next, in samples.
    /// </summary>
    public (double Position, double Step) Run(long first, int count)
    {
        double start = At(first),
            end = At(first + count);
        return (start, (end - start) / count);
    }

    /// <summary>
    /// Fills <paramref name="into"/> (one channel of <paramref name="channels"/>, interleaved) from a source's samples, of which
    /// <paramref name="held"/> holds those from <paramref name="heldFrom"/> on; silence outside.
    /// </summary>
    public static void Take(ReadOnlySpan<short> held, long heldFrom, int channels, double position, double step, Span<short> into)
    {
        var count = into.Length / channels;
        var last = (held.Length / channels) - 1;
        for (var i = 0; i < count; i++)
        {
            var at = position + (i * step);
            var whole = Math.Floor(at);
            var part = at - whole;
            var index = (long)whole - heldFrom;
            for (var c = 0; c < channels; c++)
            {
                double one = index >= 0 && index <= last ? held[(int)((index * channels) + c)] : 0,
                    next = part > 0 && index + 1 >= 0 && index + 1 <= last ? held[(int)(((index + 1) * channels) + c)] : 0;
                into[(i * channels) + c] = (short)Math.Round(one + (part * (next - one)));
            }
        }
    }

    // Whole samples and the rest apart, so that the result is as fine at the end of a long day as at its start.
    private double At(long sample)
    {
        var units = place.ToSource(from + MediaTime.FromSamples(sample, rate)).FromZero.Units;
        var whole = Exact.FloorDivide((Int128)units * rate, MediaTime.UnitsPerSecond);
        var rest = (double)(((Int128)units * rate) - ((Int128)whole * MediaTime.UnitsPerSecond)) / MediaTime.UnitsPerSecond;
        return whole
            + (
                rest < 1e-4 ? 0
                : rest > 1 - 1e-4 ? 1
                : rest
            );
    }
}
