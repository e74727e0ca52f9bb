using System.Globalization;
using System.IO.Compression;
using DocumentFormat.OpenXml;
using DocumentFormat.OpenXml.Packaging;
using DocumentFormat.OpenXml.Wordprocessing;
using EmberLane.Core.Captions;
using EmberLane.Core.Import;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>Word documents (.docx), in and out.</summary>
public static class WordDocument
{
    private const long MostCharacters = 20_000_000,
        MostUnpacked = 400L << 20;

    private const int MostParts = 5_000;

    private static readonly string[] HeaderWords =
    [
        "time",
        "timecode",
        "start",
        "end",
        "speaker",
        "name",
        "voice",
        "who",
        "text",
        "words",
        "transcript",
    ];

    /// <summary>
    /// The text as lines: a paragraph each, and a row of a table each, its time first, then its name and a colon. Pictures, notes and
    /// comments are passed over. Throws <see cref="FormatException"/> for what is no Word document or is nested too deeply to be one. The
    /// stream can be read twice.
    /// </summary>
    public static string ReadText(Stream file, CancellationToken cancel = default) =>
        Read(file, body => string.Join('\n', body.ChildElements.SelectMany(Lines)), cancel);

    /// <summary>
    /// The rows of its tables as CSV, the cells as they stand; where it has none its paragraphs as lines. Throws as <see cref="ReadText"/>.
    /// </summary>
    public static string ReadRows(Stream file, CancellationToken cancel = default) =>
        Read(
            file,
            body =>
                string.Join(
                    '\n',
                    body.Descendants<TableRow>().Any() ? body.Descendants<TableRow>().Select(Cells) : body.ChildElements.SelectMany(Lines)
                ),
            cancel
        );

    /// <summary>
    /// Its first paragraph, and what is highlighted or shaded in all of them: each run of marked words with the time that its paragraph
    /// begins with. Throws as <see cref="ReadText"/>.
    /// </summary>
    public static (string Title, IReadOnlyList<MarkedWords> Marked) ReadMarked(Stream file, CancellationToken cancel = default) =>
        Read(
            file,
            body =>
            {
                var paragraphs = body.Descendants<Paragraph>().ToList();
                return (
                    paragraphs.Count == 0 ? "" : Said(paragraphs[0]).Trim(),
                    (IReadOnlyList<MarkedWords>)[.. paragraphs.Index().SelectMany(p => Marked(p.Item, p.Index + 1))]
                );
            },
            cancel
        );

    private static IEnumerable<MarkedWords> Marked(Paragraph paragraph, int line)
    {
        var whole = Said(paragraph);
        MediaTime? at =
            whole.StartsWith('[') && whole.IndexOf(']', StringComparison.Ordinal) is > 0 and var end ? ClockText.Read(whole[1..end]) : null;
        var words = new System.Text.StringBuilder();
        foreach (var run in paragraph.Descendants<Run>())
        {
            var marks = run.RunProperties;
            var isMarked =
                marks?.Highlight?.Val is { } highlight && highlight != HighlightColorValues.None
                || marks?.Shading?.Fill?.Value is { Length: > 0 } fill && !fill.Equals("auto", StringComparison.OrdinalIgnoreCase);
            var said = string.Concat(run.Descendants<Text>().Select(t => t.Text));
            // A blank that was left out of the marking parts words, not stretches.
            if (isMarked || said.Trim().Length == 0)
            {
                words.Append(said);
            }
            else
            {
                if (words.ToString().Trim() is { Length: > 0 } before)
                {
                    yield return new MarkedWords(line, at, before);
                }
                words.Clear();
            }
        }
        if (words.ToString().Trim() is { Length: > 0 } last)
        {
            yield return new MarkedWords(line, at, last);
        }
    }

    private static string Cells(TableRow row) =>
        string.Join(
            ',',
            row.Elements<TableCell>()
                .Select(c => string.Join(' ', c.Descendants<Paragraph>().Select(Said)).ReplaceLineEndings(" ").Trim())
                .Select(c => $"\"{c.Replace("\"", "\"\"", StringComparison.Ordinal)}\"")
        );

    private static T Read<T>(Stream file, Func<Body, T> read, CancellationToken cancel)
    {
        try
        {
            LookAt(file, cancel);
            using var document = WordprocessingDocument.Open(file, false, new OpenSettings { MaxCharactersInPart = MostCharacters });
            var body = document.MainDocumentPart?.Document?.Body ?? throw new FormatException("The Word document has no text.");
            return read(body);
        }
        catch (Exception broken)
            when (broken
                    is OpenXmlPackageException
                        or FileFormatException
                        or IOException
                        or System.Xml.XmlException
                        or InvalidDataException
                        or ArgumentException
                        or InvalidOperationException
            )
        {
            throw new FormatException(
                "This is not a Word document (.docx), or it is damaged. Save it again in Word, or bring the text as .txt.",
                broken
            );
        }
    }

    // Every part as a stream of nodes first: the library makes trees of them, which deep nesting or a bomb of blanks would hold up for
    // minutes.
    private static void LookAt(Stream file, CancellationToken cancel)
    {
        using var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true);
        if (zip.Entries.Count > MostParts || zip.Entries.Sum(e => e.Length) > MostUnpacked)
        {
            throw new FormatException("The Word document unpacks to far more than a text needs. Save its words as .txt and bring that.");
        }
        foreach (var part in zip.Entries.Where(e => Path.GetExtension(e.Name) is ".xml" or ".rels"))
        {
            using var text = new StreamReader(part.Open());
            if (!XmlDepth.IsShallow(text, cancel))
            {
                throw new FormatException(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"The Word document is nested more than {XmlDepth.Most} deep (tables in tables, say), which can not be read. Save "
                            + $"its words as .txt and bring that."
                    )
                );
            }
        }
        file.Position = 0;
    }

    /// <summary>The paragraphs as a document: name in bold, time, words.</summary>
    public static byte[] Write(string title, IEnumerable<TextPiece> pieces, bool names, bool times)
    {
        using var file = new MemoryStream();
        using (var document = WordprocessingDocument.Create(file, WordprocessingDocumentType.Document))
        {
            var body = new Body(new Paragraph(Run(title, true)));
            foreach (var piece in pieces)
            {
                var paragraph = new Paragraph();
                if (times)
                {
                    paragraph.Append(Run($"[{TranscriptText.Clock(piece.In, '.')[..8]}] ", false));
                }
                if (names)
                {
                    paragraph.Append(Run($"{piece.Name}: ", true));
                }
                paragraph.Append(Run(piece.Said, false));
                body.Append(paragraph);
            }
            document.AddMainDocumentPart().Document = new Document(body);
        }
        return file.ToArray();
    }

    private static Run Run(string text, bool bold)
    {
        var run = new Run();
        if (bold)
        {
            run.Append(new RunProperties(new Bold()));
        }
        run.Append(new Text(string.Concat(text.Where(System.Xml.XmlConvert.IsXmlChar))) { Space = SpaceProcessingModeValues.Preserve });
        return run;
    }

    private static IEnumerable<string> Lines(OpenXmlElement element) =>
        element switch
        {
            Table table => table.Elements<TableRow>().Select(Row).Where(r => r.Length > 0),
            Paragraph paragraph => Said(paragraph).Split('\n'),
            SdtBlock block => block.SdtContentBlock?.ChildElements.SelectMany(Lines) ?? [],
            _ => [],
        };

    private static string Row(TableRow row)
    {
        var cells = row.Elements<TableCell>()
            .Select(c => string.Join(' ', c.Descendants<Paragraph>().Select(Said)).ReplaceLineEndings(" ").Trim())
            .Where(c => c.Length > 0)
            .ToList();
        if (cells.All(c => HeaderWords.Contains(c.ToLowerInvariant())))
        {
            return "";
        }
        var times = cells.TakeWhile(c => ClockText.Read(c.Trim('[', ']', '(', ')')) is not null).ToList();
        var rest = cells.Skip(times.Count).ToList();
        return string.Join(
            ' ',
            times.Take(1).Append(rest.Count > 1 ? $"{rest[0].TrimEnd(':')}: {string.Join(' ', rest.Skip(1))}" : string.Concat(rest))
        );
    }

    // Typed blanks, tabs and line breaks of a paragraph; deleted text of tracked changes is not among them.
    private static string Said(Paragraph paragraph) =>
        string.Concat(
            paragraph
                .Descendants()
                .Select(d =>
                    d switch
                    {
                        Text text => text.Text,
                        TabChar => "\t",
                        Break or CarriageReturn => "\n",
                        _ => "",
                    }
                )
        );
}
