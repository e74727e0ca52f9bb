using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Databases from before what a place goes by had a column: it is read, this once, from the sentence that told it; in the sources and in
/// the changes of the log.
/// </summary>
internal static class OlderPlaces
{
    private const int Nothing = 0,
        Reference = 1,
        Sound = 2,
        Timecode = 3,
        LeftAsItWas = 4,
        Person = 5;

    public static void Bring(SqliteConnection c)
    {
        foreach (
            var (id, isPlaced, evidence) in c.Query(
                "SELECT id, start IS NOT NULL, evidence FROM source",
                r => (r.GetInt64(0), r.GetInt64(1) == 1, r.GetString(2))
            )
        )
        {
            c.Execute("UPDATE source SET basis = $basis WHERE id = $id", ("$basis", BasisOf(isPlaced, evidence)), ("$id", id));
        }
        foreach (
            var (id, edit, inverse) in c.Query(
                "SELECT id, body, inverse FROM change WHERE aggregate IN ('placing', 'gather')",
                r => (r.GetInt64(0), JsonNode.Parse(r.GetString(1))!, JsonNode.Parse(r.GetString(2))!)
            )
        )
        {
            Bring(edit);
            Bring(inverse);
            c.Execute(
                "UPDATE change SET body = $body, inverse = $inverse WHERE id = $id",
                ("$body", edit.ToJsonString()),
                ("$inverse", inverse.ToJsonString()),
                ("$id", id)
            );
        }
    }

    // Every placement in it gets its basis.
    private static void Bring(JsonNode? node)
    {
        if (node is JsonObject placement && placement["Evidence"] is JsonValue evidence && placement.ContainsKey("Place"))
        {
            placement["Basis"] = BasisOf(placement["Place"] is not null, evidence.GetValue<string>());
        }
        foreach (
            var child in node is JsonObject map ? map.Select(m => m.Value)
            : node is JsonArray list ? list
            : Enumerable.Empty<JsonNode?>()
        )
        {
            Bring(child);
        }
    }

    private static int BasisOf(bool isPlaced, string evidence) =>
        (evidence.StartsWith("accepted · ", StringComparison.Ordinal) ? evidence["accepted · ".Length..] : evidence) switch
        {
            _ when !isPlaced => Nothing,
            "reference" => Reference,
            "set by hand" => Person,
            var said when said.EndsWith("; left where it was", StringComparison.Ordinal) => LeftAsItWas,
            var said when said.StartsWith("by timecode", StringComparison.Ordinal) => Timecode,
            _ => Sound,
        };
}
