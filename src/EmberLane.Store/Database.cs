using System.Globalization;
using System.Reflection;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The data can not be opened; the message says why and what to do.</summary>
public sealed class StoreException(string message) : Exception(message);

/// <summary>Someone else changed the same thing first; nothing was saved.</summary>
public sealed class ConflictException(string message) : Exception(message);

/// <summary>
/// The SQLite file. Reads go side by side; writes go one after another, each in one transaction that is on disk when the call returns (WAL, synchronous FULL).
/// </summary>
public sealed class Database
{
    private readonly string connectionString;
    private readonly Lock writing = new();

    /// <summary>Opens or makes the file and applies the numbered schema scripts that it lacks. Throws <see cref="StoreException"/> for a file made by a newer Ember Lane or no database at all.</summary>
    public Database(string path)
    {
        connectionString = new SqliteConnectionStringBuilder { DataSource = path, ForeignKeys = true, DefaultTimeout = 30 }.ToString();
        try
        {
            using var connection = Open();
            connection.Execute("PRAGMA journal_mode = WAL");
            Upgrade(connection, path);
        }
        catch (SqliteException e) when (e.SqliteErrorCode is 26 or 11)
        {
            throw new StoreException($"{path} is not an Ember Lane database, or it is damaged. Move it away, or put back a copy.");
        }
    }

    public T Read<T>(Func<SqliteConnection, T> read)
    {
        using var connection = Open();
        return read(connection);
    }

    /// <summary>Runs a change in one transaction; an exception leaves everything as it was.</summary>
    public T Write<T>(Func<SqliteConnection, T> change)
    {
        lock (writing)
        {
            using var connection = Open();
            // Immediate: takes the write lock now, so that what is read inside is what will be changed.
            using var transaction = connection.BeginTransaction(deferred: false);
            var result = change(connection);
            transaction.Commit();
            return result;
        }
    }

    public void Write(Action<SqliteConnection> change) => Write(c =>
    {
        change(c);
        return 0;
    });

    private SqliteConnection Open()
    {
        var connection = new SqliteConnection(connectionString);
        connection.Open();
        connection.Execute("PRAGMA synchronous = FULL");
        return connection;
    }

    private static void Upgrade(SqliteConnection connection, string path)
    {
        var assembly = Assembly.GetExecutingAssembly();
        var scripts = assembly.GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal)).Order(StringComparer.Ordinal).ToList();
        var version = (int)connection.Query("PRAGMA user_version", r => r.GetInt64(0)).Single();
        if (version > scripts.Count)
        {
            throw new StoreException($"{path} was made by a newer Ember Lane. Start that one, or choose another data folder with --data.");
        }
        for (var next = version; next < scripts.Count; next++)
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(scripts[next])!);
            using var transaction = connection.BeginTransaction();
            connection.Execute(reader.ReadToEnd());
            connection.Execute(string.Create(CultureInfo.InvariantCulture, $"PRAGMA user_version = {next + 1}"));
            transaction.Commit();
        }
    }
}
