using System.Globalization;
using System.Net;
using System.Text.RegularExpressions;
using EmberLane.Core.Import;

namespace EmberLane.Core.Captions;

/// <summary>
/// Reads SubRip captions: times with a comma or a point, line ends of any kind, formatting marks left out. <c>NAME: words</c> at a
/// caption's beginning names who says it.
/// </summary>
public static partial class SubRip
{
    /// <summary>
    /// The captions in the order of the file. Throws <see cref="FormatException"/> with the line's number and the reason.
    /// </summary>
    public static IReadOnlyList<TypedLine> Read(string text, CancellationToken cancel = default)
    {
        var lines = text.ReplaceLineEndings("\n").Split('\n');
        var captions = new List<TypedLine>();
        for (var i = 0; i < lines.Length; i++)
        {
            cancel.ThrowIfCancellationRequested();
            if (!lines[i].Contains("-->", StringComparison.Ordinal))
            {
                continue;
            }
            var times = lines[i].Split("-->");
            var end = times[^1].Trim().Split(' ')[0];
            if (times.Length != 2 || ClockText.Read(times[0]) is not { } from || ClockText.Read(end) is not { } to)
            {
                throw Bad(i, "the times of a caption are written 00:00:01,000 --> 00:00:02,000");
            }
            if (to < from)
            {
                throw Bad(i, "the caption ends before it begins");
            }
            var said = new List<string>();
            var number = i + 1;
            while (
                i + 1 < lines.Length && !string.IsNullOrWhiteSpace(lines[i + 1]) && !lines[i + 1].Contains("-->", StringComparison.Ordinal)
            )
            {
                said.Add(lines[++i]);
            }
            captions.Add(Caption(number, string.Join(' ', said), from, to));
        }
        return captions.Count == 0
            ? throw new FormatException("Line 1: there are no captions in this file; each has a line 00:00:01,000 --> 00:00:02,000.")
            : captions;
    }

    private static TypedLine Caption(int number, string said, MediaTime from, MediaTime to)
    {
        var plain = Core.TypedText.OneLine(WebUtility.HtmlDecode(Mark().Replace(said, "")));
        return PlainText.Read(plain) is [{ Who: { } who } named]
            ? new TypedLine(number, who, named.Said, from, to)
            : new TypedLine(number, null, plain, from, to);
    }

    private static FormatException Bad(int line, string reason) =>
        new(string.Create(CultureInfo.InvariantCulture, $"Line {line + 1}: {reason}."));

    [GeneratedRegex(@"(?i)</?(?:b|i|u|s|font)(?: [^<>]*)?>|\{\\[^{}]*\}")]
    private static partial Regex Mark();
}
