using System.Text.Json;
using EmberLane.Core.Transcripts;

namespace EmberLane.Web.Pages.Story;

/// <summary>Words that were copied in Read: of which sitting and text, from one to another.</summary>
public sealed record CopiedWords(long Sitting, long Text, WordNumber First, WordNumber Last)
{
    /// <summary>Such words are named in so many characters at most.</summary>
    private const int Longest = 500;

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
