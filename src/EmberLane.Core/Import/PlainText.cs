using System.Text.RegularExpressions;

namespace EmberLane.Core.Import;

/// <summary>
/// Plain text with or without names and times, as people type it: <c>[00:01:05] MAREN: words</c>, <c>Maren Oakhurst 00:01:05</c> on a line
/// of its own before what is said, or just words. A line without a name goes on with the one before; text without any names has none. A
/// bare time before words is said, not the line's time, unless many lines begin so.
/// </summary>
internal static partial class PlainText
{
    /// <summary>Of so many lines at least one begins with a bare time where those are the lines' times.</summary>
    private const int BareInLines = 4;

    public static IReadOnlyList<TypedLine> Read(string text, CancellationToken cancel = default)
    {
        var lines = new List<TypedLine>();
        string? who = null;
        MediaTime? at = null;
        var raw = text.ReplaceLineEndings("\n").Split('\n');
        var bareAreTimes = raw.Count(r => Bare().IsMatch(r)) * BareInLines >= raw.Count(r => !string.IsNullOrWhiteSpace(r));
        for (var i = 0; i < raw.Length; i++)
        {
            cancel.ThrowIfCancellationRequested();
            var line = Core.TypedText.OneLine(raw[i]);
            if (
                (bareAreTimes || !Bare().IsMatch(line))
                && Head().Match(line) is { Success: true } head
                && (head.Groups["time"].Success || head.Groups["late"].Success)
                && ClockText.Read(head.Groups["time"].Success ? head.Groups["time"].Value : head.Groups["late"].Value) is { } time
            )
            {
                at = time;
                who = head.Groups["who"].Success ? head.Groups["who"].Value : who;
                line = head.Groups["said"].Value;
            }
            else if (Named().Match(line) is { Success: true } named)
            {
                (who, line) = (named.Groups["who"].Value, named.Groups["said"].Value);
            }
            if (line.Length > 0)
            {
                lines.Add(new TypedLine(i + 1, who, line, at, null));
                at = null;
            }
        }
        return lines;
    }

    // A name is one to five words that begin with a capital or a figure, none of which ends a sentence.
    private const string Name =
        @"(?<who>\p{Lu}[\p{L}\p{M}\p{Nd}'’.\-]*(?: (?!" + ClockText.Pattern + @")[\p{Lu}\p{Nd}(][\p{L}\p{M}\p{Nd}'’.\-)]*){0,4})";

    // A time, perhaps in brackets, before or behind the name.
    [GeneratedRegex(
        @"^(?:[\[(]?(?<time>"
            + ClockText.Pattern
            + @")[\])]?\s*[-–:]?\s*(?:"
            + Name
            + @"\s*:\s*|$)?(?<said>.*)|"
            + Name
            + @"\s*[,:]?\s*[\[(]?(?<late>"
            + ClockText.Pattern
            + @")[\])]?\s*:?\s*(?<said>.*))$",
        RegexOptions.ExplicitCapture
    )]
    private static partial Regex Head();

    // “10:30 we left”: no brackets, no dash, no name.
    [GeneratedRegex(@"^\s*" + ClockText.Pattern + @"\s+(?![-–])(?!" + Name + @"\s*:)\S", RegexOptions.ExplicitCapture)]
    private static partial Regex Bare();

    [GeneratedRegex("^" + Name + @"\s*:(?:\s+(?<said>.*)|(?<said>))$", RegexOptions.ExplicitCapture)]
    private static partial Regex Named();
}
