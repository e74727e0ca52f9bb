using System.Runtime.InteropServices;
using EmberLane.Core.Sync;

namespace EmberLane.Engines.Sync;

/// <summary>A sound in a file of raw 16-bit samples, read where it is needed. Several threads may read at once.</summary>
public sealed class PcmSound : ISound, IDisposable
{
    private readonly Microsoft.Win32.SafeHandles.SafeFileHandle file;

    /// <summary>Opens raw 16-bit samples. Throws <see cref="IOException"/> when that does not go.</summary>
    public PcmSound(string path)
    {
        file = File.OpenHandle(path);
        Length = RandomAccess.GetLength(file) / 2;
    }

    /// <inheritdoc/>
    public long Length { get; }

    /// <inheritdoc/>
    public void Read(long at, Span<float> into)
    {
        into.Clear();
        long from = Math.Clamp(at, 0, Length),
            to = Math.Clamp(at + into.Length, 0, Length);
        if (to <= from)
        {
            return;
        }
        var samples = new short[to - from];
        var got = RandomAccess.Read(file, MemoryMarshal.AsBytes(samples.AsSpan()), from * 2) / 2;
        var place = into[(int)(from - at)..];
        for (var i = 0; i < got; i++)
        {
            place[i] = samples[i] / 32768f;
        }
    }

    /// <summary>Writes samples of −1..1 as such a file.</summary>
    public static void Write(string path, ReadOnlySpan<float> samples)
    {
        using var stream = File.Create(path);
        var part = new short[1 << 16];
        for (var at = 0; at < samples.Length; at += part.Length)
        {
            var count = Math.Min(part.Length, samples.Length - at);
            for (var i = 0; i < count; i++)
            {
                part[i] = (short)Math.Clamp(Math.Round(samples[at + i] * 32768), short.MinValue, short.MaxValue);
            }
            stream.Write(MemoryMarshal.AsBytes(part.AsSpan(0, count)));
        }
    }

    /// <inheritdoc/>
    public void Dispose() => file.Dispose();
}
