namespace EmberLane.Core.Pictures;

/// <summary>A colour as people call it.</summary>
public enum PictureColour
{
    /// <summary>Too dark to have a colour.</summary>
    Black,

    /// <summary>Neither dark nor bright, without a colour.</summary>
    Grey,

    /// <summary>Bright, without a colour.</summary>
    White,

    /// <summary>Hue 345–15°.</summary>
    Red,

    /// <summary>Hue 15–45°, bright.</summary>
    Orange,

    /// <summary>Hue 15–45°, dark.</summary>
    Brown,

    /// <summary>Hue 45–70°.</summary>
    Yellow,

    /// <summary>Hue 70–165°.</summary>
    Green,

    /// <summary>Hue 165–195°, between green and blue.</summary>
    Teal,

    /// <summary>Hue 195–255°.</summary>
    Blue,

    /// <summary>Hue 255–290°.</summary>
    Purple,

    /// <summary>Hue 290–345°.</summary>
    Pink,
}

/// <summary>The main colours of a picture.</summary>
public static class PictureColours
{
    /// <summary>A main colour has this much of the picture; and so many are told.</summary>
    private static readonly PerMille Least = new(120);

    private const int Most = 3;

    /// <summary>A colour's name.</summary>
    public static PictureColour NameOf(byte red, byte green, byte blue)
    {
        int high = Math.Max(red, Math.Max(green, blue)),
            low = Math.Min(red, Math.Min(green, blue)),
            range = high - low;
        if (high < 46)
        {
            return PictureColour.Black;
        }
        // What is nearly grey is called grey: less than an eighth of its brightness is colour.
        if (8 * range < high)
        {
            return high > 209 ? PictureColour.White : PictureColour.Grey;
        }
        var hue =
            high == red ? (60 * (green - blue) / range) + 360
            : high == green ? (60 * (blue - red) / range) + 480
            : (60 * (red - green) / range) + 600;
        return (hue % 360) switch
        {
            < 15 or >= 345 => PictureColour.Red,
            < 45 => high < 140 ? PictureColour.Brown : PictureColour.Orange,
            < 70 => PictureColour.Yellow,
            < 165 => PictureColour.Green,
            < 195 => PictureColour.Teal,
            < 255 => PictureColour.Blue,
            < 290 => PictureColour.Purple,
            _ => PictureColour.Pink,
        };
    }

    /// <summary>The main colours of pictures of one size together, the largest first, and that one in any case.</summary>
    public static IReadOnlyList<PictureColour> Main(IReadOnlyList<Raster> pictures)
    {
        var counts = new long[Enum.GetValues<PictureColour>().Length];
        foreach (var picture in pictures)
        {
            for (var at = 0; at < picture.Rgb.Length; at += 3)
            {
                counts[(int)NameOf(picture.Rgb[at], picture.Rgb[at + 1], picture.Rgb[at + 2])]++;
            }
        }
        var all = counts.Sum();
        var sorted = counts
            .Select((n, i) => (Colour: (PictureColour)i, Share: PerMille.Of(n, all)))
            .OrderByDescending(c => c.Share)
            .ToList();
        return all == 0 ? [] : [sorted[0].Colour, .. sorted.Skip(1).TakeWhile(c => c.Share >= Least).Take(Most - 1).Select(c => c.Colour)];
    }
}
