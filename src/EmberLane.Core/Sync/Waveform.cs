namespace EmberLane.Core.Sync;

/// <summary>The lowest and highest sample of each column of a drawing, −1..1; both 0 where there is no sound.</summary>
public static class Waveform
{
    /// <summary>
    /// Columns of equal width over the samples from <paramref name="first"/> to <paramref name="end"/>, which may lie outside the sound and
    /// need not be whole. A column narrower than a sample shows the sample that it lies in. Reads in parts: memory does not grow with the
    /// stretch.
    /// </summary>
    public static (float Low, float High)[] Columns(ISound sound, decimal first, decimal end, int columns)
    {
        ArgumentOutOfRangeException.ThrowIfNegativeOrZero(columns);
        ArgumentOutOfRangeException.ThrowIfLessThanOrEqual(end, first);
        const int part = 1 << 16;
        var buffer = new float[part];
        var drawn = new (float Low, float High)[columns];
        for (var c = 0; c < columns; c++)
        {
            long from = Floor(first + ((end - first) * c / columns)),
                to = Math.Max(from + 1, Floor(first + ((end - first) * (c + 1) / columns)));
            from = Math.Max(from, 0);
            to = Math.Min(to, sound.Length);
            if (to <= from)
            {
                continue;
            }
            float low = float.MaxValue,
                high = float.MinValue;
            for (var at = from; at < to; at += part)
            {
                var samples = buffer.AsSpan(0, (int)Math.Min(part, to - at));
                sound.Read(at, samples);
                foreach (var s in samples)
                {
                    (low, high) = (Math.Min(low, s), Math.Max(high, s));
                }
            }
            drawn[c] = (low, high);
        }
        return drawn;
    }

    private static long Floor(decimal value) => (long)Math.Floor(value);
}
