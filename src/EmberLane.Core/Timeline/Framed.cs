namespace EmberLane.Core.Timeline;

/// <summary>
/// The part of a picture that is seen, of the picture's own shape: its left edge, its upper edge and its size, in ten-thousandths of the
/// picture's width and height.
/// </summary>
public readonly record struct Crop(int Left, int Top, int Size)
{
    /// <summary>The whole picture's size.</summary>
    public const int Whole = 10_000;

    /// <summary>The whole picture.</summary>
    public static readonly Crop All = new(0, 0, Whole);

    /// <summary>
    /// The part that is seen when the picture is enlarged to so many hundredths around a centre in hundredths of its width and height; kept
    /// within the picture.
    /// </summary>
    public static Crop Of(int percent, int across, int down)
    {
        var size = ((Whole * 100) + (percent / 2)) / percent;
        return new Crop(Edge(across, size), Edge(down, size), size);

        static int Edge(int centre, int size) => Math.Clamp((centre * Whole / 100) - (size / 2), 0, Whole - size);
    }

    /// <summary>So much of the way to another crop.</summary>
    public Crop Toward(Crop other, PerMille way)
    {
        return new Crop(Between(Left, other.Left), Between(Top, other.Top), Between(Size, other.Size));

        int Between(int from, int to) => from + ((to - from) * way.Value / 1000);
    }

    /// <summary>How much larger it is seen, in hundredths.</summary>
    public int Percent => ((Whole * 100) + (Size / 2)) / Size;
}

/// <summary>
/// A picture of which a part is seen: from which at its first frame to which behind its last one, evenly.
/// </summary>
public sealed record Framed(Crop From, Crop To)
{
    /// <summary>Whether it does not move.</summary>
    public bool IsStill => From == To;

    /// <summary>What is seen between two moments of it, of so much in all.</summary>
    public Framed Part(MediaTime from, MediaTime to, MediaTime all) =>
        IsStill ? this : new Framed(From.Toward(To, PerMille.Of(from.Units, all.Units)), From.Toward(To, PerMille.Of(to.Units, all.Units)));
}
