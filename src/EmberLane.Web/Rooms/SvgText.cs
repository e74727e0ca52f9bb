using System.Net;
using Microsoft.AspNetCore.Html;

namespace EmberLane.Web.Rooms;

/// <summary>An SVG text element, which Razor can not write because it keeps the tag's name for itself.</summary>
internal static class SvgText
{
    /// <summary>At the left edge, so far down.</summary>
    public static IHtmlContent At(string down, string text) =>
        new HtmlString(
            FormattableString.Invariant($"<text x=\"0\" y=\"{WebUtility.HtmlEncode(down)}\">{WebUtility.HtmlEncode(text)}</text>")
        );

    public static IHtmlContent At(string x, int y, string cssClass, string text) =>
        new HtmlString(
            FormattableString.Invariant(
                $"<text x=\"{WebUtility.HtmlEncode(x)}\" y=\"{y}\" class=\"{cssClass}\">{WebUtility.HtmlEncode(text)}</text>"
            )
        );
}
