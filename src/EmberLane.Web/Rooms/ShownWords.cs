using System.Globalization;
using System.Text;
using EmberLane.Core.Shown;
using Microsoft.AspNetCore.Html;

namespace EmberLane.Web.Rooms;

/// <summary>
/// The words of a line of a shown page. Written here and not in a page, where blanks between the words would become part of the text.
/// </summary>
public static class ShownWords
{
    /// <summary>
    /// Four whole numbers for each word, with commas between: its first and last number in the text of its sitting, and the milliseconds
    /// from when to when it is heard; −1 for what it has not.
    /// </summary>
    public static string Data(ShownLine line)
    {
        var data = new StringBuilder();
        foreach (var word in line.Words)
        {
            data.Append(
                CultureInfo.InvariantCulture,
                $"{(data.Length > 0 ? "," : "")}{word.Place?.First.Value ?? -1},{word.Place?.Last.Value ?? -1},"
                    + $"{word.Heard?.In.ToMillisecondsRounded() ?? -1},{word.Heard?.Out.ToMillisecondsRounded() ?? -1}"
            );
        }
        return data.ToString();
    }

    /// <summary>The words, each in an element of its own.</summary>
    public static IHtmlContent Html(ShownLine line)
    {
        var html = new HtmlContentBuilder();
        foreach (var (i, word) in line.Words.Index())
        {
            html.AppendHtml(i > 0 ? " <span>" : "<span>").Append(word.Text).AppendHtml("</span>");
        }
        return html;
    }
}
