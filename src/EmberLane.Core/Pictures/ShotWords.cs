using System.Globalization;

namespace EmberLane.Core.Pictures;

/// <summary>What was measured of a shot, in words.</summary>
public static class ShotWords
{
    /// <summary>Light, movement, colours and faces, with commas between.</summary>
    public static string Of(ShotFacts shot) =>
        string.Join(
            ", ",
            new[] { LightOf(shot.Light), MovementOf(shot.Motion), ColoursOf(shot.Colours), FacesOf(shot) }.Where(w => w.Length > 0)
        );

    /// <summary>How bright.</summary>
    public static string LightOf(ShotLight light) =>
        light switch
        {
            ShotLight.Dark => "dark",
            ShotLight.Bright => "bright",
            _ => "even light",
        };

    /// <summary>How lively.</summary>
    public static string MovementOf(ShotMovement movement) => movement.ToString().ToLowerInvariant();

    /// <summary>The colours, with “and” before the last.</summary>
    public static string ColoursOf(IReadOnlyList<PictureColour> colours) =>
        colours.Count == 0 ? ""
        : colours.Count == 1 ? Lower(colours[0])
        : string.Join(", ", colours.SkipLast(1).Select(Lower)) + " and " + Lower(colours[^1]);

    /// <summary>How many faces, and how large the largest is; empty where there is none.</summary>
    public static string FacesOf(ShotFacts shot) =>
        shot.Size is { } size
            ? string.Create(
                CultureInfo.InvariantCulture,
                $"{shot.Faces} {(shot.Faces == 1 ? "face" : "faces")}, {size.ToString().ToLowerInvariant()}"
            )
            : "";

    private static string Lower(PictureColour colour) => colour.ToString().ToLowerInvariant();
}
