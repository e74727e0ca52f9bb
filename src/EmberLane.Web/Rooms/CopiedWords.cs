using System.Text.Json;
using System.Text.Json.Serialization;
using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Rooms;

/// <summary>Words that were copied or dragged to be put into a story: of which sitting and text, from one to another.</summary>
public sealed record CopiedWords(long Sitting, long Text, WordNumber First, WordNumber Last)
{
    /// <summary>Such words are named in so many characters at most.</summary>
    private const int Longest = 500;

    /// <summary>Whether the sentences around them are meant.</summary>
    public bool Sentence { get; init; }

    /// <summary>As the page keeps them.</summary>
    [JsonIgnore]
    public string Written => JsonSerializer.Serialize(this, JsonSerializerOptions.Web);

    /// <summary>Reads what the page keeps of them; null for anything else.</summary>
    public static CopiedWords? Read(string? clip)
    {
        if (clip is not { Length: > 0 and <= Longest } || !clip.StartsWith('{'))
        {
            return null;
        }
        try
        {
            return JsonSerializer.Deserialize<CopiedWords>(clip, JsonSerializerOptions.Web);
        }
        catch (Exception bad) when (bad is JsonException or FormatException)
        {
            return null;
        }
    }
}
