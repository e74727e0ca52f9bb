using EmberLane.Core.Pictures;
using Microsoft.ML.OnnxRuntime;

namespace EmberLane.Engines.Pictures;

/// <summary>
/// Finds faces in a picture, by a small neural network that ships with the application (<c>Network/README.md</c>). The same picture gives
/// the same answer. Safe for several threads.
/// </summary>
public static class FaceNetwork
{
    private static readonly Lazy<InferenceSession> Network = new(() => OnnxNetwork.Load("faces.onnx"));

    /// <summary>
    /// The faces of a picture, the surest first; none in one of less than 48 pixels. It is looked at whole, and in square parts as high as
    /// it is, which show small faces larger.
    /// </summary>
    public static IReadOnlyList<Face> Find(Raster picture)
    {
        if (Math.Min(picture.Width, picture.Height) < 48)
        {
            return [];
        }
        var found = new List<Face>(FindIn(picture, 0, 0, Math.Max(picture.Width, picture.Height)));
        int side = Math.Min(picture.Width, picture.Height),
            along = Math.Max(picture.Width, picture.Height) - side;
        // So many parts that each overlaps the next by half at least.
        var parts = along == 0 ? 0 : 1 + (int)Math.Ceiling(2.0 * along / side);
        for (var i = 0; i < parts; i++)
        {
            var at = parts == 1 ? 0 : along * i / (parts - 1);
            found.AddRange(picture.Width > picture.Height ? FindIn(picture, at, 0, side) : FindIn(picture, 0, at, side));
        }
        return FaceBoxes.Single(found);
    }

    // Looks at a square of the picture; where that reaches beyond the picture it is black there.
    private static IReadOnlyList<Face> FindIn(Raster picture, int left, int top, int side)
    {
        int down = Math.Max(0, (side - picture.Height) / 2),
            right = Math.Max(0, (side - picture.Width) / 2);
        const int to = FaceBoxes.Side;
        var input = new float[3 * to * to];
        Array.Fill(input, -1);
        for (var y = 0; y < to; y++)
        {
            var fromY = (((y + 0.5) * side / to) - 0.5) - down + top;
            if (fromY < top - 0.5 || fromY > picture.Height - 0.5)
            {
                continue;
            }
            for (var x = 0; x < to; x++)
            {
                var fromX = (((x + 0.5) * side / to) - 0.5) - right + left;
                if (fromX >= left - 0.5 && fromX <= picture.Width - 0.5)
                {
                    Between(picture, fromX, fromY, input.AsSpan(3 * ((y * to) + x), 3));
                }
            }
        }
        using var run = new RunOptions();
        using var taken = OrtValue.CreateTensorValueFromMemory(input, [1, to, to, 3]);
        using var results = Network.Value.Run(run, ["input"], [taken], ["boxes", "scores"]);
        return FaceBoxes.Of(
            results[0].GetTensorDataAsSpan<float>(),
            results[1].GetTensorDataAsSpan<float>(),
            new PictureBox(
                1000 * (left - right) / picture.Width,
                1000 * (top - down) / picture.Height,
                1000 * side / picture.Width,
                1000 * side / picture.Height
            )
        );
    }

    // The colour between four pixels, from -1 to 1.
    private static void Between(Raster picture, double x, double y, Span<float> into)
    {
        x = Math.Clamp(x, 0, picture.Width - 1);
        y = Math.Clamp(y, 0, picture.Height - 1);
        int left = (int)x,
            top = (int)y,
            right = Math.Min(left + 1, picture.Width - 1),
            bottom = Math.Min(top + 1, picture.Height - 1);
        double along = x - left,
            down = y - top;
        for (var c = 0; c < 3; c++)
        {
            double above = (At(left, top, c) * (1 - along)) + (At(right, top, c) * along),
                below = (At(left, bottom, c) * (1 - along)) + (At(right, bottom, c) * along);
            into[c] = (float)((((above * (1 - down)) + (below * down)) / 127.5) - 1);
        }

        double At(int px, int py, int colour) => picture.Rgb[(3 * ((py * picture.Width) + px)) + colour];
    }
}
