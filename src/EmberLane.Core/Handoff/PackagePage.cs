using System.Globalization;
using System.Net;
using System.Text;
using EmberLane.Core.Captions;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>The page of a package: what is in it and what to mind, in one screen, without scripts.</summary>
public static class PackagePage
{
    private const string Style = """
        body { font: 15px/1.45 sans-serif; margin: 0; color: #2a2420; background: #f6f2ec; }
        main { max-width: 60rem; margin: 0 auto; padding: 1.5rem; }
        h1 { font-size: 1.5rem; margin: 0; } h2 { font-size: 1rem; margin: 1.5rem 0 .3rem; }
        .facts { margin: .2rem 0 0; } table { border-collapse: collapse; width: 100%; background: #fff; }
        th, td { text-align: left; padding: .3rem .6rem; border-bottom: 1px solid #e2d9cc; vertical-align: top; }
        .mono { font-family: monospace; white-space: nowrap; }
        .look { border-left: 4px solid #b4491f; padding: .3rem .6rem; background: #fff; }
        @media print { body { background: #fff; } }
        """;

    /// <summary>The page of a story and its files, this page not among them, with captions by these rules.</summary>
    public static string Write(HandedStory story, IReadOnlyList<PackageFile> files, CaptionRules rules)
    {
        var page = new StringBuilder("<!DOCTYPE html>\n<html lang=\"en\"><head><meta charset=\"utf-8\">");
        page.Append(CultureInfo.InvariantCulture, $"<title>{Html(story.Title)}</title>\n<style>{Style}</style></head>\n<body><main>\n");
        page.Append(CultureInfo.InvariantCulture, $"<h1>{Html(story.Title)}</h1>\n<p class=\"facts\">{Html(story.Production)}, version ");
        page.Append(CultureInfo.InvariantCulture, $"{story.Version} · {story.Start.Count.Rate.TimeOf(story.Frames)} · {Cards(story)} · ");
        page.Append(CultureInfo.InvariantCulture, $"<b>{Html(story.Start.Count.ToString())} frames a second</b>, from ");
        page.Append(CultureInfo.InvariantCulture, $"<span class=\"mono\">{story.Start}</span></p>\n");
        page.Append("<h2>Mind</h2>\n");
        var minded = story.Checks.Concat(HandoffChecks.Of(story, rules)).Where(c => !c.Fine).ToList();
        foreach (var check in minded)
        {
            page.Append(CultureInfo.InvariantCulture, $"<p class=\"look\"><b>{Html(check.Title)}.</b> {Html(check.Detail)}</p>\n");
        }
        if (minded.Count == 0)
        {
            page.Append("<p>Nothing was found that needs a look.</p>\n");
        }
        Table(page, "Files", ["file", "what it is"], files.Select(f => (string[])[f.Name, Says(f.Name)]));
        Table(
            page,
            "Sources",
            ["reel", "file", "timecode", "frames a second", "length"],
            story.Sources.Select(s =>
                (string[])[s.Reel, s.IsHere ? s.Name : s.Name + " (missing)", s.Timecode, s.Rate, s.Duration.ToString()]
            )
        );
        Table(
            page,
            "The story",
            ["record", "who", "what"],
            story.Pieces.Select(p =>
                (string[])
                    [
                        story.Start.Later(p.First).ToString(),
                        p.Who,
                        p.Piece is SectionHead head ? $"Section: {head.Name}" : p.Said + (p.Note.Length > 0 ? $" [{p.Note}]" : ""),
                    ]
            )
        );
        return page.Append("</main></body></html>\n").ToString();
    }

    private static void Table(StringBuilder page, string title, string[] header, IEnumerable<string[]> rows)
    {
        page.Append(CultureInfo.InvariantCulture, $"<h2>{title}</h2>\n<table><thead><tr>");
        page.AppendJoin("", header.Select(h => $"<th>{h}</th>")).Append("</tr></thead><tbody>\n");
        foreach (var row in rows)
        {
            page.Append("<tr>")
                .AppendJoin("", row.Select((c, i) => $"<td{(i == 0 ? " class=\"mono\"" : "")}>{Html(c)}</td>"))
                .Append("</tr>\n");
        }
        page.Append("</tbody></table>\n");
    }

    private static string Cards(HandedStory story) =>
        story.Pieces.Count(p => p.Piece is Card) is var cards && cards == 1
            ? "1 card"
            : cards.ToString(CultureInfo.InvariantCulture) + " cards";

    private static string Says(string name) =>
        name switch
        {
            _ when name.Contains("_over", StringComparison.Ordinal) && name.EndsWith(".edl", StringComparison.Ordinal) =>
                "Decision list of the pictures that lie over the cut",
            _ when name.Contains("_alternates", StringComparison.Ordinal) && name.EndsWith(".edl", StringComparison.Ordinal) =>
                "Decision list of alternates, each from where its card begins",
            _ when name.Contains("_angles", StringComparison.Ordinal) && name.EndsWith(".edl", StringComparison.Ordinal) =>
                "Decision list of an angle of each card",
            _ when name.EndsWith(".edl", StringComparison.Ordinal) =>
                "Decision list: picture and sound, from the camera and recorder files",
            _ when name.EndsWith(".otio", StringComparison.Ordinal) =>
                "Timeline; alternates and the angles that are not shown lie on tracks that are switched off",
            _ when name.EndsWith("_cuts.csv", StringComparison.Ordinal) => "Cut list, a row a piece",
            _ when name.EndsWith("_markers.csv", StringComparison.Ordinal) => "Markers on the record",
            _ when name.EndsWith(".srt", StringComparison.Ordinal) => "Captions, from the story's first frame",
            _ when name.EndsWith("_chapters.vtt", StringComparison.Ordinal) => "Section times, as cues",
            _ when name.EndsWith("_chapters.txt", StringComparison.Ordinal) => "Section times, as lines",
            _ when name.EndsWith(".vtt", StringComparison.Ordinal) => "Captions with who speaks",
            _ when name.EndsWith(".docx", StringComparison.Ordinal) => "Paper edit, to write in",
            _ when name.EndsWith(".txt", StringComparison.Ordinal) => "Paper edit, plain",
            _ when name.EndsWith("_translation.csv", StringComparison.Ordinal) => "For a translator: fill in the last column",
            _ => "",
        };

    private static string Html(string text) => WebUtility.HtmlEncode(text);
}
