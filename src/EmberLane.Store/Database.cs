using System.Globalization;
using System.Reflection;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The data can not be opened; the message says why and what to do.</summary>
public sealed class StoreException(string message) : Exception(message);

/// <summary>Someone else changed the same thing first; nothing was saved.</summary>
public sealed class ConflictException(string message) : Exception(message);

/// <summary>
/// The SQLite file. Reads go side by side; writes go one after another, each in one transaction that is on disk when the call returns (WAL,
/// synchronous FULL).
/// </summary>
public sealed class Database
{
    /// <summary>“EMBL”: marks the file as Ember Lane's.</summary>
    internal const long ApplicationId = 1162691660;

    /// <summary>A file larger than this (200 MB) is not looked through at the start; damage shows when it is read.</summary>
    private const long LookedThrough = 200L << 20;

    // What a script alone can not bring along, in its transaction.
    private static readonly (string Script, Action<SqliteConnection> Bring)[] Brought =
    [
        ("015-marks.sql", OlderMarks.Bring),
        ("016-basis.sql", OlderPlaces.Bring),
    ];

    /// <summary>The number of the newest schema.</summary>
    internal static int NewestSchema { get; } = Scripts().Count;

    private readonly string connectionString;
    private readonly Lock writing = new();
    private readonly List<Action> whenKept = [];
    private SqliteConnection? changing;
    private long kept;

    /// <summary>
    /// Opens or makes the file and applies the numbered schema scripts that it lacks. Throws <see cref="StoreException"/> with a sentence
    /// for a file made by a newer Ember Lane, one that is empty, damaged or no database of ours, and a place where none can be written.
    /// </summary>
    public Database(string path)
    {
        connectionString = new SqliteConnectionStringBuilder
        {
            DataSource = path,
            ForeignKeys = true,
            DefaultTimeout = 30,
        }.ToString();
        try
        {
            Prepare(path);
            using var connection = Open();
            connection.Execute("PRAGMA journal_mode = WAL");
            Upgrade(connection, path, NewestSchema);
            if (
                new FileInfo(path).Length <= LookedThrough
                && connection.Query("PRAGMA quick_check(1)", r => r.GetString(0)).Single() is not "ok"
            )
            {
                throw Damaged(path);
            }
        }
        catch (SqliteException e)
        {
            throw e.SqliteErrorCode switch
            {
                26 or 11 => Damaged(path),
                13 => new StoreException($"The disk of {path} is full. Make room, then start again; nothing was changed."),
                5 or 6 => new StoreException($"{path} is in use by another program. Close that, then start again."),
                _ => new StoreException(
                    $"{path} can not be opened or written: {e.Message} Check that the folder and the file may be read and written by this "
                        + "account, and that its disk has room."
                ),
            };
        }
    }

    /// <summary>Makes a file with an earlier schema and nothing in it, and runs <paramref name="fill"/> on it in one transaction.</summary>
    internal static void Fill(string path, int schema, Action<SqliteConnection> fill)
    {
        Prepare(path);
        using var connection = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = path, Pooling = false }.ToString());
        connection.Open();
        Upgrade(connection, path, schema);
        connection.Execute("PRAGMA foreign_keys = OFF");
        using var transaction = connection.BeginTransaction();
        fill(connection);
        transaction.Commit();
    }

    private static StoreException Damaged(string path) =>
        new($"{path} is not an Ember Lane database, or it is damaged. Move it away, or put back a copy.");

    // SQLite takes an empty file for a new database; here it is what a broken copy left.
    private static void Prepare(string path)
    {
        if (Directory.Exists(path))
        {
            throw new StoreException(
                $"{path} is a folder; the database is kept in a file of that name. Move the folder away, or choose another data folder "
                    + "with --data."
            );
        }
        var file = new FileInfo(path);
        if (file is { Exists: true, Length: 0 })
        {
            throw new StoreException(
                $"{path} is empty (0 bytes), which no database is. Put back a copy, or remove the file to begin anew."
            );
        }
        try
        {
            if (!file.Exists)
            {
                // Written under another name first: an empty file of this name is never left behind.
                var part = path + ".new";
                File.Delete(part);
                using (var made = new SqliteConnection(new SqliteConnectionStringBuilder { DataSource = part, Pooling = false }.ToString()))
                {
                    made.Open();
                    made.Execute("PRAGMA journal_mode = WAL");
                    made.Execute(string.Create(CultureInfo.InvariantCulture, $"PRAGMA application_id = {ApplicationId}"));
                }
                File.Move(part, path);
            }
            // What people said and decided is for its owner's eyes; the -wal and -shm beside it take these rights too.
            File.SetUnixFileMode(path, UnixFileMode.UserRead | UnixFileMode.UserWrite);
        }
        catch (Exception e) when (e is UnauthorizedAccessException or IOException)
        {
            throw new StoreException(
                $"{path} can not be written: {e.Message} Check the rights of the folder, or choose another one with --data."
            );
        }
    }

    /// <summary>How many changes were kept since it was opened.</summary>
    public long Kept => Interlocked.Read(ref kept);

    /// <summary>Reads on a connection of its own, beside all others.</summary>
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
            changing = connection;
            whenKept.Clear();
            T result;
            try
            {
                result = change(connection);
            }
            finally
            {
                changing = null;
            }
            transaction.Commit();
            Interlocked.Increment(ref kept);
            whenKept.ForEach(then => then());
            return result;
        }
    }

    /// <summary>
    /// Runs <paramref name="then"/> once what was read on this connection is sure to stay: at once, or when the change in hand is on disk.
    /// A change that is taken back forgets it.
    /// </summary>
    internal void WhenKept(SqliteConnection connection, Action then)
    {
        if (ReferenceEquals(connection, changing))
        {
            whenKept.Add(then);
        }
        else
        {
            then();
        }
    }

    /// <summary>As <see cref="Write{T}"/>, without a result.</summary>
    public void Write(Action<SqliteConnection> change) =>
        Write(c =>
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

    private static List<string> Scripts() =>
        [
            .. Assembly
                .GetExecutingAssembly()
                .GetManifestResourceNames()
                .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal),
        ];

    private static void Upgrade(SqliteConnection connection, string path, int schema)
    {
        var assembly = Assembly.GetExecutingAssembly();
        var scripts = Scripts();
        var version = (int)connection.Query("PRAGMA user_version", r => r.GetInt64(0)).Single();
        var ours = connection.Query("PRAGMA application_id", r => r.GetInt64(0)).Single() == ApplicationId;
        var tables = connection.Query("SELECT name FROM sqlite_schema WHERE type = 'table'", r => r.GetString(0));
        // Databases from before the mark are known by their tables.
        if (!ours && (version == 0 ? tables.Count > 0 : !tables.Contains("transcript") || !tables.Contains("sitting")))
        {
            throw new StoreException($"{path} is a database of another program. Move it away, or choose another data folder with --data.");
        }
        if (version > scripts.Count)
        {
            throw new StoreException($"{path} was made by a newer Ember Lane. Start that one, or choose another data folder with --data.");
        }
        // Tables that others refer to can only be made anew so; what refers to what is looked through before each script is kept.
        connection.Execute("PRAGMA foreign_keys = OFF");
        for (var next = version; next < schema; next++)
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(scripts[next])!);
            using var transaction = connection.BeginTransaction();
            connection.Execute(reader.ReadToEnd());
            Brought.FirstOrDefault(b => scripts[next].EndsWith(b.Script, StringComparison.Ordinal)).Bring?.Invoke(connection);
            if (connection.Query("PRAGMA foreign_key_check", r => r.GetString(0)) is [var odd, ..])
            {
                throw new StoreException(
                    $"{path} can not be brought along to this version: something in its table {odd} refers to what is not there. Nothing "
                        + "was changed; keep the file and go on with the version that made it."
                );
            }
            connection.Execute(string.Create(CultureInfo.InvariantCulture, $"PRAGMA user_version = {next + 1}"));
            transaction.Commit();
        }
        connection.Execute("PRAGMA foreign_keys = ON");
    }
}
