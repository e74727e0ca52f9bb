using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;
using EmberLane.Core.Import;

namespace EmberLane.Core.SetFlags;

/// <summary>
/// Flags as a table (CSV, RFC 4180; semicolons and tabs do as well), a header row that names the columns: <c>time</c>, and if it likes
/// <c>date</c>, <c>who</c> and <c>words</c>. Times are clock times or timecode.
/// </summary>
public static class SetFlagTable
{
    /// <summary>More flags than this nobody stamps.</summary>
    public const int Most = 20_000;

    private static readonly string[] TimeNames = ["time", "timecode", "at", "start", "in"],
        DayNames = ["date", "day"],
        WhoNames = ["who", "name", "person"],
        WordNames = ["words", "note", "comment", "text", "marker"];

    /// <summary>
    /// The flags of a table, in its order; <paramref name="day"/> holds where a row names none. Throws <see cref="FormatException"/> with
    /// the line and the reason.
    /// </summary>
    public static IReadOnlyList<SetFlag> Read(string text, DateOnly day)
    {
        TextFiles.MustBeText(text);
        var count = 0;
        var flags = CsvTable.Read(
            text,
            header => header.MustHave(TimeNames),
            row =>
            {
                if (row.Cell(TimeNames).Length == 0 && row.Cell(WordNames).Length == 0)
                {
                    return null;
                }
                return ++count > Most
                    ? throw new FormatException(FormattableString.Invariant($"Line {row.Line}: more than {Most} flags."))
                    : Flag(row, day);
            }
        );
        return flags.Count > 0 ? flags : throw new FormatException("The table has no row with a time.");
    }

    /// <summary>The same as a table; what a spreadsheet would run is kept from that.</summary>
    public static string Write(IEnumerable<SetFlag> flags)
    {
        var text = new StringWriter(CultureInfo.InvariantCulture);
        using (
            var writer = new CsvWriter(
                text,
                new CsvConfiguration(CultureInfo.InvariantCulture) { InjectionOptions = InjectionOptions.Escape, NewLine = "\r\n" }
            )
        )
        {
            Row("date", "time", "who", "words");
            foreach (var flag in flags)
            {
                Row(flag.Day.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture), ClockOf(flag.At), flag.Who, flag.Words);
            }

            void Row(params string[] cells)
            {
                foreach (var cell in cells)
                {
                    writer.WriteField(cell);
                }
                writer.NextRecord();
            }
        }
        return text.ToString();
    }

    /// <summary>A time of day with milliseconds: <c>14:03:07.250</c>.</summary>
    public static string ClockOf(MediaTime at)
    {
        var milliseconds = at.ToMillisecondsRounded();
        return FormattableString.Invariant(
            $"{milliseconds / 3_600_000:00}:{milliseconds / 60_000 % 60:00}:{milliseconds / 1000 % 60:00}.{milliseconds % 1000:000}"
        );
    }

    private static SetFlag Flag(CsvTable.Row row, DateOnly day)
    {
        var at =
            ClockText.Read(row.Cell(TimeNames))
            ?? throw new FormatException(FormattableString.Invariant($"Line {row.Line}: “{row.Cell(TimeNames)}” is not a time of day."));
        var written = row.Cell(DayNames);
        if (written.Length > 0 && !DateOnly.TryParseExact(written, "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out day))
        {
            throw new FormatException(
                FormattableString.Invariant($"Line {row.Line}: “{written}” is not a day, which is written as 2026-09-14.")
            );
        }
        try
        {
            return SetFlag.Of(null, day, at, row.Cell(WhoNames), row.Cell(WordNames));
        }
        catch (EditRefusedException odd)
        {
            throw new FormatException(FormattableString.Invariant($"Line {row.Line}: {odd.Message}"), odd);
        }
    }
}
