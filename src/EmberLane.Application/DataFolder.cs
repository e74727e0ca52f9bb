using System.Globalization;
using System.Text;
using EmberLane.Store;

namespace EmberLane.Application;

/// <summary>
/// The folder that everything is kept in, held by one server at a time. The hold is the system's own lock on a file, which ends with the
/// process however that ends. What a former life left half made is cleared first.
/// </summary>
public sealed class DataFolder : IDisposable
{
    /// <summary>While this file lies in a folder of uploads, what is in there is not whole.</summary>
    public const string Uploading = ".uploading";

    private const UnixFileMode OwnerOnly = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    private const int LongestName = 255;

    /// <summary>Endings of files and folders in the cache that work in hand writes, and clears when it ends in good order.</summary>
    private static readonly string[] Unfinished = [".part", ".both", ".wav", ".voices", ".part-of-it", ".speech"];

    private readonly string path;
    private readonly FileStream held;

    private DataFolder(string path, FileStream held) => (this.path, this.held) = (path, held);

    /// <summary>Where the keys are kept that sign what browsers send back.</summary>
    public string Keys => Path.Combine(path, "keys");

    /// <summary>
    /// Takes the folder, made when it is not there. Throws <see cref="StoreException"/> with a sentence when another server has it, or
    /// nothing can be written there.
    /// </summary>
    public static DataFolder Take(string path)
    {
        if (path.Split('/').FirstOrDefault(p => Encoding.UTF8.GetByteCount(p) > LongestName) is { } name)
        {
            throw new StoreException(
                $"The name “{name[..20]}…” is longer than the {LongestName} bytes that a name may have. Choose a shorter one with --data."
            );
        }
        try
        {
            Directory.CreateDirectory(path);
            var folder = new DataFolder(path, Hold(path));
            File.WriteAllText(PidFile(path), Environment.ProcessId.ToString(CultureInfo.InvariantCulture));
            Directory.CreateDirectory(folder.Keys);
            File.SetUnixFileMode(folder.Keys, OwnerOnly);
            folder.Clear();
            return folder;
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StoreException(
                $"{path} can not be used as data folder: {e.Message} Check that it is a folder which this account may write to and that "
                    + "its disk has room, or choose another one with --data."
            );
        }
    }

    /// <inheritdoc/>
    public void Dispose() => held.Dispose();

    private static string PidFile(string path) => Path.Combine(path, "ember.pid");

    private static FileStream Hold(string path)
    {
        try
        {
            return new FileStream(Path.Combine(path, "ember.lock"), FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
        }
        catch (IOException e)
            when (e is not (DirectoryNotFoundException or PathTooLongException) && File.Exists(Path.Combine(path, "ember.lock")))
        {
            var other = File.Exists(PidFile(path)) ? $" (process {File.ReadAllText(PidFile(path)).Trim()})" : "";
            throw new StoreException(
                $"{path} is in use by another Ember Lane{other}. Work in that one, stop it first, or choose another folder with --data."
            );
        }
    }

    private void Clear()
    {
        var cache = new DirectoryInfo(Path.Combine(path, "cache"));
        foreach (var entry in cache.Exists ? cache.GetFileSystemInfos().Where(e => Unfinished.Contains(e.Extension)) : [])
        {
            Remove(entry);
        }
        var uploads = new DirectoryInfo(Path.Combine(path, "footage"));
        foreach (
            var broken in uploads.Exists
                ? uploads.GetDirectories().Where(d => d.LinkTarget is null && File.Exists(Path.Combine(d.FullName, Uploading)))
                : []
        )
        {
            Remove(broken);
        }
    }

    private static void Remove(FileSystemInfo entry)
    {
        if (entry is DirectoryInfo { LinkTarget: null } folder)
        {
            folder.Delete(recursive: true);
        }
        else
        {
            entry.Delete();
        }
    }
}
