using System.Buffers;
using System.Text.Encodings.Web;
using System.Text.Json;

namespace EmberLane.Core.Cameras;

/// <summary>What is to be planned as it comes in, and plans as they go out, as docs/formats.md says.</summary>
public static class CamerasJson
{
    private const int Most = 200_000;

    private const decimal MostSeconds = 1_000_000;

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping, Indented = true };

    /// <summary>
    /// Reads a sitting to be planned. Throws <see cref="FormatException"/> that names what is wrong, and where.
    /// </summary>
    public static CameraProblem Read(string json)
    {
        JsonDocument document;
        try
        {
            document = JsonDocument.Parse(json);
        }
        catch (JsonException bad)
        {
            throw new FormatException($"A sitting to be planned is JSON, and this is none (line {(bad.LineNumber ?? 0) + 1}).", bad);
        }
        using (document)
        {
            var root = document.RootElement;
            if (root.ValueKind != JsonValueKind.Object)
            {
                throw new FormatException("A sitting to be planned is an object: {\"seconds\":…,\"angles\":[…],\"speech\":[…]}.");
            }
            var length = MediaTime.FromSecondsRounded(Number(root, "seconds", "“seconds”", 0, MostSeconds));
            return new CameraProblem(
                length,
                [.. List(root, "angles").Select((a, i) => Angle(a, i, length))],
                [.. List(root, "speech").Select((t, i) => new PlanTurn(Text(t, "who", $"Turn {i + 1}"), Range(t, $"Turn {i + 1}")))],
                [.. List(root, "crowd").Select((c, i) => Pair(c, $"“crowd” {i + 1}"))],
                [.. List(root, "locked").Select((l, i) => new LockedAngle(Text(l, "angle", $"Lock {i + 1}"), Range(l, $"Lock {i + 1}")))],
                Rules(root)
            )
            {
                Seams = [.. List(root, "seams").Select((s, i) => Time(s, $"“seams” {i + 1}"))],
            };
        }
    }

    /// <summary>The shots with their reasons, the open mics, and what the plan costs; seconds with three decimals.</summary>
    public static string Write(CameraProblem problem, CameraPlan plan, IReadOnlyList<OpenMic> mics)
    {
        var buffer = new ArrayBufferWriter<byte>();
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            json.WriteStartObject();
            json.WriteStartArray("shots");
            foreach (var shot in plan.Shots)
            {
                json.WriteStartObject();
                json.WriteString("angle", problem.Angles[shot.Angle].Name);
                Ends(shot.Range);
                json.WriteString("reason", shot.Reason);
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteStartArray("mics");
            foreach (var mic in mics)
            {
                json.WriteStartObject();
                json.WriteString("who", mic.Who);
                Ends(mic.Range);
                json.WriteEndObject();
            }
            json.WriteEndArray();
            json.WriteNumber("cost", plan.Points);
            json.WriteEndObject();

            void Ends(PlanRange range)
            {
                json.WriteNumber("in", Seconds(range.In));
                json.WriteNumber("out", Seconds(range.Out));
            }
        }
        return System.Text.Encoding.UTF8.GetString(buffer.WrittenSpan) + "\n";
    }

    private static decimal Seconds(MediaTime time) => decimal.Round((decimal)time.Units / MediaTime.UnitsPerSecond, 3);

    private static PlanAngle Angle(JsonElement angle, int i, MediaTime length)
    {
        var where = $"Angle {i + 1}";
        var name = Text(angle, "name", where);
        return new PlanAngle(
            name,
            [.. List(angle, "covers").Select(who => Name(who, $"“{name}” covers someone who"))],
            angle.TryGetProperty("rolls", out _)
                ? [.. List(angle, "rolls").Select((r, k) => Pair(r, $"“rolls” {k + 1} of “{name}”"))]
                : [new PlanRange(MediaTime.Zero, length)]
        )
        {
            Changes = CoverMark.Changes(
                [.. List(angle, "turns").Select((t, k) => Mark(t, $"“turns” {k + 1} of “{name}”")).OrderBy(m => m.At)],
                length
            ),
            Tighter =
                !angle.TryGetProperty("punch", out var punch) || punch.ValueKind is JsonValueKind.False or JsonValueKind.Null ? []
                : punch.ValueKind == JsonValueKind.True ? [new PlanRange(MediaTime.Zero, length)]
                : throw new FormatException($"“punch” of “{name}” is true or false."),
        };
    }

    private static CoverMark Mark(JsonElement turn, string where) =>
        turn.ValueKind == JsonValueKind.Object
            ? new CoverMark(
                MediaTime.FromSecondsRounded(Number(turn, "at", $"“at” of {where}", -MostSeconds, MostSeconds)),
                [.. List(turn, "covers").Select(who => Name(who, $"{where} covers someone who"))]
            )
            : throw new FormatException($"{where} is an object: {{\"at\":30,\"covers\":[\"Ada\"]}}.");

    private static CameraRules Rules(JsonElement root)
    {
        if (!root.TryGetProperty("rules", out var asked) || asked.ValueKind == JsonValueKind.Null)
        {
            return CameraRules.Even;
        }
        if (asked.ValueKind != JsonValueKind.Object)
        {
            throw new FormatException("“rules” is an object: {\"shortest\":2.5,\"longest\":25}.");
        }
        var rules = CameraRules.Even;
        if (asked.TryGetProperty("pace", out var pace))
        {
            rules =
                pace.ValueKind == JsonValueKind.String && CameraRules.Paces.TryGetValue(pace.GetString()!, out var named)
                    ? named
                    : throw new FormatException($"“pace” is one of {string.Join(", ", CameraRules.Paces.Keys)}.");
        }
        foreach (var rule in asked.EnumerateObject().Where(r => r.Name != "pace"))
        {
            var known =
                CameraRule.All.FirstOrDefault(r => r.Name == rule.Name)
                ?? throw new FormatException(
                    $"There is no rule “{rule.Name}”. Rules are pace, {string.Join(", ", CameraRule.All.Select(r => r.Name))}."
                );
            rules = known.Read(rules, rule.Value.ValueKind == JsonValueKind.String ? rule.Value.GetString()! : rule.Value.GetRawText());
        }
        return rules;
    }

    private static List<JsonElement> List(JsonElement of, string name)
    {
        if (!of.TryGetProperty(name, out var list) || list.ValueKind == JsonValueKind.Null)
        {
            return [];
        }
        return list.ValueKind != JsonValueKind.Array ? throw new FormatException($"“{name}” is a list.")
            : list.GetArrayLength() > Most
                ? throw new FormatException(FormattableString.Invariant($"“{name}” has more than {Most} entries."))
            : [.. list.EnumerateArray()];
    }

    private static PlanRange Range(JsonElement of, string where) =>
        Ordered(
            MediaTime.FromSecondsRounded(Number(of, "in", $"{where}: “in”", -MostSeconds, MostSeconds)),
            MediaTime.FromSecondsRounded(Number(of, "out", $"{where}: “out”", -MostSeconds, MostSeconds)),
            where
        );

    private static PlanRange Pair(JsonElement pair, string where) =>
        pair.ValueKind == JsonValueKind.Array && pair.GetArrayLength() == 2
            ? Ordered(Time(pair[0], where), Time(pair[1], where), where)
            : throw new FormatException($"{where} is a pair of seconds: [in, out].");

    private static PlanRange Ordered(MediaTime from, MediaTime to, string where) =>
        from <= to ? new PlanRange(from, to) : throw new FormatException($"{where} ends at {to}, before it begins at {from}.");

    private static MediaTime Time(JsonElement value, string where) =>
        value.ValueKind == JsonValueKind.Number && value.TryGetDecimal(out var seconds) && decimal.Abs(seconds) <= MostSeconds
            ? MediaTime.FromSecondsRounded(seconds)
            : throw new FormatException($"{where} is given in seconds.");

    private static decimal Number(JsonElement of, string name, string where, decimal least, decimal most) =>
        of.ValueKind == JsonValueKind.Object
        && of.TryGetProperty(name, out var value)
        && value.ValueKind == JsonValueKind.Number
        && value.TryGetDecimal(out var number)
        && number >= least
        && number <= most
            ? number
            : throw new FormatException(FormattableString.Invariant($"{where} is missing, or is no number of seconds up to {most}."));

    private static string Text(JsonElement of, string name, string where) =>
        of.ValueKind == JsonValueKind.Object && of.TryGetProperty(name, out var value)
            ? Name(value, $"{where}: “{name}”")
            : throw new FormatException($"{where} needs “{name}”.");

    private static string Name(JsonElement value, string where) =>
        value.ValueKind == JsonValueKind.String && value.GetString() is { Length: > 0 and <= 500 } text
            ? text
            : throw new FormatException($"{where} is no name: text of 1 to 500 characters.");
}
