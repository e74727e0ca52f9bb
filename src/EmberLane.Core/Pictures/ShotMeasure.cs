namespace EmberLane.Core.Pictures;

/// <summary>A face with what the one whose it is looks like: hair, face and shoulders.</summary>
public sealed record SeenFace(Face Face, PictureLook Figure)
{
    /// <summary>A face of a picture, with its figure.</summary>
    public static SeenFace Of(Raster picture, Face face)
    {
        int left = face.Box.X * picture.Width / 1000,
            top = face.Box.Y * picture.Height / 1000,
            width = Math.Max(2, face.Box.Width * picture.Width / 1000),
            height = Math.Max(2, face.Box.Height * picture.Height / 1000);
        // Half a face above it for the hair, a whole one below it for the shoulders.
        return new SeenFace(face, PictureLook.Of([picture.Part(left - (width / 4), top - (height / 2), width * 3 / 2, height * 5 / 2)]));
    }
}

/// <summary>A moment of a file: its picture with few pixels, and, where it was looked for them, the faces in it.</summary>
public sealed record SeenFrame(SourceTime At, Raster Small, IReadOnlyList<SeenFace>? Faces)
{
    /// <summary>A frame as it is kept for measuring.</summary>
    public static SeenFrame Of(SourceTime at, Raster picture, IReadOnlyList<Face>? faces) =>
        new(
            at,
            picture.Shrunk(Math.Min(ShotMeasure.Width, picture.Width), Math.Min(ShotMeasure.Height, picture.Height)),
            faces?.Select(f => SeenFace.Of(picture, f)).ToList()
        );
}

/// <summary>Measures shots by some of their frames.</summary>
public static class ShotMeasure
{
    /// <summary>Pictures are compared with so many pixels, which noise does not reach.</summary>
    public const int Width = 48,
        Height = 27;

    /// <summary>Two frames further apart than this (0.6 s) say nothing of movement.</summary>
    private static readonly MediaTime Apart = MediaTime.FromMilliseconds(600);

    /// <summary>A shot shorter than this (0.5 s) is part of the one before it: a flash, not a take.</summary>
    private static readonly MediaTime Shortest = MediaTime.FromMilliseconds(500);

    /// <summary>The shots of a file of this length that is cut at these moments, in any order; those beyond it are left out.</summary>
    public static IReadOnlyList<SourceRange> Shots(IEnumerable<SourceTime> cuts, MediaTime length)
    {
        var end = new SourceTime(length);
        var borders = new List<SourceTime> { default };
        foreach (var cut in cuts.Order())
        {
            if (cut - borders[^1] >= Shortest && end - cut >= Shortest)
            {
                borders.Add(cut);
            }
        }
        return [.. borders.Select((b, i) => new SourceRange(b, i + 1 < borders.Count ? borders[i + 1] : end))];
    }

    /// <summary>The facts of a shot by the frames that lie in it, in order of time; null where none does.</summary>
    public static ShotFacts? Of(SourceRange shot, IReadOnlyList<SeenFrame> frames)
    {
        var own = frames.Where(f => f.At >= shot.In && f.At < shot.Out).ToList();
        if (own.Count == 0)
        {
            return null;
        }
        var small = own.ConvertAll(f => f.Small);
        var (faces, largest) = FacesOf([.. own.Select(f => f.Faces).OfType<IReadOnlyList<SeenFace>>()]);
        return new ShotFacts(
            shot,
            Brightness(small),
            MovementOf(own, small),
            PictureColours.Main(small),
            faces,
            largest,
            PictureLook.Of(small)
        );
    }

    private static PerMille Brightness(List<Raster> pictures)
    {
        long sum = 0,
            count = 0;
        foreach (var picture in pictures)
        {
            for (var at = 0; at < picture.Rgb.Length; at += 3)
            {
                sum += Raster.Luma(picture.Rgb[at], picture.Rgb[at + 1], picture.Rgb[at + 2]);
                count++;
            }
        }
        return PerMille.Of(sum, 255 * count);
    }

    // The mean change of a pixel's brightness from one frame to the next.
    private static PerMille MovementOf(List<SeenFrame> frames, List<Raster> small)
    {
        long sum = 0,
            count = 0;
        for (var i = 1; i < frames.Count; i++)
        {
            if (frames[i].At - frames[i - 1].At > Apart)
            {
                continue;
            }
            for (var y = 0; y < small[i].Height; y++)
            {
                for (var x = 0; x < small[i].Width; x++)
                {
                    sum += Math.Abs(small[i].LumaAt(x, y) - small[i - 1].LumaAt(x, y));
                    count++;
                }
            }
        }
        return PerMille.Of(sum, 255 * count);
    }

    // As many as are seen at once in a third of the frames that were looked at: one that was seen once may be none.
    private static (int Count, PerMille Largest) FacesOf(List<IReadOnlyList<SeenFace>> looked)
    {
        if (looked.Count == 0)
        {
            return (0, PerMille.None);
        }
        var count = looked.Select(f => f.Count).OrderDescending().ElementAt((looked.Count - 1) / 3);
        var heights = looked.Where(f => f.Count > 0).Select(f => f.Max(x => x.Face.Box.Height)).Order().ToList();
        return count == 0 ? (0, PerMille.None) : (count, new PerMille(heights[heights.Count / 2]));
    }
}
