using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace EmberLane.Core.Handoff;

/// <summary>Tables as CSV (RFC 4180).</summary>
public static class CsvRows
{
    private static readonly CsvConfiguration Table = new(CultureInfo.InvariantCulture)
    {
        NewLine = "\r\n",
        InjectionOptions = InjectionOptions.Escape,
    };

    /// <summary>A header row and the rows. A cell that a spreadsheet would take for a formula gets an apostrophe before it.</summary>
    public static string Written(string[] header, IEnumerable<string[]> rows)
    {
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using (var csv = new CsvWriter(text, Table))
        {
            foreach (var row in rows.Prepend(header))
            {
                foreach (var cell in row)
                {
                    csv.WriteField(cell);
                }
                csv.NextRecord();
            }
        }
        return text.ToString();
    }
}
