namespace EmberLane.Core.Pictures;

/// <summary>A picture as bytes of red, green and blue, row by row from the top left: three times width times height.</summary>
public sealed record Raster(int Width, int Height, byte[] Rgb)
{
    /// <summary>How bright a pixel is, 0–255 (BT.601).</summary>
    public int LumaAt(int x, int y)
    {
        var at = 3 * ((y * Width) + x);
        return Luma(Rgb[at], Rgb[at + 1], Rgb[at + 2]);
    }

    /// <summary>
    /// The same picture with fewer pixels, each the mean of those that it stands for. Neither side may be asked larger than it is.
    /// </summary>
    public Raster Shrunk(int width, int height)
    {
        if (width > Width || height > Height || width < 1 || height < 1)
        {
            throw new ArgumentOutOfRangeException(nameof(width), $"{Width}×{Height} can not be shrunk to {width}×{height}.");
        }
        var rgb = new byte[3 * width * height];
        for (var y = 0; y < height; y++)
        {
            int top = y * Height / height,
                end = (y + 1) * Height / height;
            for (var x = 0; x < width; x++)
            {
                var (red, green, blue) = MeanOf(x * Width / width, top, (x + 1) * Width / width, end);
                var at = 3 * ((y * width) + x);
                (rgb[at], rgb[at + 1], rgb[at + 2]) = (red, green, blue);
            }
        }
        return new Raster(width, height, rgb);
    }

    /// <summary>A part of it, in pixels; what lies beyond is cut off. Throws where nothing of it lies in the picture.</summary>
    public Raster Part(int left, int top, int width, int height)
    {
        int from = Math.Clamp(left, 0, Width),
            until = Math.Clamp(left + width, 0, Width),
            first = Math.Clamp(top, 0, Height),
            end = Math.Clamp(top + height, 0, Height);
        if (from >= until || first >= end)
        {
            throw new ArgumentOutOfRangeException(nameof(left), "The part lies beside the picture.");
        }
        var rgb = new byte[3 * (until - from) * (end - first)];
        for (var y = first; y < end; y++)
        {
            Rgb.AsSpan(3 * ((y * Width) + from), 3 * (until - from)).CopyTo(rgb.AsSpan(3 * (y - first) * (until - from)));
        }
        return new Raster(until - from, end - first, rgb);
    }

    /// <summary>The mean of a part, its ends exclusive.</summary>
    internal (byte Red, byte Green, byte Blue) MeanOf(int left, int top, int right, int bottom)
    {
        long red = 0,
            green = 0,
            blue = 0;
        for (var y = top; y < bottom; y++)
        {
            for (var at = 3 * ((y * Width) + left); at < 3 * ((y * Width) + right); at += 3)
            {
                red += Rgb[at];
                green += Rgb[at + 1];
                blue += Rgb[at + 2];
            }
        }
        long of = (right - left) * (bottom - top);
        return ((byte)(red / of), (byte)(green / of), (byte)(blue / of));
    }

    internal static int Luma(int red, int green, int blue) => ((299 * red) + (587 * green) + (114 * blue)) / 1000;
}
