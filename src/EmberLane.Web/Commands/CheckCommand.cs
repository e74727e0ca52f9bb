using System.CommandLine;
using System.IO.Compression;
using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Core.Handoff;
using EmberLane.Core.Import;

namespace EmberLane.Web.Commands;

/// <summary>
/// <c>ember check PACKAGE FOLDER</c>: says for each source of a package's manifest whether it is where it was, elsewhere in the folder,
/// changed or missing.
/// </summary>
internal static class CheckCommand
{
    private const long MostBytes = 64 << 20;

    public static Command Make(TextWriter output)
    {
        var package = new Argument<string>("PACKAGE") { Description = "A package: its .zip, its folder or its manifest.json." };
        var folder = new Argument<string>("FOLDER") { Description = "Where files that moved are looked for, with its subfolders." };
        var command = new Command("check", "Whether the files that a package is about are still there.") { package, folder };
        command.SetAction((asked, cancel) => RunAsync(asked.GetValue(package)!, asked.GetValue(folder)!, output, cancel));
        return command;
    }

    /// <summary>0 where every file is there or was moved, 1 where one is changed or missing.</summary>
    private static async Task<int> RunAsync(string package, string folder, TextWriter output, CancellationToken cancel)
    {
        if (!Directory.Exists(folder))
        {
            throw new ArgumentException($"{folder}: there is no such folder.");
        }
        var manifest = CommandFiles.Named(package, () => Manifest.Read(TextFiles.Decode(BytesOf(package))));
        var found = new Dictionary<string, List<string>>(StringComparer.Ordinal);
        // Links are not followed: one may lead back to a folder that it lies in.
        var every = new EnumerationOptions
        {
            RecurseSubdirectories = true,
            IgnoreInaccessible = true,
            AttributesToSkip = FileAttributes.ReparsePoint,
        };
        foreach (var path in Directory.EnumerateFiles(folder, "*", every))
        {
            if (!found.TryGetValue(Path.GetFileName(path), out var paths))
            {
                found[Path.GetFileName(path)] = paths = [];
            }
            paths.Add(path);
        }
        var sizes = new Lazy<ILookup<long, string>>(() => found.Values.SelectMany(p => p).ToLookup(p => new FileInfo(p).Length));
        var odd = 0;
        foreach (var source in manifest.Sources)
        {
            var (word, where) = await OfAsync(source, found, sizes, cancel);
            odd += word is "changed" or "missing" ? 1 : 0;
            await output.WriteLineAsync($"{word}  {source.Name}{(where.Length > 0 ? $"  {where}" : "")}");
        }
        await output.WriteLineAsync(odd == 0 ? "Every file is there." : $"{Application.Rooms.Many.Of(odd, "file")} changed or missing.");
        return odd == 0 ? 0 : 1;
    }

    // Its own place first, then files of its name in the folder, then files of its size, which may have been given another name.
    private static async Task<(string Word, string Where)> OfAsync(
        ManifestSource source,
        Dictionary<string, List<string>> found,
        Lazy<ILookup<long, string>> sizes,
        CancellationToken cancel
    )
    {
        if (await IsAsync(source, source.Path, cancel))
        {
            return ("there", "");
        }
        var named = found.GetValueOrDefault(source.Name) ?? [];
        foreach (var path in named.Concat(sizes.Value[source.Size]).Distinct())
        {
            if (await IsAsync(source, path, cancel))
            {
                return (Path.GetFullPath(path) == Path.GetFullPath(source.Path) ? "there" : "moved", path);
            }
        }
        return File.Exists(source.Path) ? ("changed", source.Path)
            : named.Count > 0 ? ("changed", named[0])
            : ("missing", "");
    }

    // A file that was not there when the package was made has no sum: its name and size are all that is known.
    private static async Task<bool> IsAsync(ManifestSource source, string path, CancellationToken cancel)
    {
        try
        {
            var info = new FileInfo(path);
            return info.Exists
                && info.Length == source.Size
                && (source.Sum.Length == 0 || await Fingerprint.OfEndsAsync(path, cancel) == source.Sum);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return false;
        }
    }

    private static byte[] BytesOf(string package)
    {
        if (Directory.Exists(package))
        {
            return CommandFiles.Bytes(Path.Combine(package, Manifest.FileName), MostBytes);
        }
        if (!Path.GetExtension(package).Equals(".zip", StringComparison.OrdinalIgnoreCase))
        {
            return CommandFiles.Bytes(package, MostBytes);
        }
        if (!File.Exists(package))
        {
            throw new FormatException("There is no such file.");
        }
        try
        {
            using var zip = ZipFile.OpenRead(package);
            var entry =
                zip.Entries.FirstOrDefault(e => e.Name == Manifest.FileName)
                ?? throw new FormatException("There is no manifest.json in it: it is no package.");
            using var stream = entry.Open();
            using var held = new MemoryStream();
            var buffer = new byte[1 << 16];
            for (int read; (read = stream.Read(buffer)) > 0;)
            {
                held.Write(buffer, 0, read);
                if (held.Length > MostBytes)
                {
                    throw new FormatException("The manifest is larger than any package's.");
                }
            }
            return held.ToArray();
        }
        catch (InvalidDataException broken)
        {
            throw new FormatException("The archive is broken: copy the package again.", broken);
        }
    }
}
