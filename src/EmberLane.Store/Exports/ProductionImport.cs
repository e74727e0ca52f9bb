using System.Globalization;
using System.IO.Compression;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Exports;

/// <summary>What was brought in: the production, its name here, and how many rows.</summary>
public sealed record ImportedProduction(long Id, string Name, long Rows);

/// <summary>
/// Brings in what <see cref="ProductionExport"/> wrote, beside what is there. It is first laid into a database of its own, with the schema
/// that it was written from; brought along to this one; read through from end to end; and only then copied over, in one change, with new
/// numbers.
/// </summary>
public sealed partial class ProductionImport(Database database, Transcripts transcripts, TimeProvider clock)
{
    /// <summary>The oldest schema that an export can be of.</summary>
    public const int OldestSchema = 39;

    // So many rows are laid between two looks at the disk.
    private const int BetweenLooks = 20_000,
        DiskIsFull = 13;

    /// <summary>
    /// Brings a production in, under its name or one with a number behind it where that is taken. <paramref name="folder"/> is one to work
    /// in, which is there and empty; <paramref name="isFull"/> tells whether its disk has no more room. Throws
    /// <see cref="StoreException"/> with a sentence; then nothing was changed.
    /// </summary>
    public ImportedProduction Run(Stream export, string folder, Func<bool>? isFull = null)
    {
        var path = Path.Combine(folder, "export.sqlite");
        try
        {
            Lay(export, path, isFull ?? (() => false));
            var laid = new Database(path);
            Look(laid);
            return laid.Read(from => database.Write(to => Copy(from, to)));
        }
        catch (SqliteException e) when (e.SqliteErrorCode == DiskIsFull)
        {
            throw new StoreException("The disk is full. Nothing was changed; make room, then bring it in again.");
        }
        // Whatever it is that can not be read: it was made by somebody else.
        catch (Exception e) when (e is not (StoreException or OutOfMemoryException))
        {
            throw new StoreException(
                $"That is no export of a production that can be brought in, or it is damaged: {e.Message.TrimEnd('.')}. Nothing was "
                    + "changed; have it made and sent again."
            );
        }
        finally
        {
            SqliteConnection.ClearAllPools();
        }
    }

    private static void Lay(Stream export, string path, Func<bool> isFull)
    {
        using var zip = new ZipArchive(export, ZipArchiveMode.Read, leaveOpen: true);
        var entry = zip.GetEntry(ProductionExport.Rows) ?? throw new FormatException($"there is no {ProductionExport.Rows} in it");
        using var input = entry.Open();
        var lines = new ExportLines(input);
        var head = lines.Next() ?? throw new FormatException("it is empty");
        if (
            head.ValueKind != JsonValueKind.Object
            || !head.TryGetProperty("format", out var format)
            || format.ValueKind != JsonValueKind.String
            || format.GetString() != ProductionExport.Format
        )
        {
            throw new FormatException("its first line does not say that it is one");
        }
        var (version, schema) = (head.GetProperty("version").GetInt32(), head.GetProperty("schema").GetInt32());
        if (version > ProductionExport.FormatVersion || schema > Database.NewestSchema)
        {
            throw new StoreException(
                "This export was made by a newer Ember Lane. Bring it in there, or bring this one up to date first. Nothing was changed."
            );
        }
        if (version < 1 || schema < OldestSchema)
        {
            throw new FormatException("its first line tells of a version that never was");
        }
        Database.Fill(path, schema, c => Fill(c, lines, isFull));
    }

    private static void Fill(SqliteConnection c, ExportLines lines, Func<bool> isFull)
    {
        var names = ExportTables.All.Select(t => t.Name).ToHashSet();
        long rows = 0;
        SqliteCommand? insert = null;
        try
        {
            while (lines.Next() is { } line)
            {
                if (line.ValueKind == JsonValueKind.Array)
                {
                    if (insert is null || line.GetArrayLength() != insert.Parameters.Count)
                    {
                        throw new FormatException(FormattableString.Invariant($"line {lines.Number} has not as many values as columns"));
                    }
                    foreach (var (i, value) in line.EnumerateArray().Index())
                    {
                        insert.Parameters[i].Value = Read(value);
                    }
                    insert.ExecuteNonQuery();
                    rows++;
                    if (rows % BetweenLooks == 0 && isFull())
                    {
                        throw new StoreException(
                            "The disk of the data folder is nearly full: the export has more in it than fits. Nothing was changed; make "
                                + "room, then bring it in again."
                        );
                    }
                }
                else if (line.TryGetProperty("table", out var table))
                {
                    insert?.Dispose();
                    insert = Insert(
                        c,
                        names,
                        table.GetString() ?? "",
                        [.. line.GetProperty("columns").EnumerateArray().Select(n => n.GetString() ?? "")]
                    );
                }
                else if (line.GetProperty("rows").GetInt64() == rows)
                {
                    return;
                }
                else
                {
                    break;
                }
            }
        }
        finally
        {
            insert?.Dispose();
        }
        throw new FormatException("it was cut short");
    }

    private static SqliteCommand Insert(SqliteConnection c, HashSet<string> names, string table, string[] columns)
    {
        var known = names.Contains(table) ? Columns(c, table) : throw new FormatException($"it has a table “{table}”");
        if (columns.Length == 0 || columns.Except(known).Any() || columns.Distinct().Count() != columns.Length)
        {
            throw new FormatException($"its table “{table}” has other columns");
        }
        var command = c.CreateCommand();
        command.CommandText =
            $"INSERT INTO \"{table}\" ({string.Join(", ", columns.Select(n => $"\"{n}\""))}) "
            + $"VALUES ({string.Join(", ", columns.Select((_, i) => $"${i}"))})";
        foreach (var i in Enumerable.Range(0, columns.Length))
        {
            command.Parameters.Add(new SqliteParameter($"${i}", null));
        }
        return command;
    }

    private static List<string> Columns(SqliteConnection c, string table) =>
        c.Query("SELECT name FROM pragma_table_info($t)", r => r.GetString(0), ("$t", table));

    private static object Read(JsonElement value) =>
        value.ValueKind switch
        {
            JsonValueKind.Null => DBNull.Value,
            JsonValueKind.String => value.GetString()!,
            JsonValueKind.Number => value.TryGetInt64(out var whole) ? whole : value.GetDouble(),
            JsonValueKind.Object when value.TryGetProperty("base64", out var text) && text.TryGetBytesFromBase64(out var bytes) => bytes,
            _ => throw new FormatException("it has values of another kind"),
        };

    // All that pages read, by what they read it with: what can not be read is not brought in.
    private void Look(Database laid)
    {
        if (laid.Read(c => c.Query("PRAGMA foreign_key_check", r => r.GetString(0))) is [var odd, ..])
        {
            throw new FormatException($"something in its table {odd} refers to what is not there");
        }
        laid.Read(LookAtMoments);
        var (footage, texts) = (new Footage(laid, clock), new Transcripts(laid, clock));
        var (stories, bites, comments) = (new Stories(laid, texts, clock), new Bites(laid, texts, clock), new Comments(laid, clock));
        var productions = footage.Productions();
        if (
            productions is not [var production]
            || laid.Read(c => c.Query("SELECT 1 FROM change WHERE production_id <> $p LIMIT 1", r => 1, ("$p", production.Id))).Count > 0
        )
        {
            throw new FormatException("it is not of one production");
        }
        foreach (var source in footage.Sources(production.Id))
        {
            // Files that are made of one are called by its content, and what leaves by its name.
            if (
                !Sum().IsMatch(source.Fingerprint)
                || source.Name.Length == 0
                || source.Name.AsSpan().ContainsAny('/', '\0', '\n')
                || source.Name is "." or ".."
            )
            {
                throw new FormatException($"a file of it is called “{source.Name}”, of content “{source.Fingerprint}”");
            }
        }
        foreach (var text in laid.Read(c => c.Query("SELECT id FROM transcript", r => r.GetInt64(0))))
        {
            _ = texts.Get(text).Words.Count;
            _ = texts.DoubtOf(text);
        }
        new Readings(laid, texts).Rebuild();
        foreach (var story in stories.Of(production.Id))
        {
            if (stories.Get(story.Id, "") is not { } read)
            {
                throw new FormatException("a story of it can not be read");
            }
            _ = stories.ReadingsOf(read).Count;
            var captions = new Captions(laid, clock).Of(story.Id);
            _ = captions.Rules;
            _ = captions.Languages.Prepend("").Sum(l => captions.Of(l).Count);
        }
        foreach (var sitting in footage.Sittings(production.Id))
        {
            var cameras = new Cameras(laid, clock).Of(sitting.Id);
            _ = (cameras.Rules, cameras.Locks.Count, cameras.Crowd.Count);
        }
        _ = bites.Of(production.Id);
        _ = comments.Listed(production.Id, ListedTalks.Open, "").Count + comments.Listed(production.Id, ListedTalks.Settled, "").Count;
        _ = new Changes(laid).Of(production.Id, int.MaxValue);
    }

    // Not every row is read by a page above, and each is by some page some day.
    private static int LookAtMoments(SqliteConnection laid)
    {
        var moments = 0;
        foreach (var table in ExportTables.All.Select(t => t.Name))
        {
            foreach (var column in Columns(laid, table).Where(c => c == "at" || c.EndsWith("_at", StringComparison.Ordinal)))
            {
                foreach (
                    var at in laid.Query(
                        $"SELECT DISTINCT \"{column}\" FROM \"{table}\" WHERE \"{column}\" IS NOT NULL",
                        r => r.GetValue(0)
                    )
                )
                {
                    if (at is not string text || !DateTimeOffset.TryParse(text, CultureInfo.InvariantCulture, out _))
                    {
                        throw new FormatException($"“{at}” in its table {table} is no moment");
                    }
                    moments++;
                }
            }
        }
        return moments;
    }

    private ImportedProduction Copy(SqliteConnection from, SqliteConnection to)
    {
        // What refers to what comes in any order; all of it is asked for when the change is kept.
        to.Execute("PRAGMA defer_foreign_keys = ON");
        var map = new IdMap();
        foreach (var table in ExportTables.All.Where(t => t.Own is not null))
        {
            var next = Next(to, table.Name);
            foreach (var id in from.Query($"SELECT id FROM \"{table.Name}\" ORDER BY id", r => r.GetInt64(0)))
            {
                map.Add(table.Own!.Value, id, next++);
            }
        }
        long rows = 0;
        var name = "";
        foreach (var table in ExportTables.All)
        {
            rows += CopyTable(from, to, table, map, row => name = Named(to, row));
        }
        var production = map.All(IdSpace.Production).Single();
        to.Execute("DELETE FROM production_setting WHERE production_id = $p AND name = 'arrival.from'", ("$p", production));
        foreach (var sitting in map.All(IdSpace.Sitting))
        {
            Readings.Refresh(to, transcripts, sitting);
        }
        return new ImportedProduction(production, name, rows);
    }

    private static long CopyTable(SqliteConnection from, SqliteConnection to, ExportTable table, IdMap map, Action<ExportRow> name)
    {
        using var select = from.CreateCommand();
        select.CommandText = $"SELECT * FROM \"{table.Name}\"";
        using var reader = select.ExecuteReader();
        string[] columns = [.. Enumerable.Range(0, reader.FieldCount).Select(reader.GetName)];
        using var insert = Insert(to, [table.Name], table.Name, columns);
        var values = new object?[columns.Length];
        var row = new ExportRow(columns, values);
        long rows = 0;
        while (reader.Read())
        {
            reader.GetValues(values!);
            if (table.Own is { } own)
            {
                row["id"] = map.Of(own, (long)row["id"]!);
            }
            foreach (var (column, space) in table.Refers)
            {
                if (row[column] is long id)
                {
                    row[column] = map.Of(space, id);
                }
            }
            table.Further?.Invoke(row, map);
            if (table.Own == IdSpace.Production)
            {
                name(row);
            }
            for (var i = 0; i < values.Length; i++)
            {
                insert.Parameters[i].Value = values[i] ?? DBNull.Value;
            }
            insert.ExecuteNonQuery();
            rows++;
        }
        return rows;
    }

    // Behind all that are there, and all that were where numbers do not come again.
    private static long Next(SqliteConnection c, string table) =>
        c.Query(
                $"SELECT MAX(COALESCE((SELECT MAX(id) FROM \"{table}\"), 0), "
                    + "COALESCE((SELECT seq FROM sqlite_sequence WHERE name = $t), 0)) + 1",
                r => r.GetInt64(0),
                ("$t", table)
            )
            .Single();

    // Its own name where that is free, or with a number behind it; not put away.
    private static string Named(SqliteConnection c, ExportRow production)
    {
        var taken = c.Query("SELECT name FROM production", r => r.GetString(0)).ToHashSet(StringComparer.OrdinalIgnoreCase);
        var own = Core.TypedText.OneLine(production.Text("name") ?? "");
        own = own.Length is > 0 and <= Productions.LongestName ? own : throw new FormatException("its production has no name");
        var name = Enumerable
            .Range(1, int.MaxValue)
            .Select(n => n == 1 ? own : FormattableString.Invariant($"{own[..Math.Min(own.Length, Productions.LongestName - 8)]} ({n})"))
            .First(n => !taken.Contains(n));
        (production["name"], production["away"]) = (name, 0L);
        return name;
    }

    [GeneratedRegex("^[0-9A-Za-z]{1,128}\\z")]
    private static partial Regex Sum();
}
