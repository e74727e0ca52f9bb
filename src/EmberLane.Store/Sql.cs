using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Plain ADO.NET in one line; values go in as parameters only.</summary>
internal static class Sql
{
    public static int Execute(this SqliteConnection connection, string sql, params ReadOnlySpan<(string Name, object? Value)> values)
    {
        using var command = Command(connection, sql, values);
        return command.ExecuteNonQuery();
    }

    /// <summary>Runs an INSERT and returns the new row's id.</summary>
    public static long Insert(this SqliteConnection connection, string sql, params ReadOnlySpan<(string Name, object? Value)> values)
    {
        using var command = Command(connection, sql + " RETURNING id", values);
        return (long)command.ExecuteScalar()!;
    }

    public static List<T> Query<T>(
        this SqliteConnection connection,
        string sql,
        Func<SqliteDataReader, T> read,
        params ReadOnlySpan<(string Name, object? Value)> values
    )
    {
        using var command = Command(connection, sql, values);
        using var reader = command.ExecuteReader();
        var rows = new List<T>();
        while (reader.Read())
        {
            rows.Add(read(reader));
        }
        return rows;
    }

    public static long? Number(this SqliteDataReader reader, int column) => reader.IsDBNull(column) ? null : reader.GetInt64(column);

    /// <summary>A value as it is kept: whole numbers with a type of their own are plain numbers there.</summary>
    public static object Plain(object? value) =>
        value switch
        {
            null => DBNull.Value,
            WordNumber number => number.Value,
            PerMille share => share.Value,
            Step step => step.Value,
            _ => value,
        };

    private static SqliteCommand Command(SqliteConnection connection, string sql, ReadOnlySpan<(string Name, object? Value)> values)
    {
        var command = connection.CreateCommand();
        command.CommandText = sql;
        foreach (var (name, value) in values)
        {
            command.Parameters.AddWithValue(name, Plain(value));
        }
        return command;
    }
}
