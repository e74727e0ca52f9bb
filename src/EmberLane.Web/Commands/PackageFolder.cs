using System.Security.Cryptography;
using EmberLane.Core.Handoff;

namespace EmberLane.Web.Commands;

/// <summary>A package as a folder.</summary>
internal static class PackageFolder
{
    /// <summary>A file of a package that is there already, as its manifest tells of it.</summary>
    public static async Task<WrittenFile> WrittenAsync(string file, CancellationToken cancel)
    {
        await using var stream = File.OpenRead(file);
        return new WrittenFile(Path.GetFileName(file), stream.Length, Convert.ToHexStringLower(await SHA256.HashDataAsync(stream, cancel)));
    }

    /// <summary>
    /// Writes the files of a package, the manifest last, each whole or not at all; a manifest of before is taken away first, so that none
    /// tells of files which are not there yet. Throws <see cref="IOException"/> with what to do.
    /// </summary>
    public static void Write(string folder, IReadOnlyList<PackageFile> files)
    {
        try
        {
            Directory.CreateDirectory(folder);
            File.Delete(Path.Combine(folder, Manifest.FileName));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new IOException($"{folder} can not be written: {e.Message} Name another folder with --out.", e);
        }
        foreach (var file in files)
        {
            CommandFiles.Write(Path.Combine(folder, file.Name), file.Bytes);
        }
    }
}
