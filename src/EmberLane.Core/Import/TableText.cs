using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace EmberLane.Core.Import;

/// <summary>
/// A table (CSV, RFC 4180; semicolons and tabs do as well) with a header row that names its columns: one of words, and if it likes of names
/// and times.
/// </summary>
internal static class TableText
{
    private static readonly string[] SaidNames = ["words", "text", "said", "transcript", "line", "caption"],
        WhoNames = ["name", "speaker", "voice", "who", "person"],
        InNames = ["start", "in", "time", "timecode", "from", "begin"],
        OutNames = ["end", "out", "to", "stop"];

    /// <summary>More columns than this no table of talk has; a cell of more letters is a quotation mark that was never closed.</summary>
    private const int MostColumns = 200,
        LongestCell = 1_000_000;

    /// <summary>
    /// Throws <see cref="FormatException"/> with the line and the reason, <see cref="OperationCanceledException"/> between two rows.
    /// </summary>
    public static IReadOnlyList<TypedLine> Read(string text, CancellationToken cancel = default)
    {
        RefuseWide(text);
        try
        {
            return Rows(text, cancel);
        }
        catch (MaxFieldSizeException)
        {
            throw new FormatException(
                FormattableString.Invariant(
                    $"A cell of the table has more than {LongestCell} letters. Probably a quotation mark opens a cell and is never closed."
                )
            );
        }
    }

    // Before the library cuts a row into cells: millions of them would take the memory of the machine.
    private static void RefuseWide(string text)
    {
        int line = 1,
            cells = 1;
        foreach (var c in text)
        {
            (line, cells) = c switch
            {
                '\n' => (line + 1, 1),
                ',' or ';' or '\t' => (line, cells + 1),
                _ => (line, cells),
            };
            // Commas and semicolons within the words of one long cell are no columns; so many are.
            if (cells > MostColumns * 50)
            {
                throw new FormatException(
                    FormattableString.Invariant($"Line {line}: the table has thousands of columns here; at most {MostColumns} are read.")
                );
            }
        }
    }

    private static List<TypedLine> Rows(string text, CancellationToken cancel)
    {
        using var reader = new CsvReader(
            new StringReader(text),
            new CsvConfiguration(CultureInfo.InvariantCulture)
            {
                DetectDelimiter = true,
                DetectDelimiterValues = [",", ";", "\t"],
                BadDataFound = null,
                MissingFieldFound = null,
                MaxFieldSize = LongestCell,
            }
        );
        if (!reader.Read() || !reader.ReadHeader())
        {
            throw new FormatException("Line 1: the table is empty.");
        }
        var header = reader.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant()).ToList();
        if (header.Count > MostColumns)
        {
            throw new FormatException(
                FormattableString.Invariant($"Line 1: the table has {header.Count} columns; at most {MostColumns} are read.")
            );
        }
        int said = Column(header, SaidNames),
            who = Column(header, WhoNames),
            from = Column(header, InNames),
            to = Column(header, OutNames);
        if (said < 0)
        {
            throw new FormatException(
                $"Line 1: no column is called {string.Join(", ", SaidNames[..^1])} or {SaidNames[^1]}. The header row names the columns."
            );
        }
        var lines = new List<TypedLine>();
        var begins = reader.Parser.RawRow + 1;
        while (reader.Read())
        {
            cancel.ThrowIfCancellationRequested();
            var row = reader.Parser.RawRow;
            if (row > begins && reader.Parser.RawRecord.Count(c => c == '"') % 2 == 1)
            {
                throw new FormatException(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"Line {begins}: a quotation mark opens a cell here and is never closed, so that the rest of the table would be "
                            + $"one cell."
                    )
                );
            }
            begins = row + 1;
            string Cell(int column) => column < 0 ? "" : Plain(Core.TypedText.OneLine(reader.GetField(column) ?? ""));
            MediaTime? Time(int column) =>
                Cell(column).Length == 0
                    ? null
                    : ClockText.Read(Cell(column))
                        ?? throw new FormatException(FormattableString.Invariant($"Line {row}: “{Cell(column)}” is not a time."));
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
