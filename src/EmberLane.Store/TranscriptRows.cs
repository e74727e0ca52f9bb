using System.Collections.Immutable;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The rows of records and of what people decided about their words.</summary>
internal static class TranscriptRows
{
    /// <summary>The record, in its order.</summary>
    public static List<RecordWord> RecordOf(SqliteConnection c, long id) =>
        c.Query(
            "SELECT number, text, time_in, time_out, confidence, voice, voice_sure FROM word WHERE transcript_id = $t ORDER BY number",
            r => new RecordWord(
                Columns.Word(r, 0),
                r.GetString(1),
                Columns.Range(r, 2),
                Columns.Share(r, 4),
                r.GetInt32(5),
                Columns.Share(r, 6)
            ),
            ("$t", id)
        );

    /// <summary>What people decided about it.</summary>
    public static Layers LayersOf(SqliteConnection c, long id) =>
        WordLayersOf(c, id) with
        {
            Marks = Marks.OfText(c, id),
            NextMark = Marks.Next(c),
            Off = [.. c.Query("SELECT layer FROM layer_off WHERE transcript_id = $t", r => r.GetString(0), ("$t", id))],
        };

    /// <summary>What people decided about its words and voices, without marks.</summary>
    public static Layers WordLayersOf(SqliteConnection c, long id) =>
        new Layers(
            c.Query(
                    "SELECT number, text FROM retyped WHERE transcript_id = $t",
                    r => KeyValuePair.Create(Columns.Word(r, 0), r.GetString(1)),
                    ("$t", id)
                )
                .ToImmutableSortedDictionary(),
            NamesOf(c, id)
        )
        {
            Given = c.Query(
                    "SELECT number, voice FROM given WHERE transcript_id = $t",
                    r => KeyValuePair.Create(Columns.Word(r, 0), r.GetInt32(1)),
                    ("$t", id)
                )
                .ToImmutableSortedDictionary(),
            Added = c.Query(
                    "SELECT number, after, text, time_in, time_out, voice, withdrawn FROM added WHERE transcript_id = $t",
                    r =>
                        KeyValuePair.Create(
                            Columns.Word(r, 0),
                            new AddedWord(Columns.Word(r, 1), r.GetString(2), Columns.Range(r, 3), r.GetInt32(5), r.GetInt32(6) == 1)
                        ),
                    ("$t", id)
                )
                .ToImmutableSortedDictionary(),
            Joined = [.. c.Query("SELECT number FROM joined WHERE transcript_id = $t", r => Columns.Word(r, 0), ("$t", id))],
            Hidden = [.. c.Query("SELECT number FROM hidden WHERE transcript_id = $t", r => Columns.Word(r, 0), ("$t", id))],
        };

    /// <summary>The names of its voices.</summary>
    public static ImmutableSortedDictionary<int, string> NamesOf(SqliteConnection c, long id) =>
        c.Query(
                "SELECT voice, name FROM voice_name WHERE transcript_id = $t",
                r => KeyValuePair.Create(r.GetInt32(0), r.GetString(1)),
                ("$t", id)
            )
            .ToImmutableSortedDictionary();

    /// <summary>Writes words of a record.</summary>
    public static void Insert(SqliteConnection c, long id, IReadOnlyList<RecordWord> words)
    {
        using var insert = c.CreateCommand();
        insert.CommandText =
            "INSERT INTO word (transcript_id, number, text, time_in, time_out, confidence, voice, voice_sure) VALUES ($t, $n, $text, $in, "
            + "$out, $c, $v, $sure)";
        var names = new[] { "$t", "$n", "$text", "$in", "$out", "$c", "$v", "$sure" };
        var values = Array.ConvertAll(names, n => insert.Parameters.AddWithValue(n, DBNull.Value));
        foreach (var word in words)
        {
            object?[] row =
            [
                id,
                word.Number,
                word.Text,
                word.Range.In.FromZero.Units,
                word.Range.Out.FromZero.Units,
                word.Confidence,
                word.Voice,
                word.VoiceSure,
            ];
            for (var i = 0; i < row.Length; i++)
            {
                values[i].Value = Sql.Plain(row[i]);
            }
            insert.ExecuteNonQuery();
        }
    }

    /// <summary>Writes what differs between two states of a text's layers.</summary>
    public static void Save(SqliteConnection c, long id, Layers before, Layers after)
    {
        SaveLayer(c, "retyped", "number", "text", id, before.Retyped, after.Retyped);
        SaveLayer(c, "voice_name", "voice", "name", id, before.VoiceNames, after.VoiceNames);
        foreach (var gone in before.Given.Keys.Where(k => !after.Given.ContainsKey(k)))
        {
            c.Execute("DELETE FROM given WHERE transcript_id = $t AND number = $n", ("$t", id), ("$n", gone));
        }
        foreach (var (number, voice) in after.Given.Where(g => !before.Given.TryGetValue(g.Key, out var old) || old != g.Value))
        {
            c.Execute("INSERT OR REPLACE INTO given VALUES ($t, $n, $v)", ("$t", id), ("$n", number), ("$v", voice));
        }
        foreach (var (number, word) in after.Added.Except(before.Added))
        {
            c.Execute(
                "INSERT OR REPLACE INTO added VALUES ($t, $n, $after, $text, $in, $out, $voice, $gone)",
                ("$t", id),
                ("$n", number),
                ("$after", word.After),
                ("$text", word.Text),
                ("$in", word.Range.In.FromZero.Units),
                ("$out", word.Range.Out.FromZero.Units),
                ("$voice", word.Voice),
                ("$gone", word.IsWithdrawn ? 1 : 0)
            );
        }
        Marks.Save(c, id, before.Marks, after.Marks);
        SaveSet(c, "joined", id, before.Joined, after.Joined);
        SaveSet(c, "hidden", id, before.Hidden, after.Hidden);
        SaveSet(c, "layer_off", id, before.Off, after.Off, "layer");
    }

    // Table and column names are this file's own words, never a person's.
    private static void SaveSet<T>(
        SqliteConnection c,
        string table,
        long id,
        ImmutableSortedSet<T> before,
        ImmutableSortedSet<T> after,
        string column = "number"
    )
    {
        foreach (var gone in before.Except(after))
        {
            c.Execute($"DELETE FROM {table} WHERE transcript_id = $t AND {column} = $n", ("$t", id), ("$n", gone));
        }
        foreach (var number in after.Except(before))
        {
            c.Execute($"INSERT INTO {table} VALUES ($t, $n)", ("$t", id), ("$n", number));
        }
    }

    private static void SaveLayer<TKey>(
        SqliteConnection c,
        string table,
        string key,
        string value,
        long id,
        ImmutableSortedDictionary<TKey, string> before,
        ImmutableSortedDictionary<TKey, string> after
    )
        where TKey : struct
    {
        foreach (var gone in before.Keys.Where(k => !after.ContainsKey(k)))
        {
            c.Execute($"DELETE FROM {table} WHERE transcript_id = $t AND {key} = $k", ("$t", id), ("$k", gone));
        }
        foreach (var (k, text) in after.Where(a => !before.TryGetValue(a.Key, out var old) || old != a.Value))
        {
            c.Execute(
                $"INSERT OR REPLACE INTO {table} (transcript_id, {key}, {value}) VALUES ($t, $k, $v)",
                ("$t", id),
                ("$k", k),
                ("$v", text)
            );
        }
    }
}
