namespace EmberLane.Core.Pictures;

/// <summary>
/// What a picture looks like, in few numbers that are compared: which colours it has, where they lie, and where it has much detail. It
/// knows nothing of what is shown.
/// </summary>
public sealed record PictureLook(byte[] Numbers)
{
    private const int Along = 4,
        Down = 3,
        Cells = Along * Down,
        Levels = 4,
        Bins = Levels * Levels * Levels,
        Cell = 4;

    /// <summary>How many numbers it has: how much of each colour there is; of each of twelve parts the colour and the detail.</summary>
    public const int Length = Bins + (Cells * Cell);

    /// <summary>What pictures of one size look like together. Throws where there is none.</summary>
    public static PictureLook Of(IReadOnlyList<Raster> pictures)
    {
        var sum = new double[Length];
        foreach (var picture in pictures)
        {
            Add(picture, sum);
        }
        return new PictureLook([.. sum.Select(s => (byte)Math.Clamp(Math.Round(s / pictures.Count), 0, 255))]);
    }

    /// <summary>The mean of several. Throws where there is none.</summary>
    public static PictureLook Mean(IReadOnlyList<PictureLook> looks) =>
        new([.. Enumerable.Range(0, Length).Select(i => (byte)(looks.Sum(l => l.Numbers[i]) / looks.Count))]);

    /// <summary>How far apart two are: none where they are the same, all where they have nothing in common.</summary>
    public PerMille Apart(PictureLook other)
    {
        int colours = 0,
            places = 0;
        for (var i = 0; i < Bins; i++)
        {
            colours += Math.Abs(Numbers[i] - other.Numbers[i]);
        }
        for (var i = Bins; i < Length; i++)
        {
            places += Math.Abs(Numbers[i] - other.Numbers[i]);
        }
        int most = Math.Max(1, Numbers.Take(Bins).Sum(n => n) + other.Numbers.Take(Bins).Sum(n => n));
        return new PerMille(Math.Min(1000, ((600 * colours) / most) + (400 * places * 3 / (255 * Cells * Cell))));
    }

    /// <summary>How far apart the colours of two are, wherever they lie.</summary>
    public PerMille ColoursApart(PictureLook other)
    {
        int apart = 0,
            most = 1;
        for (var i = 0; i < Bins; i++)
        {
            apart += Math.Abs(Numbers[i] - other.Numbers[i]);
            most += Numbers[i] + other.Numbers[i];
        }
        return PerMille.Of(apart, most);
    }

    /// <inheritdoc/>
    public bool Equals(PictureLook? other) => other is not null && Numbers.AsSpan().SequenceEqual(other.Numbers);

    /// <inheritdoc/>
    public override int GetHashCode() => Numbers.Aggregate(17, (hash, n) => (hash * 31) + n);

    private static void Add(Raster picture, double[] sum)
    {
        var bins = new double[Bins];
        for (var at = 0; at < picture.Rgb.Length; at += 3)
        {
            Spread(picture.Rgb[at], picture.Rgb[at + 1], picture.Rgb[at + 2], bins);
        }
        double pixels = picture.Width * picture.Height;
        for (var i = 0; i < Bins; i++)
        {
            // The root brings out colours of which there is little.
            sum[i] += 255 * Math.Sqrt(bins[i] / pixels);
        }
        for (var cell = 0; cell < Cells; cell++)
        {
            int left = cell % Along * picture.Width / Along,
                right = ((cell % Along) + 1) * picture.Width / Along,
                top = cell / Along * picture.Height / Down,
                bottom = ((cell / Along) + 1) * picture.Height / Down;
            if (left >= right || top >= bottom)
            {
                continue;
            }
            var (red, green, blue) = picture.MeanOf(left, top, right, bottom);
            var at = Bins + (cell * Cell);
            sum[at] += red;
            sum[at + 1] += green;
            sum[at + 2] += blue;
            sum[at + 3] += Detail(picture, left, top, right, bottom);
        }
    }

    // A colour counts in the eight bins around it, so that one near a border does not jump.
    private static void Spread(byte red, byte green, byte blue, double[] bins)
    {
        var (r, g, b) = (Place(red), Place(green), Place(blue));
        for (var corner = 0; corner < 8; corner++)
        {
            var weight = Weight(r.Part, (corner & 1) != 0) * Weight(g.Part, (corner & 2) != 0) * Weight(b.Part, (corner & 4) != 0);
            if (weight > 0)
            {
                bins[((((r.Bin + (corner & 1)) * Levels) + g.Bin + ((corner >> 1) & 1)) * Levels) + b.Bin + (corner >> 2)] += weight;
            }
        }

        static double Weight(double part, bool isNext) => isNext ? part : 1 - part;
        static (int Bin, double Part) Place(byte value)
        {
            var at = value * (Levels - 1) / 255.0;
            var bin = Math.Min((int)at, Levels - 2);
            return (bin, at - bin);
        }
    }

    private static double Detail(Raster picture, int left, int top, int right, int bottom)
    {
        long steps = 0,
            count = 1;
        for (var y = top; y < bottom; y++)
        {
            for (var x = left; x + 1 < right; x++)
            {
                steps += Math.Abs(picture.LumaAt(x + 1, y) - picture.LumaAt(x, y));
                count++;
            }
        }
        return Math.Min(255, 4.0 * steps / count);
    }
}
