using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace EmberLane.Core.Seams;

/// <summary>Cuts as they come in, and seams as they go out, as docs/formats.md says.</summary>
public static class SeamsJson
{
    /// <summary>More pieces than this are no cut of anything.</summary>
    public const int Most = 100_000;

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    /// <summary>
    /// Reads <c>[{"in":1.2,"out":3.4},…]</c> in seconds, in playing order. Throws <see cref="FormatException"/> that names the cut, from 1,
    /// and the reason.
    /// </summary>
    public static IReadOnlyList<SourceRange> ReadCuts(string json)
    {
        JsonDocument document;
        try
        {
            document = JsonDocument.Parse(json);
        }
        catch (JsonException bad)
        {
            throw new FormatException($"Cuts are JSON, and this is none (line {(bad.LineNumber ?? 0) + 1}).", bad);
        }
        using (document)
        {
            var root = document.RootElement;
            if (root.ValueKind != JsonValueKind.Array)
            {
                throw new FormatException("Cuts are a list: [{\"in\":1.2,\"out\":3.4}, …], in seconds.");
            }
            return root.GetArrayLength() > Most
                ? throw new FormatException(FormattableString.Invariant($"At most {Most} cuts are taken."))
                : [.. root.EnumerateArray().Select(Read)];
        }
    }

    private static SourceRange Read(JsonElement cut, int i)
    {
        decimal from = Seconds(cut, "in", i),
            to = Seconds(cut, "out", i);
        return from < to
            ? new SourceRange(new SourceTime(MediaTime.FromSecondsRounded(from)), new SourceTime(MediaTime.FromSecondsRounded(to)))
            : throw new FormatException(FormattableString.Invariant($"Cut {i + 1} ends at {to} s, not after it begins at {from} s."));
    }

    private static decimal Seconds(JsonElement cut, string name, int i) =>
        cut.ValueKind == JsonValueKind.Object
        && cut.TryGetProperty(name, out var value)
        && value.ValueKind == JsonValueKind.Number
        && value.TryGetDecimal(out var seconds)
        && seconds is >= 0 and <= 1_000_000
            ? seconds
            : throw new FormatException(
                FormattableString.Invariant($"Cut {i + 1} needs “{name}”: seconds from the start of the file, from 0 to 1000000.")
            );

    /// <summary>
    /// The pieces as they are cut best, in seconds with six decimals; how far each end was moved, later being more, and the fades, in
    /// milliseconds.
    /// </summary>
    public static string Write(IReadOnlyList<MendedPiece> pieces)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartArray();
            foreach (var piece in pieces)
            {
                json.WriteStartObject();
                json.WriteNumber("in", Rounded(piece.Range.In.FromZero, 1, 6));
                json.WriteNumber("out", Rounded(piece.Range.Out.FromZero, 1, 6));
                json.WriteNumber("inMovedMs", Moved(piece.In));
                json.WriteNumber("outMovedMs", Moved(piece.Out));
                json.WriteNumber("fadeInMs", piece.In?.FadeMs ?? 0);
                json.WriteNumber("fadeOutMs", piece.Out?.FadeMs ?? 0);
                Faults("before", piece.Before, piece.JumpBefore);
                Faults("after", piece.After, piece.JumpAfter);
                json.WriteNumber("score", piece.Score);
                json.WriteStartArray("reasons");
                foreach (var reason in piece.Reasons)
                {
                    json.WriteStringValue(reason);
                }
                json.WriteEndArray();
                json.WriteEndObject();

                void Faults(string name, EdgeFaults faults, double jump)
                {
                    json.WriteStartObject(name);
                    json.WriteBoolean("clips", faults.Clips);
                    json.WriteBoolean("leaks", faults.Leaks);
                    json.WriteNumber("levelJumpDb", decimal.Round((decimal)jump, 1));
                    json.WriteEndObject();
                }
            }
            json.WriteEndArray();
        }
        return System.Text.Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    private static decimal Moved(SeamEdge? edge) => edge is null ? 0 : Rounded(edge.At - edge.Was, 1000, 2);

    private static decimal Rounded(MediaTime time, int of, int decimals) =>
        decimal.Round((decimal)time.Units * of / MediaTime.UnitsPerSecond, decimals);
}
