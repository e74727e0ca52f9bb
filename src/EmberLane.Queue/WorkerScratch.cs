using System.Globalization;

namespace EmberLane.Queue;

/// <summary>The folder that a worker keeps what it works on in: named by its process, so that what a killed one left is known.</summary>
public static class WorkerScratch
{
    /// <summary>Clears what workers left that run no more, beside this one's folder.</summary>
    public static void ClearOthers(string own)
    {
        var stem = Path.GetFileName(own)[..(Path.GetFileName(own).LastIndexOf('-') + 1)];
        foreach (
            var left in Directory
                .EnumerateDirectories(Path.GetDirectoryName(own)!, stem + "*")
                .Where(f =>
                    int.TryParse(Path.GetFileName(f)[stem.Length..], NumberStyles.None, CultureInfo.InvariantCulture, out var process)
                    && !Directory.Exists(string.Create(CultureInfo.InvariantCulture, $"/proc/{process}"))
                )
        )
        {
            Clear(left);
        }
    }

    /// <summary>Clears a folder; what another user's worker left stays.</summary>
    public static void Clear(string folder)
    {
        try
        {
            Directory.Delete(folder, recursive: true);
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            // It is not there, or not ours.
        }
    }
}
