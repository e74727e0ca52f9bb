using Microsoft.Data.Sqlite;

namespace EmberLane.Web.Tests;

/// <summary>Somebody else's hand in the database file, past the store.</summary>
internal static class OtherHand
{
    public static void Run(string path, string sql) => On(path, sql, c => c.ExecuteNonQuery());

    /// <summary>Every row of every table, as one text.</summary>
    public static string Everything(string path) => string.Join('\n', Rows(path, "SELECT name FROM sqlite_schema WHERE type = 'table' ORDER BY name").SelectMany(t => Rows(path, $"SELECT * FROM \"{t}\"").Select(r => t + ": " + r)));

    private static List<string> Rows(string path, string sql) => On(path, sql, c =>
    {
        using var reader = c.ExecuteReader();
        var rows = new List<string>();
        while (reader.Read())
        {
            rows.Add(string.Join('|', Enumerable.Range(0, reader.FieldCount).Select(i => reader.GetValue(i) is byte[] bytes ? Convert.ToHexString(bytes) : reader.GetValue(i).ToString())));
        }
        return rows;
    });

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
