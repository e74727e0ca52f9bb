using System.Text.RegularExpressions;

namespace EmberLane.Core.Import;

/// <summary>
/// A line of a paper edit: which sitting or reel, from when to when as it was written, a note and themes. Any may be empty.
/// </summary>
public sealed record PaperRange(int Line, string Where, string In, string Out, string Note, string Theme);

/// <summary>Words that somebody marked in a document: the line, the time that stands before them if one does, and the words.</summary>
public sealed record MarkedWords(int Line, MediaTime? At, string Words);

/// <summary>
/// Reads lists of ranges: a table with a header row (CSV, semicolons and tabs as well), or lines that hold two times, with what they are of
/// before the times and a note behind them.
/// </summary>
public static partial class PaperRanges
{
    /// <summary>A paper edit has at most so many lines.</summary>
    public const int Most = 5_000;

    private static readonly string[] WhereNames = ["sitting", "reel", "tape", "clip", "source", "file", "title"],
        InNames = ["in", "start", "from", "begin", "timecode in", "tc in", "time in"],
        OutNames = ["out", "end", "to", "stop", "timecode out", "tc out", "time out"],
        NoteNames = ["note", "notes", "comment", "comments", "remark", "description", "words", "text"],
        ThemeNames = ["theme", "themes", "subject"];

    /// <summary>
    /// The ranges, in order; lines without two times are passed over where no table is read. Throws <see cref="FormatException"/> with the
    /// line and the reason.
    /// </summary>
    public static IReadOnlyList<PaperRange> Read(string text, CancellationToken cancel = default)
    {
        var lines = text.TrimStart('\uFEFF').ReplaceLineEndings("\n").Split('\n');
        var ranges = IsTable(lines.FirstOrDefault(l => l.Trim().Length > 0) ?? "") ? Table(text, cancel) : Lines(lines);
        return ranges.Count > Most
            ? throw new FormatException(FormattableString.Invariant($"A paper edit has at most {Most} lines; this one has {ranges.Count}."))
            : ranges;
    }

    /// <summary>Whether a header row names a begin and an end.</summary>
    private static bool IsTable(string header)
    {
        var names = header.Split(',', ';', '\t').Select(c => c.Trim(' ', '"').ToLowerInvariant()).ToList();
        return names.Intersect(InNames).Any() && names.Intersect(OutNames).Any();
    }

    private static IReadOnlyList<PaperRange> Table(string text, CancellationToken cancel) =>
        CsvTable.Read(
            text,
            header =>
            {
                header.MustHave(InNames);
                header.MustHave(OutNames);
            },
            row =>
            {
                // A table of ours has both the sitting's time and the timecode; the timecode tells more.
                var range = new PaperRange(
                    row.Line,
                    row.Cell(WhereNames),
                    Timed(row, InNames),
                    Timed(row, OutNames),
                    row.Cell(NoteNames),
                    row.Cell(ThemeNames)
                );
                return range is { In: "", Out: "", Where: "" } ? null : range;
            },
            cancel
        );

    private static string Timed(CsvTable.Row row, string[] names) =>
        names.Select(n => row.Cell([n])).Where(c => c.Length > 0).MaxBy(c => c.Count(l => l is ':' or ';')) ?? "";

    private static List<PaperRange> Lines(string[] lines)
    {
        var ranges = new List<PaperRange>();
        foreach (var (i, line) in lines.Index())
        {
            if (Range().Match(line.Length > 2_000 ? line[..2_000] : line) is { Success: true } found)
            {
                ranges.Add(
                    new PaperRange(
                        i + 1,
                        Plain(line[..found.Index]),
                        found.Groups[1].Value,
                        found.Groups[2].Value,
                        Plain(line[(found.Index + found.Length)..]),
                        ""
                    )
                );
            }
        }
        return ranges;
    }

    private static string Plain(string text) =>
        TypedText.OneLine(text).Trim(' ', ',', ';', ':', '-', '–', '—', '|', '(', ')', '[', ']', '"');

    private const string Time = @"(\d{1,3}:\d{2}(?::\d{2})?(?:[.,]\d{1,6}|[:;]\d{2})?)";

    [GeneratedRegex(Time + @"[\s,;|\-–—→>\])to]{1,12}?\[?\(?" + Time)]
    private static partial Regex Range();
}
