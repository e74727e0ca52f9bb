using EmberLane.Core.Import;

namespace EmberLane.Core.Captions;

/// <summary>A row of a translator's table: its line, when its caption stood, what was said, and that in another language.</summary>
public sealed record TranslatedRow(int Line, MediaTime? In, string Text, string Translation);

/// <summary>What a translator's table makes of captions.</summary>
/// <param name="Found">The captions that it translates, each with its row.</param>
/// <param name="Unfound">The rows whose caption is not there any more.</param>
/// <param name="Empty">The rows that are not translated.</param>
public sealed record TranslationFit(
    IReadOnlyList<(LaidCaption Caption, TranslatedRow Row)> Found,
    IReadOnlyList<TranslatedRow> Unfound,
    IReadOnlyList<TranslatedRow> Empty
);

/// <summary>Reads a translator's table that comes back.</summary>
public static class TranslationTable
{
    /// <summary>It has at most so many rows.</summary>
    public const int Most = 20_000;

    private static readonly string[] InNames = ["in", "start", "from"],
        SaidNames = ["text", "words", "original"],
        TranslatedNames = ["translation", "translated", "target"];

    /// <summary>
    /// The rows in order. Throws <see cref="FormatException"/> with the line and the reason, also where no column has translations.
    /// </summary>
    public static IReadOnlyList<TranslatedRow> Read(string text, CancellationToken cancel = default)
    {
        var rows = CsvTable.Read(
            text.TrimStart('\uFEFF'),
            header =>
            {
                header.MustHave(SaidNames);
                header.MustHave(TranslatedNames);
            },
            row =>
                new TranslatedRow(row.Line, ClockText.Read(row.Cell(InNames)), row.Cell(SaidNames), row.Cell(TranslatedNames)) is { } read
                && (read.Text.Length > 0 || read.Translation.Length > 0)
                    ? read
                    : null,
            cancel
        );
        return rows.Count > Most
            ? throw new FormatException(FormattableString.Invariant($"A table has at most {Most} rows; this one has {rows.Count}."))
            : rows;
    }

    /// <summary>
    /// Finds the captions that rows are of: the same text, of several the one nearest in time, each for one row.
    /// </summary>
    public static TranslationFit Fit(IReadOnlyList<TranslatedRow> rows, IReadOnlyList<LaidCaption> captions)
    {
        var byText = captions.GroupBy(TextOf).ToDictionary(g => g.Key, g => g.ToList());
        var (found, unfound) = (new List<(LaidCaption, TranslatedRow)>(), new List<TranslatedRow>());
        foreach (var row in rows.Where(r => r.Translation.Length > 0))
        {
            if (byText.GetValueOrDefault(TypedText.OneLine(row.Text)) is { Count: > 0 } same)
            {
                var nearest = same.MinBy(c => Math.Abs((c.Caption.In - (row.In ?? c.Caption.In)).Units))!;
                same.Remove(nearest);
                found.Add((nearest, row));
            }
            else
            {
                unfound.Add(row);
            }
        }
        return new TranslationFit(found, unfound, [.. rows.Where(r => r.Translation.Length == 0)]);

        static string TextOf(LaidCaption caption) =>
            CsvTable.Plain(TypedText.OneLine(string.Join(' ', caption.Caption.Lines.Select(l => l.Shown))));
    }

    /// <summary>What was found, as captions of the other language that stand when those of the spoken one do.</summary>
    public static IReadOnlyList<FixedCaption> Translated(TranslationFit fit) =>
        [
            .. fit.Found.Select(f => new FixedCaption(
                CaptionPlace.Of(f.Caption.Words),
                f.Caption.Said,
                f.Row.Translation.Length > CaptionFixes.LongestText ? f.Row.Translation[..CaptionFixes.LongestText] : f.Row.Translation,
                f.Caption.Fixed?.In,
                f.Caption.Fixed?.Out
            )),
        ];
}
