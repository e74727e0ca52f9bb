using EmberLane.Application.Gathering;
using EmberLane.Engines;

namespace EmberLane.Application.Backups;

/// <summary>Copies uploaded footage, which is never changed once it is there, to where it is not yet, and back.</summary>
public static class UploadMirror
{
    /// <summary>Where uploads lie in a data folder, and beside backups.</summary>
    public static string Of(string folder) => Path.Combine(folder, "footage");

    /// <summary>
    /// Copies each file that is not in the other folder with the same length; links and uploads that are not whole are passed over. Nothing
    /// is taken away or overwritten by something shorter. Returns how many were copied, and how many were there.
    /// </summary>
    public static async Task<(int Copied, int There)> CopyAsync(string from, string to, CancellationToken cancel)
    {
        var (copied, there) = (0, 0);
        if (!Directory.Exists(from))
        {
            return (0, 0);
        }
        var every = new EnumerationOptions { RecurseSubdirectories = true, AttributesToSkip = FileAttributes.ReparsePoint };
        foreach (var file in new DirectoryInfo(from).EnumerateFiles("*", every))
        {
            if (
                File.Exists(Path.Combine(file.DirectoryName!, DataFolder.Uploading))
                || file.Name.EndsWith(".part", StringComparison.Ordinal)
            )
            {
                continue;
            }
            var target = Path.Combine(to, Path.GetRelativePath(from, file.FullName));
            if (new FileInfo(target) is { Exists: true, Length: var length } && length >= file.Length)
            {
                there++;
                continue;
            }
            Directory.CreateDirectory(Path.GetDirectoryName(target)!);
            await WholeFile.MakeAsync(
                target,
                async part =>
                {
                    await using var read = file.OpenRead();
                    await using var write = new FileStream(part, FileMode.CreateNew, FileAccess.Write);
                    await read.CopyToAsync(write, cancel);
                    write.Flush(flushToDisk: true);
                }
            );
            copied++;
        }
        return (copied, there);
    }
}
