using System.Globalization;
using EmberLane.Core.Bites;
using EmberLane.Core.Captions;

namespace EmberLane.Core.Handoff;

/// <summary>
/// A bite as it is taken out: of which sitting, where on its clock and by the timecode of its pictures (empty where there is none), who,
/// what, and what people said of it.
/// </summary>
public sealed record TakenBite(
    string Sitting,
    SittingRange Range,
    string TimecodeIn,
    string TimecodeOut,
    string Reel,
    string Who,
    string Said,
    Bite Bite
);

/// <summary>Bites as tables and chapters, for spreadsheets, players and editors.</summary>
public static class BiteLists
{
    /// <summary>
    /// CSV (RFC 4180) with a header row, a row for each bite. A cell that a spreadsheet would take for a formula gets an apostrophe before
    /// it.
    /// </summary>
    public static string Csv(IReadOnlyList<TakenBite> bites) =>
        CsvRows.Written(
            ["sitting", "in", "out", "timecode in", "timecode out", "reel", "who", "words", "themes", "grade", "kind", "note", "kept by"],
            bites.Select(b =>
                (string[])
                    [
                        b.Sitting,
                        TranscriptText.Clock(b.Range.In, '.'),
                        TranscriptText.Clock(b.Range.Out, '.'),
                        b.TimecodeIn,
                        b.TimecodeOut,
                        b.Reel,
                        b.Who,
                        b.Said,
                        b.Bite.Theme,
                        b.Bite.Grade == 0 ? "" : b.Bite.Grade.ToString(CultureInfo.InvariantCulture),
                        b.Bite.Kind,
                        b.Bite.Note,
                        b.Bite.Owner,
                    ]
            )
        );

    /// <summary>
    /// Markers as CSV, as editors take them: reel, timecode of the first frame, timecode behind the last, a name (themes, or who speaks)
    /// and a comment (the words). Bites whose pictures have no timecode are left out.
    /// </summary>
    public static string Markers(IReadOnlyList<TakenBite> bites) =>
        CsvRows.Written(
            ["reel", "in", "out", "name", "comment"],
            bites
                .Where(b => b.TimecodeIn.Length > 0)
                .Select(b => (string[])[b.Reel, b.TimecodeIn, b.TimecodeOut, b.Bite.Theme.Length > 0 ? b.Bite.Theme : b.Who, b.Said])
        );

    /// <summary>WebVTT chapters (W3C) of the bites of one sitting, on its clock: a cue for each, named by theme and speaker.</summary>
    public static string Chapters(IReadOnlyList<TakenBite> bites) =>
        "WEBVTT\n"
        + string.Concat(
            bites
                .OrderBy(b => b.Range.In)
                .Select(
                    (b, i) =>
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"\n{i + 1}\n{TranscriptText.Clock(b.Range.In, '.')} --> {TranscriptText.Clock(b.Range.Out, '.')}\n"
                        )
                        + Escaped(NameOf(b))
                        + "\n"
                )
        );

    /// <summary>As a document tells it before the words: who, themes, and the grade in dots.</summary>
    public static string NameOf(TakenBite bite) =>
        string.Join(
            " / ",
            new[] { bite.Who, bite.Bite.Theme, new string('●', bite.Bite.Grade) }.Where(p => p.Length > 0).DefaultIfEmpty(bite.Sitting)
        );

    internal static string Escaped(string text) =>
        text.Replace("&", "&amp;", StringComparison.Ordinal)
            .Replace("<", "&lt;", StringComparison.Ordinal)
            .Replace("-->", "→", StringComparison.Ordinal)
            .ReplaceLineEndings(" ");
}
