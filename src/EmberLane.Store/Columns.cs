using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Reads from columns of whole numbers what has a type of its own.</summary>
internal static class Columns
{
    public static WordNumber Word(SqliteDataReader r, int column) => new(r.GetInt32(column));

    public static PerMille? Share(SqliteDataReader r, int column) => r.IsDBNull(column) ? null : new PerMille(r.GetInt32(column));

    public static SittingRange Range(SqliteDataReader r, int column) =>
        new(new SittingTime(new MediaTime(r.GetInt64(column))), new SittingTime(new MediaTime(r.GetInt64(column + 1))));
}
