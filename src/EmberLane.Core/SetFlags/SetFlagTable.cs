using System.Globalization;
using System.Text;
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
        using var reader = new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                DetectDelimiter = true,
                DetectDelimiterValues = [",", ";", "\t"],
                BadDataFound = null,
                MissingFieldFound = null,
                MaxFieldSize = 10_000,
            }
        );
        try
        {
            return Rows(reader, day);
        }
        catch (MaxFieldSizeException)
        {
            throw new FormatException(
                "A cell of the table has more than 10,000 letters. Probably a quotation mark opens a cell and is never closed."
            );
        }
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

    private static List<SetFlag> Rows(CsvReader reader, DateOnly day)
    {
        if (!reader.Read() || !reader.ReadHeader())
        {
            throw new FormatException("Line 1: the table is empty.");
        }
        var header = reader.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        int time = Column(TimeNames),
            days = Column(DayNames),
            who = Column(WhoNames),
            words = Column(WordNames);
        if (time < 0)
        {
            throw new FormatException($"Line 1: no column is called {string.Join(", ", TimeNames[..^1])} or {TimeNames[^1]}.");
        }
        var flags = new List<SetFlag>();
        while (reader.Read())
        {
            var row = reader.Parser.RawRow;
            if (Cell(time).Length == 0 && Cell(words).Length == 0)
            {
                continue;
            }
            if (flags.Count == Most)
            {
                throw new FormatException(FormattableString.Invariant($"Line {row}: more than {Most} flags."));
            }
            var at =
                ClockText.Read(Cell(time))
                ?? throw new FormatException(FormattableString.Invariant($"Line {row}: “{Cell(time)}” is not a time of day."));
            var on = day;
            if (Cell(days).Length > 0 && !DateOnly.TryParseExact(Cell(days), "yyyy-MM-dd", CultureInfo.InvariantCulture, default, out on))
            {
                throw new FormatException(
                    FormattableString.Invariant($"Line {row}: “{Cell(days)}” is not a day, which is written as 2026-09-14.")
                );
            }
            try
            {
                flags.Add(SetFlag.Of(null, on, at, Cell(who), Cell(words)));
            }
            catch (EditRefusedException odd)
            {
                throw new FormatException(FormattableString.Invariant($"Line {row}: {odd.Message}"), odd);
            }
        }
        return flags.Count > 0 ? flags : throw new FormatException("The table has no row with a time.");

        int Column(string[] names) => names.Select(n => header.IndexOf(n)).FirstOrDefault(i => i >= 0, -1);

        string Cell(int column) => column < 0 ? "" : Plain(TypedText.OneLine(reader.GetField(column) ?? ""));
    }

    // The apostrophe that keeps a spreadsheet from running a cell.
    private static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;
}
