using System.Globalization;
using Microsoft.Data.Sqlite;

namespace EmberLane.Running;

/// <summary>A database file past the store: as an earlier version left it, changed by somebody else's hand, or looked through.</summary>
internal static class DatabaseFile
{
    /// <summary>A database that the first so many schema scripts have made.</summary>
    public static void Make(string path, int scripts)
    {
        var assembly = typeof(Store.Database).Assembly;
        foreach (
            var (name, i) in assembly
                .GetManifestResourceNames()
                .Where(n => n.EndsWith(".sql", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal)
                .Take(scripts)
                .Select((n, i) => (n, i))
        )
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
            Run(path, reader.ReadToEnd() + string.Create(CultureInfo.InvariantCulture, $"; PRAGMA user_version = {i + 1}"));
        }
    }

    public static void Run(string path, string sql) => On(path, sql, c => c.ExecuteNonQuery());

    /// <summary>A copy as it is now, also while a server has it open.</summary>
    public static void Copy(string path, string to) => Run(path, $"VACUUM INTO '{to}'");

    /// <summary>The first value of the first row, as text.</summary>
    public static string Ask(string path, string sql) =>
        On(path, sql, c => Convert.ToString(c.ExecuteScalar(), CultureInfo.InvariantCulture)!);

    /// <summary>Every row of every table, as one text.</summary>
    public static string Everything(string path) =>
        string.Join(
            '\n',
            Rows(path, "SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name")
                .SelectMany(t => Rows(path, $"SELECT * FROM \"{t}\"").Select(r => t + ": " + r))
        );

    private static List<string> Rows(string path, string sql) =>
        On(
            path,
            sql,
            c =>
            {
                using var reader = c.ExecuteReader();
                var rows = new List<string>();
                while (reader.Read())
                {
                    rows.Add(
                        string.Join(
                            '|',
                            Enumerable
                                .Range(0, reader.FieldCount)
                                .Select(i =>
                                    reader.GetValue(i) is byte[] bytes ? Convert.ToHexString(bytes) : reader.GetValue(i).ToString()
                                )
                        )
                    );
                }
                return rows;
            }
        );

    private static T On<T>(string path, string sql, Func<SqliteCommand, T> run)
    {
        using var connection = new SqliteConnection($"Data Source={path};Pooling=False;Default Timeout=60");
        connection.Open();
        using var command = connection.CreateCommand();
#pragma warning disable CA2100 // The tests' own words.
        command.CommandText = sql;
#pragma warning restore CA2100
        return run(command);
    }
}
