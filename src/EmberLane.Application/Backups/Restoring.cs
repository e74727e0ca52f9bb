using System.Globalization;
using EmberLane.Store;

namespace EmberLane.Application.Backups;

/// <summary>
/// A database that was brought back: what it holds, and where the one lies that was there before; null where there was none.
/// </summary>
public sealed record Restored(BackupContents Contents, string? Before);

/// <summary>Brings a backup back in place of a database that nobody uses.</summary>
public static class Restoring
{
    /// <summary>
    /// Reads the backup through, brings it along to the newest schema beside the database, keeps the database that is there as a backup
    /// (or, where that is damaged, its files under another name), and puts the backup in its place in one step. Copies to hear and see
    /// that the backup does not know are taken away. The caller holds the data folder. Throws <see cref="StoreException"/> with a
    /// sentence; then the database is what it was.
    /// </summary>
    public static Restored Run(string backup, string data, BackupShelf shelf)
    {
        var contents = DatabaseBackup.Look(backup);
        var path = Path.Combine(data, "ember.sqlite");
        var part = path + ".restoring";
        try
        {
            Clear(part);
            if (File.Exists(backup + "-wal"))
            {
                // Somebody's own copy, with part of it in the log beside it.
                DatabaseBackup.Write(backup, part);
            }
            else
            {
                File.Copy(backup, part);
            }
            File.SetUnixFileMode(part, UnixFileMode.UserRead | UnixFileMode.UserWrite);
            // Opening brings it along, and shows that it can be opened, before anything is touched.
            _ = new Database(part);
            DatabaseBackup.Gather(part);
            using (var file = new FileStream(part, FileMode.Open, FileAccess.ReadWrite))
            {
                file.Flush(flushToDisk: true);
            }
            var before = File.Exists(path) ? Keep(path, shelf) : null;
            File.Move(part, path, overwrite: true);
            ForgetCopies(data, path);
            return new Restored(contents, before);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StoreException(
                $"{backup} could not be brought back: {e.Message} The database is what it was. Check the rights of {data} and the room on "
                    + "its disk."
            );
        }
        finally
        {
            Clear(part);
        }
    }

    private static string Keep(string path, BackupShelf shelf)
    {
        try
        {
            var kept = shelf.Make(BackupShelf.BeforeRestore).Backup.Path;
            // Nothing of the old log may be read into the new file.
            DatabaseBackup.Gather(path);
            Delete(path + "-wal", path + "-shm");
            return kept;
        }
        catch (Exception e) when (e is StoreException or Microsoft.Data.Sqlite.SqliteException && !IsWhole(path))
        {
            return SetAside(path);
        }
    }

    private static bool IsWhole(string path)
    {
        try
        {
            DatabaseBackup.Look(path);
            return true;
        }
        catch (StoreException)
        {
            return false;
        }
    }

    // A database that can not be read any more: its files as they are, for whoever can make something of them.
    private static string SetAside(string path)
    {
        var stem = string.Create(CultureInfo.InvariantCulture, $"{path}.damaged-{File.GetLastWriteTimeUtc(path):yyyyMMdd-HHmmss}");
        var aside = stem;
        for (var n = 2; File.Exists(aside); n++)
        {
            aside = FormattableString.Invariant($"{stem}-{n}");
        }
        foreach (var log in (string[])["-wal", "-shm"])
        {
            if (File.Exists(path + log))
            {
                File.Move(path + log, aside + log);
            }
        }
        File.Copy(path, aside);
        return aside;
    }

    private static void ForgetCopies(string data, string path)
    {
        var known = DatabaseBackup.CopiesOf(path);
        var folder = new DirectoryInfo(Path.Combine(data, "copies"));
        foreach (var file in folder.Exists ? folder.GetFiles() : [])
        {
            if (
                !long.TryParse(Path.GetFileNameWithoutExtension(file.Name), NumberStyles.None, CultureInfo.InvariantCulture, out var id)
                || !known.TryGetValue(id, out var bytes)
                || bytes != file.Length
            )
            {
                file.Delete();
            }
        }
    }

    private static void Clear(string part) => Delete(part, part + "-wal", part + "-shm", part + "-journal");

    private static void Delete(params string[] paths) => Array.ForEach(paths, File.Delete);
}
