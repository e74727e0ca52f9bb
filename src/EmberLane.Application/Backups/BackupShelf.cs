using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Core.Backups;
using EmberLane.Store;

namespace EmberLane.Application.Backups;

/// <summary>A backup that lies on the shelf: its file, when it was made (to the second), what for, and how large it is.</summary>
public sealed record ShelvedBackup(string Path, DateTimeOffset At, string For, long Bytes)
{
    /// <summary>Whether it is one of those that go as newer ones come.</summary>
    public bool IsRotated => For == BackupShelf.Regular;

    /// <summary>Its file's name.</summary>
    public string Name => System.IO.Path.GetFileName(Path);
}

/// <summary>The folder in which backups of the database lie. Their names say when they were made and what for.</summary>
public sealed class BackupShelf(string database, string folder, IDiskSpace disk, TimeProvider time)
{
    /// <summary>
    /// What regular backups are called, those made before a newer version brought the database along, and before another was brought back.
    /// </summary>
    public const string Regular = "ember",
        BeforeUpgrade = "before-upgrade",
        BeforeRestore = "before-restore";

    private const string Stamp = "yyyyMMdd-HHmmss'Z'",
        Ending = ".sqlite";

    private static readonly TimeSpan Left = TimeSpan.FromDays(1);

    /// <summary>Where backups are kept of a data folder where nobody says otherwise.</summary>
    public static string FolderOf(string data) => Path.Combine(data, "backups");

    /// <summary>The shelf of a server.</summary>
    public static BackupShelf Of(Options options, IDiskSpace disk, TimeProvider time) =>
        new(Path.Combine(options.Data, "ember.sqlite"), options.Backups ?? FolderOf(options.Data), disk, time);

    /// <summary>The database of a data folder, for a command that starts no server.</summary>
    public static Database Open(string data) => Of(new Options { Data = data }, new DiskSpace(), TimeProvider.System).Opened();

    /// <summary>
    /// The database that these are of. Where an older Ember Lane made it, it is kept as it was before it is brought along. May throw
    /// <see cref="StoreException"/>.
    /// </summary>
    public Database Opened()
    {
        if (DatabaseBackup.OlderSchema(database) is not null)
        {
            Make(BeforeUpgrade);
        }
        return new Database(database);
    }

    /// <summary>Where they lie.</summary>
    public string Folder => folder;

    /// <summary>All that lie there, the newest first; files of other names are left alone.</summary>
    public IReadOnlyList<ShelvedBackup> All() =>
        Directory.Exists(folder)
            ?
            [
                .. new DirectoryInfo(folder)
                    .EnumerateFiles("*" + Ending)
                    .Select(Read)
                    .OfType<ShelvedBackup>()
                    .OrderByDescending(b => b.At)
                    .ThenByDescending(b => b.Name, StringComparer.Ordinal),
            ]
            : [];

    /// <summary>
    /// Makes one, looks it through, and lets go of regular ones that need not be kept. Throws <see cref="StoreException"/> with a sentence;
    /// then nothing is left of it, unless it says so.
    /// </summary>
    public (ShelvedBackup Backup, BackupContents Contents) Make(string what = Regular)
    {
        try
        {
            Directory.CreateDirectory(folder);
            ClearLeft();
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StoreException($"No backup could be made in {folder}: {e.Message} Choose another folder with --backups.");
        }
        var needed = new FileInfo(database) is { Exists: true, Length: var length } ? length : 0;
        // What has to be kept before something else can be done may use of the room that is kept for that.
        var reserve = what == Regular ? DiskReserve.Bytes : 0;
        if (disk.FreeBytes(folder) < needed + reserve)
        {
            throw new StoreException(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"No backup was made: the disk of {folder} has {disk.FreeBytes(folder) / 1_000_000:N0} MB left, "
                        + $"{needed / 1_000_000:N0} MB are needed and {reserve / 1_000_000:N0} MB are kept for what people "
                        + $"do. Make room, or choose another disk with --backups."
                )
            );
        }
        var at = time.GetUtcNow();
        var stem = Path.Combine(folder, $"{what}-{at.UtcDateTime.ToString(Stamp, CultureInfo.InvariantCulture)}");
        var path = stem + Ending;
        for (var n = 2; File.Exists(path); n++)
        {
            path = FormattableString.Invariant($"{stem}-{n}{Ending}");
        }
        var contents = DatabaseBackup.Write(database, path);
        Rotate();
        return (Read(new FileInfo(path))!, contents);
    }

    /// <summary>
    /// The backup that somebody names: by its path, by its name here, or the newest. What bringing back has kept is never the newest: to
    /// bring the newest back twice is to bring it back.
    /// </summary>
    public string Find(string named) =>
        named == "newest"
            ? All().FirstOrDefault(b => b.For != BeforeRestore) is not { } newest
                ? throw new StoreException($"No backup lies in {folder}. Name one by its path.")
                : newest.At > time.GetUtcNow()
                    ? throw new StoreException(
                        $"{newest.Name} in {folder} is from later than now: the clock was wrong then, or is, and which is the newest "
                            + "can not be told. Name one by its name."
                    )
                    : newest.Path
            : File.Exists(named)
                ? Path.GetFullPath(named)
                : All().FirstOrDefault(b => b.Name == named) is { } here
                    ? here.Path
                    : throw new StoreException($"{named}: there is no such backup, neither by that path nor in {folder}.");

    private void Rotate()
    {
        var regular = All().Where(b => b.IsRotated).ToList();
        // Those from later than now are of a clock that was ahead: none that is made after it was set back goes for them.
        var now = time.GetUtcNow();
        var kept = regular
            .GroupBy(b => b.At > now)
            .SelectMany(some => BackupRotation.Kept(some.Select(b => b.At), RotationRule.Usual))
            .ToHashSet();
        try
        {
            foreach (var gone in regular.Where(b => !kept.Contains(b.At)))
            {
                File.Delete(gone.Path);
            }
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StoreException($"A backup was made in {folder}, but an older one could not be let go: {e.Message}");
        }
    }

    // What a process that was killed left half made. A young one may be another's that is being made.
    private void ClearLeft()
    {
        foreach (var part in new DirectoryInfo(folder).EnumerateFiles("*" + Ending + ".*.part*"))
        {
            if (time.GetUtcNow() - part.LastWriteTimeUtc > Left)
            {
                part.Delete();
            }
        }
    }

    private static ShelvedBackup? Read(FileInfo file)
    {
        foreach (var what in (string[])[Regular, BeforeUpgrade, BeforeRestore])
        {
            var rest = Path.GetFileNameWithoutExtension(file.Name);
            if (
                rest.StartsWith(what + "-", StringComparison.Ordinal)
                && rest.Length >= what.Length + 17
                && DateTimeOffset.TryParseExact(
                    rest.Substring(what.Length + 1, 16),
                    Stamp,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal,
                    out var at
                )
            )
            {
                return new ShelvedBackup(file.FullName, at, what, file.Length);
            }
        }
        return null;
    }
}
