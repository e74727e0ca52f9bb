using System.Buffers.Binary;

namespace EmberLane.Engines;

/// <summary>The head of a WAV file of 16-bit samples that is written here; what others wrote is read by <see cref="WaveChunks"/>.</summary>
internal static class WaveHead
{
    /// <summary>The length of a head, in bytes, of sound below 4 GiB.</summary>
    public const int Bytes = 44;

    // The chunk that holds the lengths where they need 64 bits (RF64, EBU Tech 3306).
    private const int WideBytes = 36;

    /// <summary>The head before so many bytes of interleaved samples: RIFF, or RF64 where a 32-bit length does not hold them.</summary>
    public static byte[] Of(int samplesPerSecond, int channels, long bytes)
    {
        var frame = channels * sizeof(short);
        var isWide = bytes > uint.MaxValue - Bytes;
        var head = new byte[Bytes + (isWide ? WideBytes : 0)];
        (isWide ? "RF64"u8 : "RIFF"u8).CopyTo(head);
        BinaryPrimitives.WriteUInt32LittleEndian(head.AsSpan(4), isWide ? uint.MaxValue : (uint)(Bytes - 8 + bytes));
        "WAVE"u8.CopyTo(head.AsSpan(8));
        var rest = head.AsSpan(12);
        if (isWide)
        {
            "ds64"u8.CopyTo(rest);
            BinaryPrimitives.WriteInt32LittleEndian(rest[4..], WideBytes - 8);
            BinaryPrimitives.WriteInt64LittleEndian(rest[8..], head.Length - 8 + bytes);
            BinaryPrimitives.WriteInt64LittleEndian(rest[16..], bytes);
            BinaryPrimitives.WriteInt64LittleEndian(rest[24..], bytes / frame);
            rest = rest[WideBytes..];
        }
        "fmt "u8.CopyTo(rest);
        BinaryPrimitives.WriteInt32LittleEndian(rest[4..], 16);
        BinaryPrimitives.WriteInt16LittleEndian(rest[8..], 1);
        BinaryPrimitives.WriteInt16LittleEndian(rest[10..], (short)channels);
        BinaryPrimitives.WriteInt32LittleEndian(rest[12..], samplesPerSecond);
        BinaryPrimitives.WriteInt32LittleEndian(rest[16..], samplesPerSecond * frame);
        BinaryPrimitives.WriteInt16LittleEndian(rest[20..], (short)frame);
        BinaryPrimitives.WriteInt16LittleEndian(rest[22..], 16);
        "data"u8.CopyTo(rest[24..]);
        BinaryPrimitives.WriteUInt32LittleEndian(rest[28..], isWide ? uint.MaxValue : (uint)bytes);
        return head;
    }
}
