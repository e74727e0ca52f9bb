using System.Globalization;
using Microsoft.AspNetCore.Html;

namespace EmberLane.Web.Rooms;

/// <summary>How a person's mark is drawn: a shape, a letter and a hue.</summary>
public static class SpeakerShapes
{
    private static readonly string[] Shapes =
    [
        "<circle cx='10' cy='10' r='9.5'/>",
        "<rect x='1' y='1' width='18' height='18' rx='2'/>",
        "<path d='M10 .5 19.5 10 10 19.5 .5 10Z'/>",
        "<path d='M10 0 20 19H0Z'/>",
        "<path d='M5 1h10l5 9-5 9H5L0 10Z'/>",
        "<path d='M0 1h20L10 20Z'/>",
        "<path d='M10 0 20 8 16 20H4L0 8Z'/>",
    ];

    /// <summary>How many marks there are before hues come again with another letter.</summary>
    public static int Count => Shapes.Length;

    extension(SpeakerMark mark)
    {
        /// <summary>The class that gives the mark its hue.</summary>
        public string CssClass => mark.Number < 0 ? "person-unknown" : FormattableString.Invariant($"person-{mark.Number % Shapes.Length}");

        public IHtmlContent Svg() =>
            new HtmlString(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"<svg class=\"person-mark {mark.CssClass}\" viewBox=\"0 0 20 20\" aria-hidden=\"true\">"
                        + $"{(mark.Number < 0 ? Shapes[2] : Shapes[mark.Number % Shapes.Length])}"
                        + $"<text x=\"10\" y=\"{(mark.Number % Shapes.Length == 3 ? 16 : 14)}\">"
                        + $"{System.Net.WebUtility.HtmlEncode(mark.Letter)}</text></svg>"
                )
            );
    }
}
