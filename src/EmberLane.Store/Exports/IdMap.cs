using System.Globalization;
using System.Text.Json;
using System.Text.Json.Nodes;

namespace EmberLane.Store.Exports;

/// <summary>Things that are known by a number of the database that they are in, and have another one elsewhere.</summary>
internal enum IdSpace
{
    Production,
    Sitting,
    Source,
    Transcript,
    Mark,
    Story,
    StoryVersion,
    Change,
    Comment,
    Script,
    SavedSearch,
}

/// <summary>
/// Which number each thing of a production has where it is brought in. One that is not of the production gets a number that nothing can
/// have. A number below nothing is of the same thing otherwise (a tighter framing), and stays so.
/// </summary>
internal sealed class IdMap
{
    private const long Gone = -(1L << 52);

    private readonly Dictionary<(IdSpace, long), long> known = [];

    public void Add(IdSpace space, long was, long now) => known[(space, was)] = now;

    public long Of(IdSpace space, long was) =>
        known.TryGetValue((space, was), out var now) ? now
        : was < 0 && known.TryGetValue((space, -was), out now) ? -now
        : Gone - Math.Abs(was);

    public IEnumerable<long> All(IdSpace space) => known.Where(k => k.Key.Item1 == space).Select(k => k.Value);

    /// <summary>Numbers with blanks between them.</summary>
    public string Listed(IdSpace space, string numbers) =>
        string.Join(
            ' ',
            numbers
                .Split(' ', StringSplitOptions.RemoveEmptyEntries)
                .Select(n => Of(space, long.Parse(n, CultureInfo.InvariantCulture)).ToString(CultureInfo.InvariantCulture))
        );

    /// <summary>
    /// JSON with the numbers of the named properties changed, wherever they stand in it: a number, an array of them, or text that lists
    /// them.
    /// </summary>
    public string Json(string json, IReadOnlyDictionary<string, IdSpace> named)
    {
        var node = JsonNode.Parse(json);
        Walk(node, named);
        return node?.ToJsonString() ?? "null";
    }

    /// <summary>A JSON array of numbers.</summary>
    public string JsonList(string json, IdSpace space) =>
        JsonSerializer.Serialize((JsonSerializer.Deserialize<long[]>(json) ?? []).Select(n => Of(space, n)));

    private void Walk(JsonNode? node, IReadOnlyDictionary<string, IdSpace> named)
    {
        if (node is JsonArray array)
        {
            foreach (var item in array)
            {
                Walk(item, named);
            }
        }
        else if (node is JsonObject of)
        {
            foreach (var (name, value) in of.ToList())
            {
                if (named.TryGetValue(name, out var space) && value is JsonValue own)
                {
                    if (own.TryGetValue<long>(out var number))
                    {
                        of[name] = Of(space, number);
                    }
                    else if (ExportTables.Lists.Contains(name) && own.TryGetValue<string>(out var text))
                    {
                        of[name] = Listed(space, text);
                    }
                }
                else
                {
                    Walk(value, named);
                }
            }
        }
    }
}
