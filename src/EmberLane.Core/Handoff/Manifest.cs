using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace EmberLane.Core.Handoff;

/// <summary>A source as a manifest tells of it.</summary>
public sealed record ManifestSource(string Name, string Path, long Size, string Sum);

/// <summary>A file of the package as its manifest tells of it.</summary>
public sealed record ManifestFile(string Name, string Sum);

/// <summary><c>manifest.json</c> of a package, schema <c>ember-lane.package/1</c>; its fields are in docs/formats.md.</summary>
public sealed record Manifest(string Story, IReadOnlyList<ManifestSource> Sources, IReadOnlyList<ManifestFile> Files)
{
    /// <summary>Its name in a package.</summary>
    public const string FileName = "manifest.json";

    private const string Schema = "ember-lane.package/1";

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    /// <summary>The manifest of a story and the files that its package holds.</summary>
    public static string Write(HandedStory story, IReadOnlyList<WrittenFile> files)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartObject();
            json.WriteString("schema", Schema);
            json.WriteString("production", story.Production);
            json.WriteString("story", story.Title);
            json.WriteNumber("version", story.Version);
            json.WriteString("rate", story.Start.Count.Rate.ToString());
            json.WriteBoolean("drop_frame", story.Start.Count.DropFrame);
            json.WriteString("start", story.Start.ToString());
            json.WriteNumber("frames", story.Frames);
            json.WriteStartArray("sources");
            foreach (var source in story.Sources)
            {
                json.WriteStartObject();
                json.WriteString("name", source.Name);
                json.WriteString("path", source.Path);
                json.WriteNumber("size", source.Size);
                json.WriteString("sha256", source.Sum);
                json.WriteNumber("seconds", decimal.Round((decimal)source.Duration.Units / MediaTime.UnitsPerSecond, 6));
                json.WriteString("timecode", source.Timecode);
                json.WriteString("reel", source.Reel);
                json.WriteString("rate", source.Rate);
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteStartArray("files");
            foreach (var file in files)
            {
                json.WriteStartObject();
                json.WriteString("name", file.Name);
                json.WriteNumber("size", file.Size);
                json.WriteString("sha256", file.Sum);
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteEndObject();
        }
        return Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    /// <summary>Reads one. Throws <see cref="FormatException"/> with what is wrong.</summary>
    public static Manifest Read(string text)
    {
        try
        {
            using var document = JsonDocument.Parse(text);
            var root = document.RootElement;
            if (root.ValueKind != JsonValueKind.Object || Text(root, "schema", "It") != Schema)
            {
                throw new FormatException($"This is no manifest of a package: “schema” must be “{Schema}”.");
            }
            return new Manifest(
                Text(root, "story", "It"),
                Each(
                    root,
                    "sources",
                    (s, where) =>
                        new ManifestSource(
                            Text(s, "name", where),
                            Text(s, "path", where),
                            s.TryGetProperty("size", out var size) && size.ValueKind == JsonValueKind.Number && size.TryGetInt64(out var n)
                                ? n
                                : throw new FormatException($"{where} has no “size”."),
                            Text(s, "sha256", where)
                        )
                ),
                Each(root, "files", (f, where) => new ManifestFile(Text(f, "name", where), Text(f, "sha256", where)))
            );
        }
        catch (Exception broken) when (broken is JsonException or InvalidOperationException)
        {
            throw new FormatException("This is no manifest of a package: it is not JSON.", broken);
        }
    }

    private static List<T> Each<T>(JsonElement root, string list, Func<JsonElement, string, T> read) =>
        root.TryGetProperty(list, out var items) && items.ValueKind == JsonValueKind.Array
            ? [.. items.EnumerateArray().Select((item, i) => read(item, FormattableString.Invariant($"Number {i + 1} of “{list}”")))]
            : throw new FormatException($"It has no list of “{list}”.");

    private static string Text(JsonElement of, string field, string where) =>
        of.ValueKind == JsonValueKind.Object && of.TryGetProperty(field, out var text) && text.ValueKind == JsonValueKind.String
            ? text.GetString()!
            : throw new FormatException($"{where} has no “{field}”.");
}
