using System.Globalization;
using System.Text;

namespace EmberLane.Web.Rooms;

/// <summary>Two sounds mirrored on one axis: the reference stands on it, the source hangs from it. 1000 wide, 300 high.</summary>
public static class WaveDrawing
{
    public const int Wide = 1000,
        High = 300;

    private const double Axis = High / 2.0,
        Room = Axis - 8;

    /// <summary>The outline of one sound's loudness, scaled to its own loudest; <paramref name="up"/> for the reference.</summary>
    public static string Outline(IReadOnlyList<(float Low, float High)> columns, bool up)
    {
        var most = Math.Max(1e-6, columns.Max(c => Math.Max(c.High, -c.Low)));
        var path = new StringBuilder();
        path.Append(CultureInfo.InvariantCulture, $"M0,{Axis:0}");
        for (var i = 0; i < columns.Count; i++)
        {
            var height = Math.Max(columns[i].High, -columns[i].Low) / most * Room * (up ? -1 : 1);
            path.Append(CultureInfo.InvariantCulture, $"L{(double)i * Wide / columns.Count:0.#},{Axis + height:0.#}");
        }
        return path.Append(CultureInfo.InvariantCulture, $"L{Wide},{Axis:0}Z").ToString();
    }

    /// <summary>The curve itself, in its own half of the drawing: for stretches so short that single samples can be seen.</summary>
    public static string Curve(IReadOnlyList<(float Low, float High)> columns, bool up)
    {
        var most = Math.Max(1e-6, columns.Max(c => Math.Max(c.High, -c.Low)));
        var middle = Axis + ((up ? -1 : 1) * Axis / 2);
        return string.Join(
            ' ',
            columns.Select(
                (c, i) =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{(i + 0.5) * Wide / columns.Count:0.#},{middle - ((c.High + c.Low) / 2 / most * (Axis / 2 - 6)):0.#}"
                    )
            )
        );
    }
}
