namespace EmberLane.Core.Pictures;

/// <summary>
/// What the face network says, as faces. It looks at a square of <see cref="Side"/> pixels and tells for each of 48 × 48 places, four
/// pixels apart, whether a face lies there, and where its box is, in pixels from the middle of that place (as the network's authors
/// describe it).
/// </summary>
public static class FaceBoxes
{
    /// <summary>The side of the square that the network looks at, in pixels.</summary>
    public const int Side = 192;

    /// <summary>Numbers of a place: a box by its middle and its size, and six points of the face that are not used here.</summary>
    public const int Numbers = 16;

    private const int Places = 48;
    private const double Least = 0.6;

    /// <summary>Boxes that share more than this are one face.</summary>
    private static readonly PerMille Same = new(300);

    /// <summary>
    /// The faces in a part of a picture that was laid into the square; <paramref name="part"/> says what of the picture the whole square
    /// shows, which may be more than there is. <paramref name="boxes"/> has 2,304 × 16 numbers, <paramref name="scores"/> 2,304.
    /// </summary>
    public static IReadOnlyList<Face> Of(ReadOnlySpan<float> boxes, ReadOnlySpan<float> scores, PictureBox part)
    {
        var found = new List<Face>();
        for (var place = 0; place < scores.Length; place++)
        {
            var chance = 1 / (1 + Math.Exp(-Math.Clamp(scores[place], -100f, 100f)));
            if (chance < Least)
            {
                continue;
            }
            var numbers = boxes.Slice(place * Numbers, 4);
            double middle = numbers[0] + (((place % Places) + 0.5) * Side / Places),
                down = numbers[1] + (((place / Places) + 0.5) * Side / Places);
            found.Add(
                new Face(
                    new PictureBox(
                        part.X + Scaled(middle - (numbers[2] / 2), part.Width),
                        part.Y + Scaled(down - (numbers[3] / 2), part.Height),
                        Scaled(numbers[2], part.Width),
                        Scaled(numbers[3], part.Height)
                    ).Within(),
                    PerMille.OfShare(chance)
                )
            );
        }
        return Single([.. found.Where(f => f.Box is { Width: > 0, Height: > 0 })]);
    }

    /// <summary>Each face once, the surest box of it, the surest face first.</summary>
    public static IReadOnlyList<Face> Single(IReadOnlyList<Face> found)
    {
        var kept = new List<Face>();
        foreach (var face in found.OrderByDescending(f => f.Chance))
        {
            if (kept.TrueForAll(k => k.Box.Shared(face.Box) <= Same && !Holds(k.Box, face.Box)))
            {
                kept.Add(face);
            }
        }
        return kept;
    }

    // A face that was cut at the edge of a part lies within the whole one.
    private static bool Holds(PictureBox one, PictureBox other)
    {
        var (x, y) = other.Middle;
        return x >= one.X && x < one.X + one.Width && y >= one.Y && y < one.Y + one.Height;
    }

    private static int Scaled(double pixels, int shown) => (int)Math.Round(pixels * shown / Side);
}
