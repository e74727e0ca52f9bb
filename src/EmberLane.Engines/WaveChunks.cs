using System.Buffers.Binary;
using System.Text;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>
/// Reads what a recorder wrote about a WAV file; RIFF, RF64 and BW64. Only heads of chunks are read besides the one that is wanted.
/// </summary>
public static class WaveChunks
{
    private const int Most = 1 << 20,
        MostChunks = 1_000;

    /// <summary>The notes in the file's iXML chunk, or none: no WAV, no such chunk, one that is too large or broken.</summary>
    public static RecorderNotes Notes(string path)
    {
        using var file = File.OpenRead(path);
        var head = new byte[12];
        if (
            file.ReadAtLeast(head, head.Length, throwOnEndOfStream: false) < head.Length
            || Text(head, 0) is not ("RIFF" or "RF64" or "BW64")
            || Text(head, 8) != "WAVE"
        )
        {
            return RecorderNotes.None;
        }
        long dataSize = 0;
        for (var n = 0; n < MostChunks && file.ReadAtLeast(head.AsSpan(0, 8), 8, throwOnEndOfStream: false) == 8; n++)
        {
            var name = Text(head, 0);
            long size = BinaryPrimitives.ReadUInt32LittleEndian(head.AsSpan(4)),
                at = file.Position;
            if (name == "ds64" && size >= 16)
            {
                var sizes = new byte[16];
                if (file.ReadAtLeast(sizes, sizes.Length, throwOnEndOfStream: false) < sizes.Length)
                {
                    return RecorderNotes.None;
                }
                dataSize = BinaryPrimitives.ReadInt64LittleEndian(sizes.AsSpan(8));
            }
            else if (name == "iXML")
            {
                var text = new byte[(int)Math.Min(size, Most)];
                return size <= Most && file.ReadAtLeast(text, text.Length, throwOnEndOfStream: false) == text.Length
                    ? RecorderNotes.Read(Encoding.UTF8.GetString(text))
                    : RecorderNotes.None;
            }
            // In the 64-bit forms the sound's true length stands in ds64.
            size = name == "data" && size == uint.MaxValue ? dataSize : size;
            if (size < 0 || at + size + (size & 1) >= file.Length)
            {
                break;
            }
            file.Position = at + size + (size & 1);
        }
        return RecorderNotes.None;
    }

    private static string Text(byte[] head, int at) => Encoding.ASCII.GetString(head, at, 4);
}
