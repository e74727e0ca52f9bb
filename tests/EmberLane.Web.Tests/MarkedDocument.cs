using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace EmberLane.Web.Tests;

/// <summary>A Word document under a title, a paragraph for each of some words, which are highlighted.</summary>
internal static class MarkedDocument
{
    public static byte[] Of(string title, params string[] marked)
    {
        using var file = new MemoryStream();
        using (var document = WordprocessingDocument.Create(file, WordprocessingDocumentType.Document))
        {
            document.AddMainDocumentPart().Document = new Document(
                new Body([
                    new Paragraph(new Run(new Text(title))),
                    .. marked.Select(words => new Paragraph(
                        new Run(new Text("[00:00:03] Somebody: before ") { Space = SpaceProcessingModeValues.Preserve }),
                        new Run(
                            new RunProperties(new Highlight { Val = HighlightColorValues.Yellow }),
                            new Text(words) { Space = SpaceProcessingModeValues.Preserve }
                        ),
                        new Run(new Text(" behind") { Space = SpaceProcessingModeValues.Preserve })
                    )),
                ])
            );
        }
        return file.ToArray();
    }
}
