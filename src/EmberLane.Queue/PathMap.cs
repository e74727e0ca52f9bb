using EmberLane.Application.Gathering;
using EmberLane.Application.Hands;

namespace EmberLane.Queue;

/// <summary>
/// Where a worker sees the server's footage: pairs of a folder there and one here. Without any, paths are the same on both; with some,
/// nothing outside of them is opened, also not over a link.
/// </summary>
public sealed class PathMap(IReadOnlyList<(string There, string Here)> pairs)
{
    /// <summary>
    /// Reads <c>/media=/mnt/media</c>, or <c>/media</c> where both are the same. Throws <see cref="ArgumentException"/> with a sentence.
    /// </summary>
    public static PathMap Read(IEnumerable<string> texts) => new([.. texts.Select(Pair)]);

    /// <summary>
    /// The file here, which has so many bytes. Throws <see cref="ErrandElsewhereException"/> with the reason where this worker does not see
    /// it.
    /// </summary>
    public string Find(string there, long bytes)
    {
        var here = Here(there) ?? throw new ErrandElsewhereException($"{there} lies outside of what was named with --map.");
        var file = new FileInfo(here);
        return !file.Exists
                ? throw new ErrandElsewhereException($"{here} is not there. Name the folder with --map where it lies elsewhere.")
            : file.Length != bytes
                ? throw new ErrandElsewhereException($"{here} has {file.Length} bytes, the server's file has {bytes}: it is another one.")
            : here;
    }

    private string? Here(string there)
    {
        if (!Path.IsPathFullyQualified(there))
        {
            return null;
        }
        var full = Path.GetFullPath(there);
        if (pairs.Count == 0)
        {
            return full;
        }
        foreach (var (from, to) in pairs.OrderByDescending(p => p.There.Length))
        {
            if (full.StartsWith(from == "/" ? from : from + '/', StringComparison.Ordinal))
            {
                string root = FootageFolders.Real(to),
                    real = FootageFolders.Real(Path.Combine(root, full[from.Length..].TrimStart('/')));
                return real.StartsWith(root == "/" ? root : root + '/', StringComparison.Ordinal) ? real : null;
            }
        }
        return null;
    }

    private static (string There, string Here) Pair(string text)
    {
        var parts = text.Split('=');
        var (there, here) = (parts[0], parts[^1]);
        return parts.Length > 2 || !Path.IsPathFullyQualified(there) || !Path.IsPathFullyQualified(here)
                ? throw new ArgumentException(
                    $"--map {text}: write the server's folder and the one here, as /media=/mnt/media, or one that is the same on both."
                )
            : !Directory.Exists(here) ? throw new ArgumentException($"--map {text}: there is no folder {here} here.")
            : (Trimmed(there), Trimmed(here));
    }

    private static string Trimmed(string folder) => Path.GetFullPath(folder) is { Length: > 1 } full ? full.TrimEnd('/') : "/";
}
