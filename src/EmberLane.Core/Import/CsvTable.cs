using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace EmberLane.Core.Import;

/// <summary>
/// A table (CSV, RFC 4180; semicolons and tabs do as well) with a header row that names its columns, read row by row, whatever it holds.
/// </summary>
internal static class CsvTable
{
    /// <summary>More columns than this no table has; a cell of more letters is a quotation mark that was never closed.</summary>
    private const int MostColumns = 200,
        LongestCell = 1_000_000;

    /// <summary>
    /// What <paramref name="read"/> makes of each row, in order, without those of which it makes nothing; <paramref name="check"/> looks at
    /// the header first. Throws <see cref="FormatException"/> with the line and the reason, <see cref="OperationCanceledException"/>
    /// between two rows.
    /// </summary>
    public static IReadOnlyList<T> Read<T>(string text, Action<Row> check, Func<Row, T?> read, CancellationToken cancel = default)
        where T : class
    {
        RefuseWide(text);
        try
        {
            return Rows(text, check, read, cancel);
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

    /// <summary>A row: its line in the file, and its cells by the names that their column may have.</summary>
    internal sealed class Row(CsvReader reader, List<string> header)
    {
        /// <summary>The line that it ends on, from 1.</summary>
        public int Line => reader.Parser.RawRow;

        /// <summary>Whether the header has one of these names.</summary>
        public bool Has(string[] names) => Column(names) >= 0;

        /// <summary>The cell of the first of these names that the header has, in one line; empty where there is none.</summary>
        public string Cell(string[] names) =>
            Column(names) is >= 0 and var column ? Plain(TypedText.OneLine(reader.GetField(column) ?? "")) : "";

        /// <summary>Throws <see cref="FormatException"/> where the header has none of these names.</summary>
        public void MustHave(string[] names)
        {
            if (!Has(names))
            {
                throw new FormatException(
                    $"Line 1: no column is called {string.Join(", ", names[..^1])} or {names[^1]}. The header row names the columns."
                );
            }
        }

        private int Column(string[] names) => names.Select(n => header.IndexOf(n)).FirstOrDefault(i => i >= 0, -1);
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

    private static List<T> Rows<T>(string text, Action<Row> check, Func<Row, T?> read, CancellationToken cancel)
        where T : class
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
        List<string> header = [.. reader.HeaderRecord!.Select(h => h.Trim().ToLowerInvariant())];
        if (header.Count > MostColumns)
        {
            throw new FormatException(
                FormattableString.Invariant($"Line 1: the table has {header.Count} columns; at most {MostColumns} are read.")
            );
        }
        var row = new Row(reader, header);
        check(row);
        var made = new List<T>();
        var begins = reader.Parser.RawRow + 1;
        while (reader.Read())
        {
            cancel.ThrowIfCancellationRequested();
            if (row.Line > begins && reader.Parser.RawRecord.Count(c => c == '"') % 2 == 1)
            {
                throw new FormatException(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"Line {begins}: a quotation mark opens a cell here and is never closed, so that the rest of the table would be "
                            + $"one cell."
                    )
                );
            }
            begins = row.Line + 1;
            if (read(row) is { } one)
            {
                made.Add(one);
            }
        }
        return made;
    }

    /// <summary>A cell without the apostrophe that keeps a spreadsheet from running it.</summary>
    internal static string Plain(string cell) => cell is ['\'', '=' or '+' or '-' or '@', ..] ? cell[1..] : cell;
}
