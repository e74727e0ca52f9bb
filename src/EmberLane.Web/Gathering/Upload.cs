using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace EmberLane.Web.Gathering;

/// <summary>How much room a folder's disk has; a fake in tests.</summary>
public interface IDiskSpace
{
    long FreeBytes(string folder);
}

internal sealed class DiskSpace : IDiskSpace
{
    public long FreeBytes(string folder) => new DriveInfo(folder).AvailableFreeSpace;
}

/// <summary>An upload was refused or broke off; nothing of it is kept. The message is for a person.</summary>
public sealed class UploadException(string message, int status) : Exception(message)
{
    public int Status => status;
}

/// <summary>Takes uploaded files as they stream in; memory does not grow with their size.</summary>
public sealed class Upload(FootageFolders folders, IDiskSpace disk)
{
    /// <summary>Room that is never filled, so that the database can go on.</summary>
    private const long Reserve = 512L << 20;

    /// <summary>
    /// Reads the parts of a multipart form: files go into a folder of their own, fields are returned. A file is there under its name only when it is whole.
    /// Throws <see cref="UploadException"/> when the disk has no room or the form is broken; then what came is removed.
    /// </summary>
    public async Task<(IReadOnlyDictionary<string, string> Fields, IReadOnlyList<string> Paths)> ReceiveAsync(HttpRequest request, CancellationToken cancel)
    {
        if (!MediaTypeHeaderValue.TryParse(request.ContentType, out var type) || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary)
        {
            throw new UploadException("Choose files to upload.", StatusCodes.Status400BadRequest);
        }
        var free = disk.FreeBytes(folders.Uploads) - Reserve;
        if (request.ContentLength > free)
        {
            throw new UploadException($"The upload needs {Megabytes(request.ContentLength.Value)} and the disk has {Megabytes(Math.Max(0, free))} to spare. Nothing was copied. Make room, or keep the files where they are and start with --footage.", StatusCodes.Status507InsufficientStorage);
        }
        var folder = Path.Combine(folders.Uploads, Guid.NewGuid().ToString("N")[..12]);
        var fields = new Dictionary<string, string>(StringComparer.Ordinal);
        var paths = new List<string>();
        try
        {
            var reader = new MultipartReader(boundary, request.Body);
            while (await reader.ReadNextSectionAsync(cancel) is { } section)
            {
                if (!ContentDispositionHeaderValue.TryParse(section.ContentDisposition, out var about))
                {
                    continue;
                }
                if (about.IsFormDisposition())
                {
                    using var text = new StreamReader(section.Body);
                    fields[HeaderUtilities.RemoveQuotes(about.Name).Value ?? ""] = await text.ReadToEndAsync(cancel);
                }
                else if (SafeName(about.FileNameStar.Value ?? HeaderUtilities.RemoveQuotes(about.FileName).Value ?? "") is { } name)
                {
                    paths.Add(await KeepAsync(section.Body, folder, name, cancel));
                }
            }
            return (fields, paths);
        }
        catch (Exception e) when (e is IOException or InvalidDataException or BadHttpRequestException or OperationCanceledException)
        {
            Remove(folder);
            throw new UploadException(disk.FreeBytes(folders.Uploads) < Reserve
                ? "The disk ran full during the upload. Nothing of it was kept. Make room and upload again."
                : "The upload broke off. Nothing of it was kept. Upload again.", StatusCodes.Status400BadRequest);
        }
    }

    /// <summary>Takes back an upload that nothing was made of.</summary>
    public void Forget(IEnumerable<string> paths)
    {
        foreach (var path in paths.Where(p => folders.Allowed(p) is not null && p.StartsWith(folders.Uploads, StringComparison.Ordinal)))
        {
            File.Delete(path);
            var folder = Path.GetDirectoryName(path)!;
            if (folder != folders.Uploads && Directory.Exists(folder) && !Directory.EnumerateFileSystemEntries(folder).Any())
            {
                Directory.Delete(folder);
            }
        }
    }

    /// <summary>A file name without folders, control characters or quotes, at most 120 characters with its ending kept; null when nothing is left.</summary>
    internal static string? SafeName(string name)
    {
        var last = name.Replace('\\', '/').Split('/')[^1];
        var clean = string.Concat(last.Where(c => !char.IsControl(c) && c is not ('"' or '\'' or '<' or '>' or '|' or '*' or '?'))).Trim().TrimStart('.');
        if (clean.Length == 0)
        {
            return null;
        }
        var ending = Path.GetExtension(clean);
        ending = ending.Length > 12 ? "" : ending;
        var stem = clean[..^ending.Length];
        return stem[..Math.Min(stem.Length, 120 - ending.Length)] + ending;
    }

    private static async Task<string> KeepAsync(Stream body, string folder, string name, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        var path = Path.Combine(folder, name);
        for (var n = 2; File.Exists(path); n++)
        {
            path = Path.Combine(folder, FormattableString.Invariant($"{Path.GetFileNameWithoutExtension(name)} {n}{Path.GetExtension(name)}"));
        }
        await using (var file = File.Create(path + ".part"))
        {
            await body.CopyToAsync(file, 1 << 20, cancel);
        }
        File.Move(path + ".part", path);
        return path;
    }

    private static void Remove(string folder)
    {
        if (Directory.Exists(folder))
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static string Megabytes(long bytes) => FormattableString.Invariant($"{bytes / 1_000_000:N0} MB");
}
