namespace EmberLane.Core.Sync;

/// <summary>
/// How loud a sound is, 100 values a second, for drawing: the greatest swing to either side in each hundredth, as one byte each (255 is
/// full scale).
/// </summary>
public static class Peaks
{
    /// <summary>Peaks of a second.</summary>
    public const int PerSecond = 100;

    /// <summary>The peaks of a whole sound, read in parts.</summary>
    public static byte[] Of(ISound sound)
    {
        const int step = SoundMatch.SampleRate / PerSecond,
            part = 1024;
        var peaks = new byte[(sound.Length + step - 1) / step];
        var buffer = new float[step * part];
        for (var first = 0; first < peaks.Length; first += part)
        {
            sound.Read((long)first * step, buffer);
            for (var i = 0; i < part && first + i < peaks.Length; i++)
            {
                float most = 0;
                foreach (var s in buffer.AsSpan(i * step, step))
                {
                    most = Math.Max(most, Math.Abs(s));
                }
                peaks[first + i] = (byte)Math.Min(255, Math.Round(most * 255));
            }
        }
        return peaks;
    }

    /// <summary>
    /// The greatest peak in each of so many columns of equal width over all of them; fewer columns where there are fewer peaks.
    /// </summary>
    public static byte[] Columns(ReadOnlySpan<byte> peaks, int columns)
    {
        var drawn = new byte[Math.Min(columns, peaks.Length)];
        for (var c = 0; c < drawn.Length; c++)
        {
            byte most = 0;
            foreach (var p in peaks[(int)((long)peaks.Length * c / drawn.Length)..(int)((long)peaks.Length * (c + 1) / drawn.Length)])
            {
                most = Math.Max(most, p);
            }
            drawn[c] = most;
        }
        return drawn;
    }
}
