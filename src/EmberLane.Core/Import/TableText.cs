namespace EmberLane.Core.Import;

/// <summary>A table of talk (<see cref="CsvTable"/>): a column of words, and if it likes of names and times.</summary>
internal static class TableText
{
    private static readonly string[] SaidNames = ["words", "text", "said", "transcript", "line", "caption"],
        WhoNames = ["name", "speaker", "voice", "who", "person"],
        InNames = ["start", "in", "time", "timecode", "from", "begin"],
        OutNames = ["end", "out", "to", "stop"];

    /// <summary>
    /// Throws <see cref="FormatException"/> with the line and the reason, <see cref="OperationCanceledException"/> between two rows.
    /// </summary>
    public static IReadOnlyList<TypedLine> Read(string text, CancellationToken cancel = default) =>
        CsvTable.Read(text, header => header.MustHave(SaidNames), Line, cancel);

    private static TypedLine? Line(CsvTable.Row row)
    {
        var said = row.Cell(SaidNames);
        return said.Length == 0
            ? null
            : new TypedLine(row.Line, row.Cell(WhoNames) is { Length: > 0 } who ? who : null, said, Time(InNames), Time(OutNames));

        MediaTime? Time(string[] names) =>
            row.Cell(names) is { Length: > 0 } cell
                ? ClockText.Read(cell)
                    ?? throw new FormatException(FormattableString.Invariant($"Line {row.Line}: “{cell}” is not a time."))
                : null;
    }
}
