namespace EmberLane.Application.Gathering;

/// <summary>The folders that footage may be read from. A path outside them is refused, also when a symbolic link leads there.</summary>
public sealed class FootageFolders
{
    private readonly string[] roots;

    /// <summary>Reads the folders that the options name; the data folder's own uploads are always one.</summary>
    public FootageFolders(Options options)
    {
        Uploads = Path.Combine(options.Data, "footage");
        Directory.CreateDirectory(Uploads);
        roots = [Real(Uploads), .. options.Footage.Select(Real)];
    }

    /// <summary>Where uploaded files are kept.</summary>
    public string Uploads { get; }

    /// <summary>Full paths of the folders that footage may be read from.</summary>
    public IReadOnlyList<string> Roots => roots;

    /// <summary>The path without links, when it lies in an allowed folder; else null.</summary>
    public string? Allowed(string path)
    {
        try
        {
            var real = Real(Path.GetFullPath(path));
            return roots.Any(root => real == root || real.StartsWith(root + Path.DirectorySeparatorChar, StringComparison.Ordinal))
                ? real
                : null;
        }
        catch (Exception e) when (e is ArgumentException or IOException or UnauthorizedAccessException)
        {
            return null;
        }
    }

    /// <summary>Whether a path leads over a link.</summary>
    public static bool IsLinked(string path) => Real(path) != Path.GetFullPath(path);

    /// <summary>Folders and files of an allowed folder, by name; what may not be read is left out.</summary>
    public (IReadOnlyList<string> Folders, IReadOnlyList<FileInfo> Files) List(string folder)
    {
        var options = new EnumerationOptions { IgnoreInaccessible = true, AttributesToSkip = FileAttributes.Hidden };
        return (
            [
                .. Directory
                    .EnumerateDirectories(folder, "*", options)
                    .Where(d => Allowed(d) is not null)
                    .Order(StringComparer.OrdinalIgnoreCase),
            ],
            [
                .. new DirectoryInfo(folder)
                    .EnumerateFiles("*", options)
                    .Where(f => Allowed(f.FullName) is not null)
                    .OrderBy(f => f.Name, StringComparer.OrdinalIgnoreCase),
            ]
        );
    }

    /// <summary>
    /// All files of an allowed folder and its subfolders, by path; hidden ones are left out. Links to folders are not followed, so a loop
    /// of them ends. Folders that may not be read come with the reason.
    /// </summary>
    public static (IReadOnlyList<string> Files, IReadOnlyList<LeftOut> Unread) All(string folder)
    {
        var files = new List<string>();
        var unread = new List<LeftOut>();
        var waiting = new Stack<string>([folder]);
        while (waiting.TryPop(out var next))
        {
            try
            {
                foreach (var entry in new DirectoryInfo(next).EnumerateFileSystemInfos().Where(e => !e.Name.StartsWith('.')))
                {
                    if (entry is FileInfo)
                    {
                        files.Add(entry.FullName);
                    }
                    else if (entry.LinkTarget is null)
                    {
                        waiting.Push(entry.FullName);
                    }
                }
            }
            catch (Exception e) when (e is UnauthorizedAccessException or IOException)
            {
                unread.Add(
                    new LeftOut(next, "This folder can not be read. Give the account that Ember Lane runs under the right to read it.")
                );
            }
        }
        return ([.. files.Order(StringComparer.Ordinal)], unread);
    }

    /// <summary>The path without links: they are followed part by part, as the system would.</summary>
    public static string Real(string path)
    {
        var real = "/";
        foreach (var part in Path.GetFullPath(path).Split('/', StringSplitOptions.RemoveEmptyEntries))
        {
            real = Path.Combine(real, part);
            FileSystemInfo entry = Directory.Exists(real) ? new DirectoryInfo(real) : new FileInfo(real);
            // What is not there is no link; it is for the caller to say that it is missing.
            if (entry.LinkTarget is not null && entry.ResolveLinkTarget(returnFinalTarget: true) is { } target)
            {
                real = Path.GetFullPath(target.FullName);
            }
        }
        return real;
    }
}
