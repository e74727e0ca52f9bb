using System.Text.Json;
using System.Text.Json.Serialization;
using EmberLane.Core.Media;

namespace EmberLane.Store;

/// <summary>What a person wrote on a file, as the text of a column; empty when nothing was written.</summary>
internal static class LabelsText
{
    private static readonly JsonSerializerOptions Options = new() { DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault };

    public static string Write(Labels labels) => labels == Labels.None ? "" : JsonSerializer.Serialize(labels, Options);

    public static Labels Read(string text) => text.Length == 0 ? Labels.None : JsonSerializer.Deserialize<Labels>(text, Options)!;
}
