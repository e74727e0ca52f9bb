using System.Globalization;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What a production of a backup holds.</summary>
public sealed record BackedUpProduction(string Name, long Sittings, long Bites, long Stories);

/// <summary>
/// What a backup holds: the number of its schema, its productions, and when somebody last changed something; null where nobody did.
/// </summary>
public sealed record BackupContents(int Schema, IReadOnlyList<BackedUpProduction> Productions, DateTimeOffset? LastChange);

/// <summary>Copies of the database that are whole and consistent, made while others read and write.</summary>
public static class DatabaseBackup
{
    /// <summary>
    /// Copies a database by SQLite's own way to a file, which is there only when it is whole, was read through from end to end and lies on
    /// the disk. Nobody is kept from writing meanwhile. Returns what it holds. Throws <see cref="StoreException"/> with a sentence.
    /// </summary>
    public static BackupContents Write(string from, string to)
    {
        var part = FormattableString.Invariant($"{to}.{Guid.NewGuid():N}.part");
        try
        {
            using (var source = Open(from, SqliteOpenMode.ReadWrite))
            using (var copy = Open(part, SqliteOpenMode.ReadWriteCreate))
            {
                File.SetUnixFileMode(part, UnixFileMode.UserRead | UnixFileMode.UserWrite);
                source.BackupDatabase(copy);
                // One file alone: without a log beside it.
                copy.Execute("PRAGMA journal_mode = DELETE");
            }
            var contents = Look(part);
            using (var file = new FileStream(part, FileMode.Open, FileAccess.ReadWrite))
            {
                file.Flush(flushToDisk: true);
            }
            File.Move(part, to, overwrite: false);
            return contents;
        }
        catch (Exception e) when (e is SqliteException or IOException or UnauthorizedAccessException)
        {
            throw new StoreException(
                $"No backup could be made at {to}: {e.Message} Check that its folder may be written and its disk has room; nothing else "
                    + "was changed."
            );
        }
        finally
        {
            foreach (var left in new[] { part, part + "-journal", part + "-wal", part + "-shm" })
            {
                File.Delete(left);
            }
        }
    }

    /// <summary>
    /// Reads a backup through from end to end and says what it holds. Throws <see cref="StoreException"/> with a sentence for one that is
    /// not whole, is none, or was made by a newer Ember Lane.
    /// </summary>
    public static BackupContents Look(string path)
    {
        if (!File.Exists(path))
        {
            throw new StoreException($"{path}: there is no such backup.");
        }
        try
        {
            using var backup = Open(path, SqliteOpenMode.ReadOnly);
            var schema = (int)backup.Query("PRAGMA user_version", r => r.GetInt64(0)).Single();
            // Databases from before the mark are known by their tables.
            var isMarked = backup.Query("PRAGMA application_id", r => r.GetInt64(0)).Single() == Database.ApplicationId;
            if (schema == 0 || (!isMarked && !(Has(backup, "transcript") && Has(backup, "sitting"))))
            {
                throw new StoreException($"{path} is no backup of an Ember Lane database.");
            }
            if (schema > Database.NewestSchema)
            {
                throw new StoreException($"{path} was made by a newer Ember Lane. Use that one to bring it back.");
            }
            if (backup.Query("PRAGMA integrity_check(1)", r => r.GetString(0)).Single() is not "ok")
            {
                throw Damaged(path);
            }
            return new BackupContents(schema, ProductionsOf(backup), LastChangeOf(backup));
        }
        catch (SqliteException e) when (e.SqliteErrorCode is 26 or 11)
        {
            throw Damaged(path);
        }
        catch (SqliteException e)
        {
            throw new StoreException($"{path} can not be read: {e.Message}");
        }
    }

    /// <summary>
    /// The number of the schema of a database that a start would bring along to a newer one; null where there is none, or it is the newest,
    /// or not ours.
    /// </summary>
    public static int? OlderSchema(string path)
    {
        if (new FileInfo(path) is not { Exists: true, Length: > 0 })
        {
            return null;
        }
        try
        {
            using var database = Open(path, SqliteOpenMode.ReadWrite);
            var schema = (int)database.Query("PRAGMA user_version", r => r.GetInt64(0)).Single();
            return schema > 0 && schema < Database.NewestSchema ? schema : null;
        }
        catch (SqliteException)
        {
            // Whoever opens it next says what is wrong.
            return null;
        }
    }

    /// <summary>
    /// Puts all that stands in the log beside a database into its file, so that this alone is the database. For one that nobody uses.
    /// </summary>
    public static void Gather(string path)
    {
        SqliteConnection.ClearAllPools();
        using var database = Open(path, SqliteOpenMode.ReadWrite);
        database.Execute("PRAGMA wal_checkpoint(TRUNCATE)");
    }

    /// <summary>The copies to hear and see that a database tells of: id and bytes.</summary>
    public static IReadOnlyDictionary<long, long> CopiesOf(string path)
    {
        using var database = Open(path, SqliteOpenMode.ReadOnly);
        return Has(database, "copy")
            ? database
                .Query("SELECT id, bytes FROM copy", r => (Id: r.GetInt64(0), Bytes: r.GetInt64(1)))
                .ToDictionary(c => c.Id, c => c.Bytes)
            : new Dictionary<long, long>();
    }

    private static StoreException Damaged(string path) =>
        new($"{path} is not whole, or no database: it can not be brought back. Take an older backup; ./ember backup --list names them.");

    private static List<BackedUpProduction> ProductionsOf(SqliteConnection backup)
    {
        return backup.Query(
            $"SELECT p.name, {Count("sitting")}, {Count("bite")}, {Count("story")} FROM production p ORDER BY p.id",
            r => new BackedUpProduction(r.GetString(0), r.GetInt64(1), r.GetInt64(2), r.GetInt64(3))
        );

        // Older schemas lack some.
        string Count(string table) =>
            !Has(backup, table) ? "0"
            : backup.Query($"SELECT name FROM pragma_table_info('{table}')", r => r.GetString(0)).Contains("production_id")
                ? $"(SELECT COUNT(*) FROM {table} t WHERE t.production_id = p.id)"
            : Has(backup, "sitting")
                ? $"(SELECT COUNT(*) FROM {table} t JOIN sitting s ON s.id = t.sitting_id WHERE s.production_id = p.id)"
            : "0";
    }

    private static DateTimeOffset? LastChangeOf(SqliteConnection backup) =>
        Has(backup, "change") && backup.Query("SELECT MAX(at) FROM change", r => r.IsDBNull(0) ? null : r.GetString(0)).Single() is { } at
            ? DateTimeOffset.Parse(at, CultureInfo.InvariantCulture)
            : null;

    private static bool Has(SqliteConnection database, string table) =>
        database.Query("SELECT 1 FROM sqlite_schema WHERE type = 'table' AND name = $n", r => r.GetInt64(0), ("$n", table)).Count > 0;

    private static SqliteConnection Open(string path, SqliteOpenMode mode)
    {
        var connection = new SqliteConnection(
            new SqliteConnectionStringBuilder
            {
                DataSource = path,
                Mode = mode,
                Pooling = false,
                DefaultTimeout = 30,
            }.ToString()
        );
        connection.Open();
        return connection;
    }
}
