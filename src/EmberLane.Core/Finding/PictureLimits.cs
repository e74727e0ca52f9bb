using EmberLane.Core.Pictures;

namespace EmberLane.Core.Finding;

/// <summary>A shot by its file and its number in it, from 1.</summary>
public readonly record struct ShotName(long Source, int Number);

/// <summary>What a question allows of pictures, each null for all.</summary>
public sealed record PictureLimits
{
    /// <summary>The furthest that a shot looks from one that it is like.</summary>
    public static readonly PerMille Furthest = new(250);

    /// <summary>How bright.</summary>
    public ShotLight? Light { get; init; }

    /// <summary>How lively.</summary>
    public ShotMovement? Movement { get; init; }

    /// <summary>Among its main colours.</summary>
    public PictureColour? Colour { get; init; }

    /// <summary>How many faces, both ends included.</summary>
    public (int Least, int Most)? Faces { get; init; }

    /// <summary>How large the largest face is.</summary>
    public ShotSize? Size { get; init; }

    /// <summary>Looking like this shot.</summary>
    public ShotName? Like { get; init; }

    /// <summary>Whether a shot's facts fit all but <see cref="Like"/>.</summary>
    public bool Fit(ShotFacts shot) =>
        (Light is null || shot.Light == Light)
        && (Movement is null || shot.Motion == Movement)
        && (Colour is not { } colour || shot.Colours.Contains(colour))
        && (Faces is not { } faces || (shot.Faces >= faces.Least && shot.Faces <= faces.Most))
        && (Size is null || shot.Size == Size);
}
