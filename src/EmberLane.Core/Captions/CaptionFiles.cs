using System.Globalization;
using System.Text;

namespace EmberLane.Core.Captions;

/// <summary>Captions as files; both forms are in docs/formats.md.</summary>
public static class CaptionFiles
{
    /// <summary>SubRip: CR LF, a comma before the milliseconds.</summary>
    public static string SubRip(IReadOnlyList<Caption> captions)
    {
        var text = new StringBuilder();
        foreach (var (i, caption) in captions.Index())
        {
            text.Append(CultureInfo.InvariantCulture, $"{i + 1}\r\n{Clock(caption.In, ',')} --> {Clock(caption.Out, ',')}\r\n");
            foreach (var line in caption.Lines)
            {
                // What would be taken for the times of a caption, or for markup.
                text.Append(line.Shown.Replace("-->", "→", StringComparison.Ordinal).Replace('<', '‹').Replace('>', '›')).Append("\r\n");
            }
            text.Append("\r\n");
        }
        return text.ToString();
    }

    /// <summary>WebVTT (W3C), who speaks as a voice span.</summary>
    public static string WebVtt(IReadOnlyList<Caption> captions)
    {
        var text = new StringBuilder("WEBVTT\n");
        foreach (var caption in captions)
        {
            text.Append(CultureInfo.InvariantCulture, $"\n{Clock(caption.In, '.')} --> {Clock(caption.Out, '.')}\n");
            string? who = null;
            foreach (var line in caption.Lines)
            {
                if (line.Who is { } speaker && speaker != who)
                {
                    text.Append("<v ").Append(Escaped(speaker)).Append('>');
                }
                who = line.Who;
                text.Append(Escaped(line.Shown)).Append('\n');
            }
        }
        return text.ToString();
    }

    private static string Clock(MediaTime at, char mark) => TranscriptText.Clock(new SittingTime(at), mark);

    private static string Escaped(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace(">", "&gt;", StringComparison.Ordinal);
}
