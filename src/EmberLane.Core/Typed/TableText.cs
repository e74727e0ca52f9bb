using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace EmberLane.Core.Typed;

/// <summary>A table (CSV, RFC 4180; semicolons and tabs do as well) with a header row that names its columns: one of words, and if it likes of names and times.</summary>
internal static class TableText
{
    private static readonly string[] SaidNames = ["words", "text", "said", "transcript", "line", "caption"], WhoNames = ["name", "speaker", "voice", "who", "person"],
        InNames = ["start", "in", "time", "timecode", "from", "begin"], OutNames = ["end", "out", "to", "stop"];

    public static IReadOnlyList<TypedLine> Read(string text)
    {
        using var reader = new CsvReader(new StringReader(text), new CsvConfiguration(CultureInfo.InvariantCulture) { DetectDelimiter = true, DetectDelimiterValues = [",", ";", "\t"], BadDataFound = null, MissingFieldFound = null });
        if (!reader.Read() || !reader.ReadHeader())
        {
            throw new FormatException("Line 1: the table is empty.");
        }
        var header = reader.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        int said = Column(header, SaidNames), who = Column(header, WhoNames), from = Column(header, InNames), to = Column(header, OutNames);
        if (said < 0)
        {
            throw new FormatException($"Line 1: no column is called {string.Join(", ", SaidNames[..^1])} or {SaidNames[^1]}. The header row names the columns.");
        }
        var lines = new List<TypedLine>();
        var begins = reader.Parser.RawRow + 1;
        while (reader.Read())
        {
            var row = reader.Parser.RawRow;
            if (row > begins && reader.Parser.RawRecord.Count(c => c == '"') % 2 == 1)
            {
                throw new FormatException(FormattableString.Invariant($"Line {begins}: a quotation mark opens a cell here and is never closed, so that the rest of the table would be one cell."));
            }
            begins = row + 1;
            string Cell(int column) => column < 0 ? "" : Plain(Core.TypedText.OneLine(reader.GetField(column) ?? ""));
            MediaTime? Time(int column) => Cell(column).Length == 0 ? null : ClockText.Read(Cell(column)) ?? throw new FormatException(FormattableString.Invariant($"Line {row}: “{Cell(column)}” is not a time."));
            if (Cell(said).Length > 0)
            {
                lines.Add(new TypedLine(row, Cell(who).Length > 0 ? Cell(who) : null, Cell(said), Time(from), Time(to)));
            }
        }
        return lines;
    }

    // The apostrophe that keeps a spreadsheet from running a cell.
    private static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;

    private static int Column(List<string> header, string[] names) => names.Select(n => header.IndexOf(n)).FirstOrDefault(i => i >= 0, -1);
}
