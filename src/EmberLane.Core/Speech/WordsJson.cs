using System.Buffers;
using System.Globalization;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace EmberLane.Core.Speech;

/// <summary>Words with their language, as the words JSON of docs/formats.md.</summary>
public sealed record WordList(string Language, IReadOnlyList<RecognisedWord> Words);

/// <summary>Reads and writes words JSON, schema <c>ember-lane.words/1</c>. Times are rounded to the microsecond when written.</summary>
public static class WordsJson
{
    /// <summary>What a file of this form begins with.</summary>
    public const string Schema = "ember-lane.words/1";

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>The list as JSON, as docs/formats.md describes it.</summary>
    public static string Write(WordList list)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartObject();
            json.WriteString("schema", Schema);
            json.WriteString("language", list.Language);
            json.WriteStartArray("words");
            foreach (var word in list.Words)
            {
                json.WriteStartObject();
                json.WriteString("t", word.Text);
                json.WriteNumber("s", Seconds(word.Range.In));
                json.WriteNumber("e", Seconds(word.Range.Out));
                if (word.Confidence is { } confidence)
                {
                    json.WriteNumber("c", confidence.Share);
                }
                if (word.Voice is { } voice)
                {
                    json.WriteString("v", voice);
                }
                if (word.VoiceSure is { } sure)
                {
                    json.WriteNumber("vc", sure.Share);
                }
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteEndObject();
        }
        return System.Text.Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    /// <summary>
    /// Reads words in the order of their starts. Throws <see cref="FormatException"/> that names the word and the reason; nothing is
    /// guessed.
    /// </summary>
    public static WordList Read(string json)
    {
        var list = ReadAsWritten(json);
        return list with { Words = [.. list.Words.OrderBy(w => w.Range.In)] };
    }

    /// <summary>The same in the order of the file.</summary>
    public static WordList ReadAsWritten(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            var root = document.RootElement;
            if (
                root.ValueKind != JsonValueKind.Object
                || !root.TryGetProperty("schema", out var schema)
                || schema.ValueKind != JsonValueKind.String
                || schema.GetString() != Schema
            )
            {
                throw new FormatException($"This is not words JSON: “schema” must be “{Schema}”.");
            }
            if (!root.TryGetProperty("words", out var words) || words.ValueKind != JsonValueKind.Array)
            {
                throw new FormatException("The words JSON has no list called “words”.");
            }
            var language = root.TryGetProperty("language", out var l) && l.ValueKind == JsonValueKind.String ? l.GetString()! : "";
            return new WordList(language, [.. words.EnumerateArray().Select(Word)]);
        }
        catch (InvalidOperationException odd)
        {
            // Half of a pair of code units (\ud800), which stands for no letter.
            throw new FormatException(
                "This is not words JSON: a text in it holds half of a letter (a \\ud800 without its other half).",
                odd
            );
        }
        catch (JsonException broken)
        {
            throw new FormatException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"This is not JSON: line {broken.LineNumber + 1}, character {broken.BytePositionInLine + 1}."
                ),
                broken
            );
        }
    }

    private static RecognisedWord Word(JsonElement word, int index)
    {
        string Where() => string.Create(CultureInfo.InvariantCulture, $"Word {index + 1}");
        if (
            word.ValueKind != JsonValueKind.Object
            || !word.TryGetProperty("t", out var text)
            || text.ValueKind != JsonValueKind.String
            || string.IsNullOrWhiteSpace(text.GetString())
        )
        {
            throw new FormatException($"{Where()} has no text “t”.");
        }
        var start = Time(word, "s", Where);
        var end = Time(word, "e", Where);
        if (end < start)
        {
            throw new FormatException($"{Where()} (“{text.GetString()}”) ends before it begins.");
        }
        var voice = word.TryGetProperty("v", out var v) && v.ValueKind == JsonValueKind.String ? v.GetString() : null;
        return new RecognisedWord(
            text.GetString()!.Trim(),
            new SourceRange(start, end),
            Share(word, "c", Where),
            voice,
            Share(word, "vc", Where)
        );
    }

    private static PerMille? Share(JsonElement word, string name, Func<string> where) =>
        !word.TryGetProperty(name, out var share) || share.ValueKind == JsonValueKind.Null ? null
        : share.ValueKind == JsonValueKind.Number && share.TryGetDecimal(out var value) && value is >= 0 and <= 1
            ? new PerMille((int)decimal.Round(value * 1000))
        : throw new FormatException($"{where()}: “{name}” must be a number from 0 to 1.");

    private static SourceTime Time(JsonElement word, string name, Func<string> where) =>
        word.TryGetProperty(name, out var value)
        && value.ValueKind == JsonValueKind.Number
        && value.TryGetDecimal(out var seconds)
        && seconds is >= 0 and < 1_000_000
            ? new SourceTime(MediaTime.FromSecondsRounded(seconds))
            : throw new FormatException($"{where()}: “{name}” must be a number of seconds from 0.");

    private static decimal Seconds(SourceTime at) => decimal.Round((decimal)at.FromZero.Units / MediaTime.UnitsPerSecond, 6);
}
