using System.Globalization;
using System.Text.Json.Nodes;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Databases from before there were marks: what was set aside, found right and flagged word by word becomes a mark on each of these words,
/// and the changes of the log that speak of them become changes of these marks, so that undo reaches as far back as before. Written down in
/// its own words of JSON, which later versions of the edits do not change.
/// </summary>
internal static class OlderMarks
{
    private const int PassedOver = 2;

    private static readonly string[] Flags = ["flag.look-again", "flag.use-this", "flag.leave-out", "flag.ask-about"];

    // What an older mark is known by: there was at most one of each.
    private readonly record struct Key(long Transcript, int Word, string Kind, string Note);

    private sealed record Entry(long Id, long Transcript, string Who, string At, JsonNode Edit, JsonNode Inverse);

    public static void Bring(SqliteConnection c)
    {
        var next = c.Query("SELECT COALESCE(MAX(id), 0) + 1 FROM mark", r => r.GetInt64(0)).Single();
        var marks = new Dictionary<Key, JsonObject>();
        foreach (
            var entry in c.Query(
                """
                SELECT id, aggregate_id, who, at, body, inverse FROM change
                WHERE aggregate = 'transcript'
                    AND (body LIKE '%"set-aside"%' OR body LIKE '%"settle-word"%' OR body LIKE '%"set-flag"%')
                ORDER BY id
                """,
                r => new Entry(
                    r.GetInt64(0),
                    r.GetInt64(1),
                    r.GetString(2),
                    r.GetString(3),
                    JsonNode.Parse(r.GetString(4))!,
                    JsonNode.Parse(r.GetString(5))!
                )
            )
        )
        {
            Bring(c, entry, key => Of(c, key, entry.Who, entry.At));
        }
        foreach (var key in Standing(c))
        {
            var mark = Of(c, key, "", null);
            c.Execute(
                "INSERT INTO mark VALUES ($id, $t, $kind, $w, $w, $in, $out, $owner, $note, $at)",
                ("$id", (long)mark["Id"]!),
                ("$t", key.Transcript),
                ("$kind", key.Kind),
                ("$w", key.Word),
                ("$in", Units(mark, "In")),
                ("$out", Units(mark, "Out")),
                ("$owner", (string)mark["Owner"]!),
                ("$note", key.Note),
                ("$at", (string?)mark["When"])
            );
        }
        // No mark gets the id of one that was taken back.
        c.Execute("DELETE FROM sqlite_sequence WHERE name = 'mark'");
        c.Execute("INSERT INTO sqlite_sequence VALUES ('mark', $last)", ("$last", next - 1));
        c.Execute("DROP TABLE aside");
        c.Execute("DROP TABLE settled");
        c.Execute("DROP TABLE flag");

        // The same mark for every change that speaks of it; its owner is who laid it first.
        JsonObject Of(SqliteConnection connection, Key key, string who, string? at)
        {
            if (!marks.TryGetValue(key, out var mark))
            {
                var (from, to) = RangeOf(connection, key);
                marks[key] = mark = new JsonObject
                {
                    ["Id"] = next++,
                    ["Kind"] = key.Kind,
                    ["First"] = key.Word,
                    ["Last"] = key.Word,
                    ["Range"] = new JsonObject { ["In"] = Moment(from), ["Out"] = Moment(to) },
                    ["Owner"] = who,
                    ["Note"] = key.Note,
                    ["When"] = at,
                };
            }
            return mark;
        }
    }

    private static IEnumerable<Key> Standing(SqliteConnection c) =>
        [
            .. c.Query("SELECT transcript_id, number FROM aside", r => new Key(r.GetInt64(0), r.GetInt32(1), "aside.hand", "")),
            .. c.Query("SELECT transcript_id, number FROM settled", r => new Key(r.GetInt64(0), r.GetInt32(1), "settled", "")),
            .. c.Query(
                "SELECT transcript_id, number, kind, note FROM flag",
                r => new Key(r.GetInt64(0), r.GetInt32(1), Flags[r.GetInt32(2)], r.GetString(3))
            ),
        ];

    private static void Bring(SqliteConnection c, Entry entry, Func<Key, JsonObject> mark)
    {
        List<JsonObject> edits = [.. Flat(entry.Edit)],
            inverses = [.. Flat(entry.Inverse)];
        if (!edits.Any(e => Type(e) is "set-aside" or "settle-word" or "set-flag"))
        {
            return;
        }
        inverses.Reverse();
        var (forth, back) = (new List<JsonNode>(), new List<JsonNode>());
        foreach (var (edit, inverse) in edits.Zip(inverses))
        {
            var (to, from) = (Standing(entry.Transcript, edit), Standing(entry.Transcript, inverse));
            if (Type(edit) is not ("set-aside" or "settle-word" or "set-flag"))
            {
                forth.Add(edit.DeepClone());
                back.Insert(0, inverse.DeepClone());
            }
            else if (to != from)
            {
                Change(from, "take-mark", "put-mark");
                Change(to, "put-mark", "take-mark");
            }
        }
        if (forth.Count == 0)
        {
            // It changed nothing, and so there is nothing to take back.
            c.Execute(
                "UPDATE change SET state = $state, body = $nothing, inverse = $nothing, said = 'nothing was changed' WHERE id = $id",
                ("$state", PassedOver),
                ("$nothing", Written([])),
                ("$id", entry.Id)
            );
            return;
        }
        c.Execute(
            "UPDATE change SET body = $body, inverse = $inverse WHERE id = $id",
            ("$body", Written(forth)),
            ("$inverse", Written(back)),
            ("$id", entry.Id)
        );

        void Change(Key? key, string edit, string inverse)
        {
            if (key is { } one)
            {
                forth.Add(new JsonObject { ["$type"] = edit, ["Mark"] = mark(one).DeepClone() });
                back.Insert(0, new JsonObject { ["$type"] = inverse, ["Mark"] = mark(one).DeepClone() });
            }
        }
    }

    // The mark that stands once an older edit is made; null when none does.
    private static Key? Standing(long transcript, JsonObject edit) =>
        Type(edit) switch
        {
            "set-aside" => (bool)edit["Aside"]! ? new Key(transcript, (int)edit["Word"]!, "aside.hand", "") : null,
            "settle-word" => (bool)edit["Right"]! ? new Key(transcript, (int)edit["Word"]!, "settled", "") : null,
            "set-flag" => edit["Flag"] is JsonObject flag
                ? new Key(transcript, (int)edit["Word"]!, Flags[(int)flag["Kind"]!], (string)flag["Note"]!)
                : null,
            _ => null,
        };

    private static IEnumerable<JsonObject> Flat(JsonNode edit) =>
        Type(edit) == "together" ? edit["Edits"]!.AsArray().SelectMany(e => Flat(e!)) : [edit.AsObject()];

    private static string Type(JsonNode edit) => (string)edit["$type"]!;

    private static string Written(List<JsonNode> edits) =>
        (edits is [var one] ? one : new JsonObject { ["$type"] = "together", ["Edits"] = new JsonArray([.. edits]) }).ToJsonString();

    private static (long In, long Out) RangeOf(SqliteConnection c, Key key) =>
        c.Query(
                "SELECT time_in, time_out FROM word WHERE transcript_id = $t AND number = $n UNION ALL SELECT time_in, time_out FROM "
                    + "added WHERE transcript_id = $t AND number = $n",
                r => (r.GetInt64(0), r.GetInt64(1)),
                ("$t", key.Transcript),
                ("$n", key.Word)
            )
            .FirstOrDefault();

    private static JsonObject Moment(long units) => new() { ["FromZero"] = new JsonObject { ["Units"] = units } };

    private static long Units(JsonObject mark, string end) =>
        long.Parse(mark["Range"]![end]!["FromZero"]!["Units"]!.ToString(), CultureInfo.InvariantCulture);
}
