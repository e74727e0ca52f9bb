using System.Globalization;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store.Tests;

/// <summary>Database files as earlier versions left them, and a look into a file past the store.</summary>
internal static class OldDatabase
{
    /// <summary>A database that the first so many schema scripts have made.</summary>
    public static void Make(string path, int scripts)
    {
        var assembly = typeof(Database).Assembly;
        foreach (var (name, i) in assembly.GetManifestResourceNames().Where(n => n.EndsWith(".sql", StringComparison.Ordinal)).Order(StringComparer.Ordinal).Take(scripts).Select((n, i) => (n, i)))
        {
            using var reader = new StreamReader(assembly.GetManifestResourceStream(name)!);
            Run(path, reader.ReadToEnd() + string.Create(CultureInfo.InvariantCulture, $"; PRAGMA user_version = {i + 1}"));
        }
    }

    public static void Run(string path, string sql) => On(path, sql, c => c.ExecuteNonQuery());

    /// <summary>The first value of the first row, as text.</summary>
    public static string Ask(string path, string sql) => On(path, sql, c => Convert.ToString(c.ExecuteScalar(), CultureInfo.InvariantCulture)!);

    private static T On<T>(string path, string sql, Func<SqliteCommand, T> run)
    {
        using var connection = new SqliteConnection($"Data Source={path};Pooling=False");
        connection.Open();
        using var command = connection.CreateCommand();
#pragma warning disable CA2100 // The tests' own words.
        command.CommandText = sql;
#pragma warning restore CA2100
        return run(command);
    }
}
