using System.Globalization;
using System.IO.Compression;
using System.Text;
using System.Text.Json;
using EmberLane.Core.Handoff;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Exports;

/// <summary>
/// Writes a production whole, to be brought in elsewhere: a ZIP with <see cref="Rows"/> (a line of JSON each, described in
/// docs/formats.md) and <see cref="Media"/>, a table of the files that it is made of. No footage is in it.
/// </summary>
public static class ProductionExport
{
    /// <summary>The names of what lies in an export.</summary>
    public const string Rows = "production.jsonl",
        Media = "media.csv";

    /// <summary>What the first line says that it is, and the number of this way to write it.</summary>
    internal const string Format = "ember-lane production";

    /// <inheritdoc cref="Format"/>
    internal const int FormatVersion = 1;

    /// <summary>
    /// Writes a production as it stands at this moment, whatever is changed meanwhile; returns how many rows. Throws
    /// <see cref="Core.EditRefusedException"/> for one that is not there, and one whose stories show something of other productions.
    /// </summary>
    public static long Write(Database database, long productionId, DateTimeOffset at, Stream output) =>
        database.Read(c =>
        {
            // One reading of all tables: as they stood together.
            using var transaction = c.BeginTransaction(deferred: true);
            var name =
                c.Query("SELECT name FROM production WHERE id = $p", r => r.GetString(0), ("$p", productionId)).SingleOrDefault()
                ?? throw new Core.EditRefusedException("There is no such production.");
            RefuseForeign(c, productionId);
            using var zip = new ZipArchive(output, ZipArchiveMode.Create, leaveOpen: true);
            long rows;
            using (var entry = zip.CreateEntry(Rows, CompressionLevel.Optimal).Open())
            {
                rows = WriteRows(c, productionId, name, at, entry);
            }
            using (var entry = new StreamWriter(zip.CreateEntry(Media, CompressionLevel.Optimal).Open(), new UTF8Encoding(true)))
            {
                entry.Write(MediaList(c, productionId));
            }
            return rows;
        });

    // What a story takes from another production would have nothing to stand on.
    private static void RefuseForeign(SqliteConnection c, long production)
    {
        var foreign = c.Query(
            "SELECT DISTINCT y.title, o.name FROM story y JOIN card k ON k.story_id = y.id JOIN sitting s ON s.id = k.sitting_id JOIN "
                + "production o ON o.id = s.production_id WHERE y.production_id = $p AND s.production_id <> $p LIMIT 5",
            r => $"“{r.GetString(0)}” shows bites of {r.GetString(1)}",
            ("$p", production)
        );
        if (foreign.Count > 0)
        {
            throw new Core.EditRefusedException(
                $"{string.Join("; ", foreign)}. An export holds one production: take those cards out (a version keeps the story as it is "
                    + "now), or give away a backup instead."
            );
        }
    }

    private static long WriteRows(SqliteConnection c, long production, string name, DateTimeOffset at, Stream output)
    {
        using var text = new BufferedStream(output, 1 << 16);
        Line(
            text,
            json =>
            {
                json.WriteStartObject();
                json.WriteString("format", Format);
                json.WriteNumber("version", FormatVersion);
                json.WriteNumber("schema", Database.NewestSchema);
                json.WriteString("production", name);
                json.WriteString("made", at.ToString("O", CultureInfo.InvariantCulture));
                json.WriteEndObject();
            }
        );
        long rows = 0;
        foreach (var table in ExportTables.All)
        {
            rows += WriteTable(c, table, production, text);
        }
        // Without its last line an export was cut short.
        Line(
            text,
            json =>
            {
                json.WriteStartObject();
                json.WriteNumber("rows", rows);
                json.WriteEndObject();
            }
        );
        return rows;
    }

    private static long WriteTable(SqliteConnection c, ExportTable table, long production, Stream output)
    {
        long rows = 0;
        using var command = c.CreateCommand();
        command.CommandText = $"SELECT * FROM \"{table.Name}\" WHERE {table.Of}";
        command.Parameters.AddWithValue("$p", production);
        using var reader = command.ExecuteReader();
        Line(
            output,
            json =>
            {
                json.WriteStartObject();
                json.WriteString("table", table.Name);
                json.WriteStartArray("columns");
                for (var i = 0; i < reader.FieldCount; i++)
                {
                    json.WriteStringValue(reader.GetName(i));
                }
                json.WriteEndArray();
                json.WriteEndObject();
            }
        );
        while (reader.Read())
        {
            Line(output, json => WriteRow(json, reader));
            rows++;
        }
        return rows;
    }

    private static void WriteRow(Utf8JsonWriter json, SqliteDataReader reader)
    {
        json.WriteStartArray();
        for (var i = 0; i < reader.FieldCount; i++)
        {
            switch (reader.GetValue(i))
            {
                case long number:
                    json.WriteNumberValue(number);
                    break;
                case double number:
                    json.WriteNumberValue(number);
                    break;
                case string text:
                    json.WriteStringValue(text);
                    break;
                case byte[] bytes:
                    json.WriteStartObject();
                    json.WriteBase64String("base64", bytes);
                    json.WriteEndObject();
                    break;
                default:
                    json.WriteNullValue();
                    break;
            }
        }
        json.WriteEndArray();
    }

    private static void Line(Stream output, Action<Utf8JsonWriter> write)
    {
        using (var json = new Utf8JsonWriter(output))
        {
            write(json);
        }
        output.WriteByte((byte)'\n');
    }

    private static string MediaList(SqliteConnection c, long production) =>
        CsvRows.Written(
            ["file", "bytes", "content (SHA-256)", "sitting", "where it lay"],
            c.Query(
                "SELECT s.name, s.size, s.fingerprint, COALESCE(g.title, ''), s.path FROM source s LEFT JOIN sitting g ON g.id = "
                    + "s.sitting_id WHERE s.production_id = $p ORDER BY g.title, s.name",
                r =>
                    (string[])
                        [
                            r.GetString(0),
                            r.GetInt64(1).ToString(CultureInfo.InvariantCulture),
                            r.GetString(2),
                            r.GetString(3),
                            r.GetString(4),
                        ],
                ("$p", production)
            )
        );
}
