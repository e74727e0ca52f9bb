using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using EmberLane.Core.Handoff;
using EmberLane.Core.Stories;

namespace EmberLane.Engines;

/// <summary>A story as a Word document: the paper edit, to read and to write in.</summary>
public static class StoryDocument
{
    /// <summary>
    /// Sections as headings; of each piece its record time, who, themes, reel and sitting, the words, and what people noted.
    /// </summary>
    public static byte[] Write(HandedStory story)
    {
        using var file = new MemoryStream();
        using (var document = WordprocessingDocument.Create(file, WordprocessingDocumentType.Document))
        {
            var body = new Body(
                Paragraph(Run(story.Title, size: 36, bold: true)),
                Paragraph(
                    Run(
                        FormattableString.Invariant(
                            $"{story.Production}, version {story.Version}, {story.Start.Count.Rate.TimeOf(story.Frames)}, "
                        ) + FormattableString.Invariant($"{story.Start.Count} frames a second from {story.Start}")
                    )
                )
            );
            foreach (var piece in story.Pieces)
            {
                body.Append(piece.Piece is SectionHead head ? [Paragraph(Run(head.Name, size: 28, bold: true))] : Piece(story, piece));
            }
            document.AddMainDocumentPart().Document = new Document(body);
        }
        return file.ToArray();
    }

    private static IEnumerable<Paragraph> Piece(HandedStory story, HandedPiece piece)
    {
        var about = new[]
        {
            piece.Theme,
            piece.Reel.Length > 0 ? $"{piece.Reel} {piece.SourceIn}" : "",
            piece.Sitting,
            story.Start.Count.Rate.TimeOf(piece.Frames).ToString(),
        };
        yield return Paragraph(
            Run($"{story.Start.Later(piece.First)}  "),
            Run(piece.Who, bold: true),
            Run($"  {string.Join(" · ", about.Where(a => a.Length > 0))}", colour: "7A6F63")
        );
        yield return Paragraph(Run(piece.Said));
        if (piece.Note.Length > 0)
        {
            yield return Paragraph(Run(piece.Note, italic: true));
        }
    }

    private static Paragraph Paragraph(params Run[] runs) => new(runs);

    private static Run Run(string text, int size = 22, bool bold = false, bool italic = false, string? colour = null)
    {
        // The order of these is the schema's.
        var looks = new RunProperties();
        if (bold)
        {
            looks.Append(new Bold());
        }
        if (italic)
        {
            looks.Append(new Italic());
        }
        if (colour is not null)
        {
            looks.Append(new Color { Val = colour });
        }
        looks.Append(new FontSize { Val = size.ToString(System.Globalization.CultureInfo.InvariantCulture) });
        return new Run(
            looks,
            new Text(string.Concat(text.Where(System.Xml.XmlConvert.IsXmlChar))) { Space = SpaceProcessingModeValues.Preserve }
        );
    }
}
