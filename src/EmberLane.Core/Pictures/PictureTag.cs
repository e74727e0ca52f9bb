using System.Text.Json;

namespace EmberLane.Core.Pictures;

/// <summary>A word that a tagger says of a picture, and how sure it is.</summary>
public sealed record PictureTag(string Tag, PerMille Certainty)
{
    /// <summary>So many are kept of a picture; and a tag has so many characters.</summary>
    public const int Most = 50,
        Longest = 60;

    /// <summary>
    /// Reads a tagger's answer: <c>[{"tag":"ferry","confidence":0.93}, …]</c>, or the same as <c>{"tags": […]}</c>. Tags come without
    /// capitals, each once, the surest first. Throws <see cref="FormatException"/> with a sentence.
    /// </summary>
    public static IReadOnlyList<PictureTag> Read(string json)
    {
        try
        {
            using var document = JsonDocument.Parse(json);
            var root = document.RootElement;
            var list = root.ValueKind == JsonValueKind.Object && root.TryGetProperty("tags", out var tags) ? tags : root;
            if (list.ValueKind != JsonValueKind.Array)
            {
                throw new FormatException("A tagger answers with a list of tags.");
            }
            return [.. list.EnumerateArray().Select(One).OrderByDescending(t => t.Certainty).DistinctBy(t => t.Tag).Take(Most)];
        }
        catch (JsonException bad)
        {
            throw new FormatException("A tagger answers with JSON, and this is none.", bad);
        }
    }

    private static PictureTag One(JsonElement tag)
    {
        if (
            tag.ValueKind != JsonValueKind.Object
            || !tag.TryGetProperty("tag", out var word)
            || word.ValueKind != JsonValueKind.String
            || !tag.TryGetProperty("confidence", out var sure)
            || sure.ValueKind != JsonValueKind.Number
            || !sure.TryGetDouble(out var share)
            || share is not (>= 0 and <= 1)
        )
        {
            throw new FormatException("Each tag of a tagger has a text “tag” and a number “confidence” from 0 to 1.");
        }
        var clean = TypedText.OneLine(word.GetString()!).Replace(',', ' ').ToLowerInvariant();
        return clean.Length is > 0 and <= Longest
            ? new PictureTag(clean, PerMille.OfShare(share))
            : throw new FormatException($"A tag has 1 to {Longest} characters.");
    }
}
