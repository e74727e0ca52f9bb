using System.Globalization;
using EmberLane.Core.Transcripts;
using Microsoft.AspNetCore.Html;

namespace EmberLane.Web.Rooms;

/// <summary>The pieces of a turn for the page. Written here and not in a page, where blanks between the pieces would become part of the text.</summary>
internal static class SpeechHtml
{
    private const string Pennant = "<svg viewBox=\"0 0 12 12\" aria-hidden=\"true\"><path d=\"M2 0v12M2 1h8L7.5 3.5 10 6H2\"/></svg>";

    public static IHtmlContent Of(IEnumerable<SpeechPiece> pieces)
    {
        var html = new HtmlContentBuilder();
        foreach (var piece in pieces)
        {
            switch (piece)
            {
                case SpeechPiece.Words words:
                    html.Append(words.Text);
                    break;
                case SpeechPiece.Pause pause:
                    html.AppendHtml($"<span class=\"pause {PauseLengths.Of(pause.Length)}\">").Append(pause.Length.ToPauseText()).AppendHtml("</span>");
                    break;
                case SpeechPiece.Flagged flagged:
                    html.AppendFormat(CultureInfo.InvariantCulture, "<button type=\"button\" class=\"flag\" data-action=\"flag-of\" data-word=\"{0}\" title=\"{1}\">{2}{3}</button>",
                        flagged.Word, flagged.Flag.Note, new HtmlString(Pennant), EditWords.Of(flagged.Flag.Kind));
                    break;
                case SpeechPiece.Aside aside:
                    html.AppendFormat(CultureInfo.InvariantCulture, "<button type=\"button\" class=\"fold\" data-action=\"unfold\" aria-expanded=\"false\">{0} {1} aside · {2}</button><span class=\"aside\">{3}</span>",
                        aside.Count, aside.Count == 1 ? "word" : "words", aside.Length, aside.Text);
                    break;
                default:
                    throw new InvalidOperationException($"There is no way to show {piece.GetType().Name}.");
            }
        }
        return html;
    }
}
