using System.Buffers.Binary;
using System.Runtime.InteropServices;
using EmberLane.Core.Media;

namespace EmberLane.Engines.Sync;

/// <summary>A short stretch of a file's sound at full rate, for looking at and listening to closely.</summary>
public static class SoundExtract
{
    /// <summary>Samples a second.</summary>
    public const int Rate = 48_000;

    /// <summary>
    /// The mix of all channels of the first track, or the one <paramref name="channel"/> counted through all tracks, from
    /// <paramref name="from"/>, which may lie before the start, −1..1; silence where there is none. At most a minute. Throws
    /// <see cref="ToolException"/> when it can not be decoded.
    /// </summary>
    public static async Task<float[]> ReadAsync(
        string path,
        SourceFacts facts,
        MediaTime from,
        MediaTime length,
        CancellationToken cancel,
        int? channel = null
    )
    {
        ArgumentOutOfRangeException.ThrowIfGreaterThan(length, MediaTime.FromMilliseconds(60_000));
        var samples = new float[Samples(length)];
        MediaTime start = MediaTime.Max(from, MediaTime.Zero),
            end = MediaTime.Min(from + length, facts.Duration);
        if (end <= start)
        {
            return samples;
        }
        var heard = MemoryMarshal
            .Cast<byte, short>(await Ffmpeg.DecodePartAsync(path, facts, start, end - start, channel, Rate, cancel))
            .ToArray();
        var skip = Samples(start - from);
        for (var i = 0; i < heard.Length && skip + i < samples.Length; i++)
        {
            samples[skip + i] = heard[i] / 32768f;
        }
        return samples;
    }

    /// <summary>Two sounds of equal length as a WAV file: one on each side, or both in the middle.</summary>
    public static byte[] Wav(ReadOnlySpan<float> one, ReadOnlySpan<float> other, bool apart)
    {
        const int frame = 2 * sizeof(short);
        byte[] wav = [.. WaveHead.Of(Rate, 2, (long)one.Length * frame), .. new byte[one.Length * frame]];
        var samples = wav.AsSpan(WaveHead.Bytes);
        for (var i = 0; i < one.Length; i++)
        {
            var middle = (one[i] + other[i]) / 2;
            BinaryPrimitives.WriteInt16LittleEndian(samples[(i * frame)..], Pcm(apart ? one[i] : middle));
            BinaryPrimitives.WriteInt16LittleEndian(samples[((i * frame) + sizeof(short))..], Pcm(apart ? other[i] : middle));
        }
        return wav;
    }

    private static short Pcm(float value) => (short)Math.Clamp(Math.Round(value * 32767), short.MinValue, short.MaxValue);

    private static int Samples(MediaTime time) => (int)Exact.RoundDivide((Int128)time.Units * Rate, MediaTime.UnitsPerSecond);
}
