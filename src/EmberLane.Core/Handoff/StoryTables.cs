using System.Globalization;
using System.Text;
using EmberLane.Core.Captions;
using EmberLane.Core.Stories;

namespace EmberLane.Core.Handoff;

/// <summary>A story as tables, chapters and text.</summary>
public static class StoryTables
{
    /// <summary>The cut list: a row for each piece, with its record times, its reel and what is said.</summary>
    public static string Cuts(HandedStory story) =>
        CsvRows.Written(
            ["number", "section", "record in", "record out", "frames", "reel", "source in", "who", "themes", "sitting", "words", "note"],
            Sections(story)
                .Where(p => p.Piece.Piece is not SectionHead)
                .Select(
                    (p, i) =>
                        (string[])
                            [
                                (i + 1).ToString(CultureInfo.InvariantCulture),
                                p.Section,
                                story.Start.Later(p.Piece.First).ToString(),
                                story.Start.Later(p.Piece.First + p.Piece.Frames).ToString(),
                                p.Piece.Frames.ToString(CultureInfo.InvariantCulture),
                                p.Piece.Reel,
                                p.Piece.SourceIn,
                                p.Piece.Who,
                                p.Piece.Theme,
                                p.Piece.Sitting,
                                p.Piece.Said,
                                p.Piece.Note,
                            ]
                )
        );

    /// <summary>Markers on the record: sections, and what people noted.</summary>
    public static string Markers(HandedStory story) =>
        CsvRows.Written(
            ["record in", "record out", "name", "comment"],
            story
                .Pieces.Where(p => p.Piece is SectionHead || p.Note.Length > 0)
                .Select(p =>
                    (string[])
                        [
                            story.Start.Later(p.First).ToString(),
                            story.Start.Later(p.First + p.Frames).ToString(),
                            p.Piece is SectionHead head ? head.Name : p.Who,
                            p.Note,
                        ]
                )
        );

    /// <summary>Section times as lines, from the story's first frame: <c>0:00 Name</c>. The first is at 0:00.</summary>
    public static string ChapterLines(HandedStory story) => string.Concat(Chapters(story).Select(c => $"{Clock(c.Seconds)} {c.Name}\n"));

    /// <summary>Section times as WebVTT chapters (W3C).</summary>
    public static string ChapterCues(HandedStory story)
    {
        var chapters = Chapters(story);
        var text = new StringBuilder("WEBVTT\n");
        var end = story.Start.Count.Rate.TimeOf(story.Frames);
        foreach (var (i, chapter) in chapters.Index())
        {
            var until = i + 1 < chapters.Count ? chapters[i + 1].At : end;
            text.Append(
                CultureInfo.InvariantCulture,
                $"\n{TranscriptText.Clock(new SittingTime(chapter.At), '.')} --> {TranscriptText.Clock(new SittingTime(until), '.')}\n"
            );
            text.Append(BiteLists.Escaped(chapter.Name)).Append('\n');
        }
        return text.ToString();
    }

    /// <summary>
    /// A table for a translator, a row a caption: its number, when it stands, who speaks, what is said, and a column to fill in, which
    /// holds what is translated already where a language is named.
    /// </summary>
    public static string Translation(HandedStory story, CaptionRules rules, string? language)
    {
        var known = (language is null ? [] : story.Track(rules, language))
            .Where(c => c is { Name: not null, IsStale: false })
            .GroupBy(c => c.Said)
            .ToDictionary(g => g.Key, g => g.ToList());
        return CsvRows.Written(
            ["number", "in", "out", "who", "text", "translation"],
            story
                .Track(rules)
                .Select(
                    (c, i) =>
                        (string[])
                            [
                                (i + 1).ToString(CultureInfo.InvariantCulture),
                                TranscriptText.Clock(new SittingTime(c.Caption.In), '.'),
                                TranscriptText.Clock(new SittingTime(c.Caption.Out), '.'),
                                string.Join(", ", c.Caption.Lines.Select(l => l.Who).OfType<string>().Distinct()),
                                OneLine(c),
                                known.GetValueOrDefault(c.Said)?.MinBy(k => Math.Abs((k.Caption.In - c.Caption.In).Units)) is { } done
                                    ? OneLine(done)
                                    : "",
                            ]
                )
        );

        static string OneLine(LaidCaption caption) => string.Join(' ', caption.Caption.Lines.Select(l => l.Shown));
    }

    /// <summary>The story as a text to read.</summary>
    public static string Paper(HandedStory story) =>
        PaperEdit.Write(
            story.Title,
            story.Start,
            [.. story.Pieces.Select(p => new PaperLine(p.Piece, p.Frames, p.Who, p.Theme, p.Said, p.Sitting))]
        );

    private static string Clock(long seconds)
    {
        var (minutes, rest) = (seconds / 60, seconds % 60);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{(minutes >= 60 ? $"{minutes / 60}:{minutes % 60:00}" : $"{minutes}")}:{rest:00}"
        );
    }

    private static List<(MediaTime At, long Seconds, string Name)> Chapters(HandedStory story)
    {
        var rate = story.Start.Count.Rate;
        var heads = story.Pieces.Where(p => p.Piece is SectionHead && p.First < story.Frames).ToList();
        var chapters = heads.DistinctBy(h => h.First).Select(h => Chapter(h.First, ((SectionHead)h.Piece).Name)).ToList();
        if (chapters.Count == 0 || heads[0].First > 0)
        {
            chapters.Insert(0, Chapter(0, story.Title));
        }
        return chapters;

        (MediaTime, long, string) Chapter(long first, string name) =>
            (rate.TimeOf(first), rate.TimeOf(first).ToMillisecondsRounded() / 1000, TypedText.OneLine(name));
    }

    private static IEnumerable<(HandedPiece Piece, string Section)> Sections(HandedStory story)
    {
        var section = "";
        foreach (var piece in story.Pieces)
        {
            section = piece.Piece is SectionHead head ? head.Name : section;
            yield return (piece, section);
        }
    }
}
