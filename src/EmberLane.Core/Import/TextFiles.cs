using System.Globalization;
using System.Text;
using EmberLane.Core.Captions;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Import;

/// <summary>Reads the texts that typing services and caption makers deliver, by the ending of the file's name.</summary>
public static class TextFiles
{
    /// <summary>The largest text that is taken: far more than a day of talk.</summary>
    public const int MostBytes = 20_000_000;

    /// <summary>A word longer than this is no word.</summary>
    private const int LongestWord = 200;

    private const int MostWords = 400_000;

    /// <summary>One control character in so many letters is an accident; more are no text.</summary>
    private const int LettersPerControl = 50;

    /// <summary>No word is said for longer.</summary>
    private static readonly MediaTime LongestSaid = MediaTime.FromMilliseconds(60_000);

    /// <summary>The endings that are read here. Word documents are opened elsewhere and come as lines of plain text.</summary>
    public static IReadOnlyList<string> Endings { get; } = [".txt", ".json", ".vtt", ".srt", ".csv"];

    /// <summary>
    /// Throws <see cref="FormatException"/> that names the line and the reason, <see cref="OperationCanceledException"/> between two lines.
    /// Cost grows with the length of the text.
    /// </summary>
    public static DeliveredText Read(string name, byte[] bytes, CancellationToken cancel = default) =>
        bytes.Length > MostBytes
            ? throw new FormatException("The file is larger than 20 MB, which no text of a sitting is.")
            : Read(name, Decode(bytes), cancel);

    /// <inheritdoc cref="Read(string, byte[], CancellationToken)"/>
    public static DeliveredText Read(string name, string text, CancellationToken cancel = default)
    {
        MustBeText(text);
        var delivered = Path.GetExtension(name).ToLowerInvariant() switch
        {
            ".json" => Timed(WordsJson.Read(text)),
            ".vtt" => new DeliveredText(InOrder(WebVtt.ReadLines(text, cancel)), [], ""),
            ".srt" => new DeliveredText(InOrder(SubRip.Read(text, cancel)), [], ""),
            ".csv" => new DeliveredText(TableText.Read(text, cancel), [], ""),
            ".txt" or "" => new DeliveredText(PlainText.Read(text, cancel), [], ""),
            var ending => throw new FormatException(
                $"Files that end in {ending} are not read. Bring {string.Join(", ", Endings)} or .docx."
            ),
        };
        return Checked(delivered);
    }

    /// <summary>Throws <see cref="FormatException"/> where what was decoded is no text that anybody wrote: a picture, a sound.</summary>
    public static void MustBeText(string text)
    {
        if (
            text.Count(c => char.IsControl(c) && c is not ('\n' or '\r' or '\t' or '\f')) is var controls
            && controls > 4
            && (long)controls * LettersPerControl > text.Length
        )
        {
            throw new FormatException(
                "This file holds no text that can be read. Save it as text (UTF-8), or bring the Word document itself."
            );
        }
    }

    /// <summary>Text in UTF-8 or, with its mark, UTF-16; what is neither is taken for Windows Latin, as old programs write it.</summary>
    public static string Decode(byte[] bytes)
    {
        Encoding[] marked = [new UTF8Encoding(true, true), new UnicodeEncoding(false, true, true), new UnicodeEncoding(true, true, true)];
        try
        {
            var encoding = marked.FirstOrDefault(e => bytes.AsSpan().StartsWith(e.GetPreamble())) ?? new UTF8Encoding(false, true);
            return encoding.GetString(bytes.AsSpan(bytes.AsSpan().StartsWith(encoding.GetPreamble()) ? encoding.GetPreamble().Length : 0));
        }
        catch (DecoderFallbackException)
        {
            return CodePagesEncodingProvider.Instance.GetEncoding(1252)!.GetString(bytes);
        }
    }

    // Captions say when each is shown, so their order in the file does not matter.
    private static List<TypedLine> InOrder(IReadOnlyList<TypedLine> captions) => [.. captions.OrderBy(c => c.In)];

    private static DeliveredText Timed(WordList list) => new([], list.Words, list.Language);

    private static DeliveredText Checked(DeliveredText text)
    {
        if (text.Timed.Index().FirstOrDefault(w => w.Item.Range.Length > LongestSaid) is { Item: { } endless } lasting)
        {
            throw new FormatException(
                FormattableString.Invariant(
                    $"Word {lasting.Index + 1}: “{endless.Text}” lasts {endless.Range.Length}; nobody says one word for so long."
                )
            );
        }
        var words = 0;
        foreach (var (said, where) in text.Lines.Select(l => (l.Said, l.Number)).Concat(text.Timed.Select((w, i) => (w.Text, i + 1))))
        {
            foreach (var word in said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries))
            {
                words++;
                if (word.Length > LongestWord)
                {
                    throw new FormatException(
                        string.Create(
                            CultureInfo.InvariantCulture,
                            $"{(text.Timed.Count > 0 ? "Word" : "Line")} {where}: “{word[..20]}…” has {word.Length} letters without a "
                                + $"blank; that is no word."
                        )
                    );
                }
            }
        }
        return words switch
        {
            0 => throw new FormatException("There are no words in this text."),
            > MostWords => throw new FormatException(
                FormattableString.Invariant($"There are {words} words in this text, more than are said in a day.")
            ),
            _ => text,
        };
    }
}
