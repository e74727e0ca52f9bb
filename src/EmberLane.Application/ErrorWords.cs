using Microsoft.Data.Sqlite;

namespace EmberLane.Application;

/// <summary>What went wrong, as a person is told.</summary>
public static class ErrorWords
{
    private const int Full = 13,
        Busy = 5,
        Damaged = 11,
        Unreadable = 10,
        ReadOnly = 8;

    /// <summary>What went wrong, as a person at the terminal reads it: what, where, what to do.</summary>
    public static string Of(Exception e) =>
        e switch
        {
            SqliteException { SqliteErrorCode: Full } =>
                "The disk is full. Nothing of this was saved and nothing else is lost. Make room, then do it again.",
            SqliteException { SqliteErrorCode: Busy } =>
                "The database is held by another program. Nothing of this was saved. Close that, then do it again.",
            SqliteException { SqliteErrorCode: Damaged } =>
                "The database is damaged. Stop Ember Lane and put back a copy; nothing more is written to the damaged place.",
            SqliteException { SqliteErrorCode: Unreadable or ReadOnly } =>
                "The disk of the database can not be read or written just now. Nothing of this was saved. Look at the disk, then do it "
                    + "again.",
            SqliteException odd => $"The database refused it ({odd.SqliteErrorCode}). Nothing of this was saved.",
            IOException { HResult: NoSpace } => "The disk is full. Make room, then do it again.",
            _ => e.Message,
        };

    /// <summary>ENOSPC, as .NET gives it on.</summary>
    private const int NoSpace = 28;
}
