using System.Text.RegularExpressions;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>
/// A line of a written script: its number, counted from 1 over the lines that hold words, who says it if the script tells, and its text.
/// </summary>
public sealed record ScriptLine(int Number, string? Speaker, string Text)
{
    /// <summary>Its words without case and punctuation.</summary>
    public IReadOnlyList<string> Keys { get; } =
    [.. Text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(WordErrorRate.Plain).Where(k => k.Length > 0)];
}

/// <summary>Reads a written script: a line each, with <c>NAME:</c> before it or not; what stands in brackets is not said.</summary>
public static partial class ScriptText
{
    /// <summary>More lines than this are no script of one production.</summary>
    public const int MostLines = 5_000;

    /// <summary>More characters than this are no line that anybody says.</summary>
    public const int LongestLine = 5_000;

    /// <summary>The lines in order. Throws <see cref="FormatException"/> that names the line and the reason.</summary>
    public static IReadOnlyList<ScriptLine> Read(string text)
    {
        TextFiles.MustBeText(text);
        var lines = new List<ScriptLine>();
        var at = 0;
        foreach (var raw in text.ReplaceLineEndings("\n").Split('\n'))
        {
            at++;
            if (raw.Length > LongestLine)
            {
                throw new FormatException(
                    FormattableString.Invariant($"Line {at} has {raw.Length} characters; a line of a script has at most {LongestLine}.")
                );
            }
            var said = Brackets().Replace(raw, " ").Trim();
            var name = Speaker().Match(said);
            var line = new ScriptLine(
                lines.Count + 1,
                name.Success ? name.Groups[1].Value.Trim() : null,
                (name.Success ? said[name.Length..] : said).Trim()
            );
            if (line.Keys.Count == 0)
            {
                continue;
            }
            if (lines.Count == MostLines)
            {
                throw new FormatException(
                    FormattableString.Invariant($"The script has more than {MostLines} lines. Part it, and match the parts one by one.")
                );
            }
            lines.Add(line);
        }
        return lines.Count > 0 ? lines : throw new FormatException("The script has no line with words.");
    }

    [GeneratedRegex(@"\[[^\]]*\]|\([^)]*\)", RegexOptions.CultureInvariant)]
    private static partial Regex Brackets();

    [GeneratedRegex(@"^(\p{L}[\p{L}\p{M}\p{N} .'’_-]{0,39}?)\s*:\s+", RegexOptions.CultureInvariant)]
    private static partial Regex Speaker();
}
