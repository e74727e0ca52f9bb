using System.Buffers.Binary;
using System.Text;

namespace EmberLane.Footage;

/// <summary>The 16-bit WAV files that the generator makes and reads back; not a reader for files from elsewhere.</summary>
internal static class WavFile
{
    /// <summary>Writes channels of −1..1 as 16-bit PCM, rounded with a triangular dither that is the same every time.</summary>
    public static void Write(string path, IReadOnlyList<float[]> channels, int rate)
    {
        var random = new Random(7);
        int length = channels[0].Length,
            block = channels.Count * 2;
        var bytes = new byte[44 + (length * block)];
        Encoding.ASCII.GetBytes("RIFF").CopyTo(bytes, 0);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(4), bytes.Length - 8);
        Encoding.ASCII.GetBytes("WAVEfmt ").CopyTo(bytes, 8);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(16), 16);
        BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(20), 1);
        BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(22), (short)channels.Count);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(24), rate);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(28), rate * block);
        BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(32), (short)block);
        BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(34), 16);
        Encoding.ASCII.GetBytes("data").CopyTo(bytes, 36);
        BinaryPrimitives.WriteInt32LittleEndian(bytes.AsSpan(40), length * block);
        var at = 44;
        for (var i = 0; i < length; i++)
        {
            foreach (var channel in channels)
            {
                var value = Math.Clamp(Math.Round((channel[i] * 32767) + random.NextDouble() - random.NextDouble()), -32768, 32767);
                BinaryPrimitives.WriteInt16LittleEndian(bytes.AsSpan(at), (short)value);
                at += 2;
            }
        }
        File.WriteAllBytes(path, bytes);
    }

    /// <summary>Reads a mono 16-bit file.</summary>
    public static float[] ReadMono(string path)
    {
        var bytes = File.ReadAllBytes(path);
        var at = 12;
        while (Encoding.ASCII.GetString(bytes, at, 4) != "data")
        {
            at += 8 + BinaryPrimitives.ReadInt32LittleEndian(bytes.AsSpan(at + 4));
        }
        var samples = new float[Math.Min(BinaryPrimitives.ReadInt32LittleEndian(bytes.AsSpan(at + 4)), bytes.Length - at - 8) / 2];
        for (var i = 0; i < samples.Length; i++)
        {
            samples[i] = BinaryPrimitives.ReadInt16LittleEndian(bytes.AsSpan(at + 8 + (2 * i))) / 32768f;
        }
        return samples;
    }
}
