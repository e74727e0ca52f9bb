using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Reads times from columns of whole units.</summary>
internal static class Columns
{
    public static SittingRange Range(SqliteDataReader r, int column) =>
        new(new SittingTime(new MediaTime(r.GetInt64(column))), new SittingTime(new MediaTime(r.GetInt64(column + 1))));
}
