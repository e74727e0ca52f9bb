using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;

namespace EmberLane.Web.Tests;

/// <summary>A Word document under a title, a paragraph for each of some words, which are highlighted one by one.</summary>
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
                    .. marked.Select(words => new Paragraph([
                        Plain("[00:00:03] Somebody: before "),
                        .. words.Split(' ').SelectMany((word, i) => (Run[])[.. i == 0 ? Array.Empty<Run>() : [Plain(" ")], Marked(word)]),
                        Plain(" behind"),
                    ])),
                ])
            );
        }
        return file.ToArray();
    }

    private static Run Plain(string text) => new(new Text(text) { Space = SpaceProcessingModeValues.Preserve });

    private static Run Marked(string word) => new(new RunProperties(new Highlight { Val = HighlightColorValues.Yellow }), new Text(word));
}
