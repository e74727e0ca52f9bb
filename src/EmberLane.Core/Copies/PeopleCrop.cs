using EmberLane.Core.Media;
using EmberLane.Core.Pictures;

namespace EmberLane.Core.Copies;

/// <summary>Where a picture is cut that is filmed wider than it shall be seen.</summary>
public static class PeopleCrop
{
    /// <summary>So much of a face (thousandths of its width) is kept free at each side of it.</summary>
    private const int Beside = 300;

    /// <summary>
    /// The middle of what is seen, in thousandths of the width: around the faces, the middle of the picture where there are none; null
    /// where they do not fit side by side, so that the whole picture has to be seen.
    /// </summary>
    public static int? Of(IReadOnlyList<PictureBox> faces, PictureFacts picture, CopyShape shape)
    {
        var seen = Math.Min(1000, 1000L * shape.Width * picture.Height / ((long)shape.Height * picture.Width));
        if (faces.Count == 0)
        {
            return 500;
        }
        long from = faces.Min(f => f.X - (f.Width * Beside / 1000)),
            to = faces.Max(f => f.X + f.Width + (f.Width * Beside / 1000));
        return to - from <= seen ? (int)((from + to) / 2) : null;
    }
}
