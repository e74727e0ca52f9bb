using System.Globalization;
using EmberLane.Core.Marks;
using EmberLane.Core.Transcripts;
using Microsoft.AspNetCore.Html;

namespace EmberLane.Web.Rooms;

/// <summary>
/// The pieces of a turn for the page. Written here and not in a page, where blanks between the pieces would become part of the text.
/// </summary>
internal static class SpeechHtml
{
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
                    html.AppendHtml($"<span class=\"pause {PauseLengths.Of(pause.Length)}\">")
                        .Append(pause.Length.ToPauseText())
                        .AppendHtml("</span>");
                    break;
                case SpeechPiece.Cut cut:
                    html.AppendHtml($"<button type=\"button\" class=\"cut\" data-action=\"cut-back\" data-mark=\"")
                        .Append(cut.Mark.ToString(CultureInfo.InvariantCulture))
                        .AppendHtml("\" title=\"Bring the pause back\">")
                        .Append(cut.Whole.ToPauseText() + (cut.Left > MediaTime.Zero ? " → " + cut.Left.ToPauseText() : " aside"))
                        .AppendHtml("</button>");
                    break;
                // A few words that say nothing are struck through where they stand: a fold would take more room than they do.
                case SpeechPiece.Aside aside when aside.Kind == MarkKind.Hesitation:
                    html.AppendHtml("<span class=\"aside slight\">").Append(aside.Text).AppendHtml("</span>");
                    break;
                case SpeechPiece.Flagged { Word: var word, Flag: var flag }:
                    html.AppendFormat(
                        CultureInfo.InvariantCulture,
                        "<button type=\"button\" class=\"flag\" data-action=\"flag-of\" data-word=\"{0}\" data-mark=\"{1}\" "
                            + "data-kind=\"{2}\" title=\"{3}\">{4}{5}</button>",
                        word,
                        flag.Id,
                        flag.Kind.Key,
                        flag.Note,
                        new HtmlString(MarkLooks.Of(flag.Kind).Glyph),
                        flag.Kind.Says
                    );
                    break;
                case SpeechPiece.Aside aside:
                    html.AppendFormat(
                        CultureInfo.InvariantCulture,
                        "<button type=\"button\" class=\"fold\" data-action=\"unfold\" aria-expanded=\"false\">{0} {1} {2} · "
                            + "{3}</button><span class=\"aside\">{4}</span>",
                        aside.Count,
                        aside.Count == 1 ? "word" : "words",
                        MarkLooks.Of(aside.Kind).Fold,
                        aside.Length,
                        aside.Text
                    );
                    break;
                default:
                    throw new InvalidOperationException($"There is no way to show {piece.GetType().Name}.");
            }
        }
        return html;
    }
}
