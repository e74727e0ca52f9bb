using System.Text;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using Microsoft.AspNetCore.WebUtilities;
using Microsoft.Net.Http.Headers;

namespace EmberLane.Web.Uploads;

/// <summary>An upload was refused or broke off; nothing of it is kept. The message is for a person.</summary>
public sealed class UploadException(string message, int status) : Exception(message)
{
    public int Status => status;
}

/// <summary>Takes uploaded files as they stream in; memory does not grow with their size.</summary>
public sealed class Upload(FootageFolders folders, IDiskSpace disk)
{
    /// <summary>A field of the form takes at most so many letters.</summary>
    private const int LongestField = 4_000;

    /// <summary>Room that is never filled, so that the database can go on.</summary>
    private const long Reserve = DiskReserve.Bytes;

    /// <summary>
    /// Reads the parts of a multipart form: files go into a folder of their own, fields are returned. A file is there under its name only
    /// when it is whole. Throws <see cref="UploadException"/> when the disk has no room or the form is broken; then what came is removed.
    /// </summary>
    public async Task<(IReadOnlyDictionary<string, string> Fields, IReadOnlyList<string> Paths)> ReceiveAsync(
        HttpRequest request,
        CancellationToken cancel
    )
    {
        if (
            !MediaTypeHeaderValue.TryParse(request.ContentType, out var type)
            || HeaderUtilities.RemoveQuotes(type.Boundary).Value is not { Length: > 0 } boundary
        )
        {
            throw new UploadException("Choose files to upload.", StatusCodes.Status400BadRequest);
        }
        var free = disk.FreeBytes(folders.Uploads) - Reserve;
        if (request.ContentLength > free)
        {
            throw new UploadException(
                $"The upload needs {Megabytes(request.ContentLength.Value)} and the disk has {Megabytes(Math.Max(0, free))} to spare. "
                    + "Nothing was copied. Make room, or keep the files where they are and start with --footage.",
                StatusCodes.Status507InsufficientStorage
            );
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
                    fields[HeaderUtilities.RemoveQuotes(about.Name).Value ?? ""] = await FieldAsync(section.Body, cancel);
                }
                else if (SafeName(about.FileNameStar.Value ?? HeaderUtilities.RemoveQuotes(about.FileName).Value ?? "") is { } name)
                {
                    paths.Add(await KeepAsync(section.Body, folder, name, cancel));
                }
            }
            if (paths.Count > 0)
            {
                File.Delete(Path.Combine(folder, DataFolder.Uploading));
            }
            return (fields, paths);
        }
        catch (UploadException)
        {
            Remove(folder);
            throw;
        }
        catch (Exception e) when (e is IOException or InvalidDataException or BadHttpRequestException or OperationCanceledException)
        {
            Remove(folder);
            throw new UploadException(
                disk.FreeBytes(folders.Uploads) < Reserve
                    ? "The disk ran full during the upload. Nothing of it was kept. Make room and upload again."
                    : "The upload broke off. Nothing of it was kept. Upload again.",
                StatusCodes.Status400BadRequest
            );
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

    private const int MostNameBytes = 200;

    /// <summary>
    /// A file name without folders, control characters or quotes, at most 120 characters with its ending kept; null when nothing is left.
    /// </summary>
    internal static string? SafeName(string name)
    {
        var last = name.Replace('\\', '/').Split('/')[^1];
        var clean = string.Concat(last.Where(c => !char.IsControl(c) && c is not ('"' or '\'' or '<' or '>' or '|' or '*' or '?')))
            .Trim()
            .TrimStart('.');
        if (clean.Length == 0)
        {
            return null;
        }
        var ending = Path.GetExtension(clean);
        ending = ending.Length > 12 ? "" : ending;
        var stem = clean[..^ending.Length];
        // Letters of other scripts take up to four bytes, and a name has room for 255.
        var length = 0;
        for (var bytes = Encoding.UTF8.GetByteCount(ending); length < stem.Length;)
        {
            var letter = char.IsHighSurrogate(stem[length]) && length + 1 < stem.Length ? 2 : 1;
            bytes += Encoding.UTF8.GetByteCount(stem.AsSpan(length, letter));
            if (bytes > MostNameBytes || length + letter > 120 - ending.Length)
            {
                break;
            }
            length += letter;
        }
        return stem[..length] + ending;
    }

    private static async Task<string> FieldAsync(Stream body, CancellationToken cancel)
    {
        using var text = new StreamReader(body);
        var letters = new char[LongestField + 1];
        var got = await text.ReadBlockAsync(letters, cancel);
        return got <= LongestField
            ? new string(letters, 0, got)
            : throw new UploadException(
                FormattableString.Invariant($"A field of the form holds more than {LongestField} letters. Nothing was copied."),
                StatusCodes.Status400BadRequest
            );
    }

    private static async Task<string> KeepAsync(Stream body, string folder, string name, CancellationToken cancel)
    {
        Directory.CreateDirectory(folder);
        await File.WriteAllBytesAsync(Path.Combine(folder, DataFolder.Uploading), [], cancel);
        var path = Path.Combine(folder, name);
        for (var n = 2; File.Exists(path); n++)
        {
            path = Path.Combine(
                folder,
                FormattableString.Invariant($"{Path.GetFileNameWithoutExtension(name)} {n}{Path.GetExtension(name)}")
            );
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
