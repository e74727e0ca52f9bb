using System.Globalization;
using System.Text;
using EmberLane.Core.Pictures;

namespace EmberLane.Engines.Pictures;

/// <summary>
/// Takes pictures that a program writes one behind the other, as binary PPM of eight bits (Netpbm), and hands each on as it is whole.
/// Throws <see cref="FormatException"/> for anything else.
/// </summary>
internal sealed class PpmPictures(Action<Raster> take) : Stream
{
    /// <summary>Neither side of a picture is longer.</summary>
    private const int Longest = 4096;

    private readonly List<byte> head = [];
    private byte[]? rgb;
    private (int Width, int Height) size;
    private int got;

    public override bool CanRead => false;

    public override bool CanSeek => false;

    public override bool CanWrite => true;

    public override long Length => throw new NotSupportedException();

    public override long Position
    {
        get => throw new NotSupportedException();
        set => throw new NotSupportedException();
    }

    public override void Write(byte[] buffer, int offset, int count) => Write(buffer.AsSpan(offset, count));

    public override void Write(ReadOnlySpan<byte> buffer)
    {
        while (buffer.Length > 0)
        {
            if (rgb is null)
            {
                head.Add(buffer[0]);
                buffer = buffer[1..];
                ReadHead();
                continue;
            }
            var taken = Math.Min(buffer.Length, rgb.Length - got);
            buffer[..taken].CopyTo(rgb.AsSpan(got));
            got += taken;
            buffer = buffer[taken..];
            if (got == rgb.Length)
            {
                take(new Raster(size.Width, size.Height, rgb));
                (rgb, got) = (null, 0);
            }
        }
    }

    public override void Flush() { }

    public override int Read(byte[] buffer, int offset, int count) => throw new NotSupportedException();

    public override long Seek(long offset, SeekOrigin origin) => throw new NotSupportedException();

    public override void SetLength(long value) => throw new NotSupportedException();

    // Three lines: P6, width and height, 255.
    private void ReadHead()
    {
        if (head.Count > 40)
        {
            throw new FormatException("A picture was expected.");
        }
        if (head.Count(b => b == '\n') < 3)
        {
            return;
        }
        var lines = Encoding.ASCII.GetString([.. head]).Split('\n');
        var sides = lines[1].Split(' ');
        if (
            lines[0] != "P6"
            || lines[2] != "255"
            || sides is not [var wide, var high]
            || !int.TryParse(wide, NumberStyles.None, CultureInfo.InvariantCulture, out var width)
            || !int.TryParse(high, NumberStyles.None, CultureInfo.InvariantCulture, out var height)
            || width is < 1 or > Longest
            || height is < 1 or > Longest
        )
        {
            throw new FormatException("A picture was expected.");
        }
        size = (width, height);
        rgb = new byte[3 * width * height];
        head.Clear();
    }
}
