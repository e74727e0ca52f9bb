namespace EmberLane.Core.Pictures;

/// <summary>A part of a picture in thousandths of its width and height, from the top left.</summary>
public readonly record struct PictureBox(int X, int Y, int Width, int Height)
{
    /// <summary>The middle of it, in thousandths.</summary>
    public (int X, int Y) Middle => (X + (Width / 2), Y + (Height / 2));

    /// <summary>How much of both together is in both.</summary>
    public PerMille Shared(PictureBox other)
    {
        long wide = Math.Min(X + Width, other.X + other.Width) - Math.Max(X, other.X),
            high = Math.Min(Y + Height, other.Y + other.Height) - Math.Max(Y, other.Y);
        if (wide <= 0 || high <= 0)
        {
            return PerMille.None;
        }
        var both = wide * high;
        return PerMille.Of(both, ((long)Width * Height) + ((long)other.Width * other.Height) - both);
    }

    /// <summary>The part of it that lies in the picture.</summary>
    public PictureBox Within()
    {
        int left = Math.Clamp(X, 0, 1000),
            top = Math.Clamp(Y, 0, 1000);
        return new PictureBox(left, top, Math.Clamp(X + Width, 0, 1000) - left, Math.Clamp(Y + Height, 0, 1000) - top);
    }
}

/// <summary>A face that was found in a picture, and how sure that is.</summary>
public sealed record Face(PictureBox Box, PerMille Chance);
