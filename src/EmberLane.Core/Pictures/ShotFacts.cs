namespace EmberLane.Core.Pictures;

/// <summary>How bright a shot is.</summary>
public enum ShotLight
{
    /// <summary>Less than three tenths of white.</summary>
    Dark,

    /// <summary>Between.</summary>
    Even,

    /// <summary>More than six tenths of white.</summary>
    Bright,
}

/// <summary>How much of a shot changes from a quarter of a second to the next.</summary>
public enum ShotMovement
{
    /// <summary>Next to nothing.</summary>
    Still,

    /// <summary>Something moves, the camera hardly.</summary>
    Calm,

    /// <summary>Much of the picture moves.</summary>
    Lively,
}

/// <summary>How large the largest face of a shot is.</summary>
public enum ShotSize
{
    /// <summary>A quarter of the picture's height, from the brow to the chin, or more.</summary>
    Close,

    /// <summary>Between.</summary>
    Medium,

    /// <summary>Less than three twentieths.</summary>
    Wide,
}

/// <summary>
/// What was measured of a shot, one take within a file: brightness and movement in thousandths of all there can be, its main colours, how
/// many faces, how high the largest is in thousandths of the picture, and what it looks like.
/// </summary>
public sealed record ShotFacts(
    SourceRange Range,
    PerMille Brightness,
    PerMille Movement,
    IReadOnlyList<PictureColour> Colours,
    int Faces,
    PerMille LargestFace,
    PictureLook Look
)
{
    /// <summary>How long it is.</summary>
    public MediaTime Length => Range.Out - Range.In;

    /// <summary>How bright.</summary>
    public ShotLight Light =>
        Brightness.Value < 300 ? ShotLight.Dark
        : Brightness.Value > 600 ? ShotLight.Bright
        : ShotLight.Even;

    /// <summary>How lively.</summary>
    public ShotMovement Motion =>
        Movement.Value < 3 ? ShotMovement.Still
        : Movement.Value < 20 ? ShotMovement.Calm
        : ShotMovement.Lively;

    /// <summary>How large its largest face is; null where it has none.</summary>
    public ShotSize? Size =>
        Faces == 0 ? null
        : LargestFace.Value >= 250 ? ShotSize.Close
        : LargestFace.Value >= 150 ? ShotSize.Medium
        : ShotSize.Wide;
}
