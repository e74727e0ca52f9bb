using EmberLane.Application.Work;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>A file that was left out, and why.</summary>
public sealed record LeftOut(string Name, string Reason);

/// <summary>
/// What came of bringing files in: the new sitting (null for loose footage, or when nothing could be used) and what was left out.
/// </summary>
public sealed record IntakeResult(long? SittingId, int Taken, IReadOnlyList<LeftOut> LeftOut);

/// <summary>Brings files into a production: measures them, makes the sitting, and queues what is made from them.</summary>
public sealed class Intake(Footage footage, FootageFolders folders, Jobs jobs, SittingChanges changes, News news, Upkeep? upkeep = null)
{
    private static readonly TimeSpan JustWritten = TimeSpan.FromSeconds(3),
        BetweenLooks = TimeSpan.FromMilliseconds(700);

    /// <summary>
    /// Files that can not be used are left out with a reason and hold nothing back. Throws <see cref="ToolException"/> when ffprobe is
    /// missing.
    /// </summary>
    public async Task<IntakeResult> BringInAsync(long productionId, string? title, IReadOnlyList<string> paths, CancellationToken cancel)
    {
        var taken = new List<NewSource>();
        var left = new List<LeftOut>();
        foreach (var path in paths)
        {
            var (source, _, reason) = await MeasureAsync(productionId, path, cancel);
            if (source is null)
            {
                left.Add(new LeftOut(Path.GetFileName(path), reason));
            }
            else if (taken.Any(t => t.Fingerprint == source.Fingerprint))
            {
                left.Add(new LeftOut(source.Name, "It is the same file as another of these."));
            }
            else
            {
                taken.Add(source);
            }
        }
        var sitting = taken.Count == 0 ? null : footage.BringIn(productionId, title, taken);
        if (taken.Count > 0)
        {
            Queue(productionId, sitting, taken);
        }
        return new IntakeResult(sitting, taken.Count, left);
    }

    /// <summary>
    /// Brings all files of a folder and its subfolders in as loose footage, as many at once as there are cores; each is in the production
    /// as soon as it is measured. Returns how many were taken, how many were there already, and what was left out. Begun again it takes up
    /// where it was. Throws <see cref="ToolException"/> when ffprobe is missing, <see cref="IOException"/> when the folder is not allowed
    /// or gone.
    /// </summary>
    public async Task<(int Taken, int Known, IReadOnlyList<LeftOut> LeftOut)> BringFolderInAsync(
        long productionId,
        string folder,
        Action<int, int> progress,
        CancellationToken cancel
    )
    {
        if (folders.Allowed(folder) is not { } real || !Directory.Exists(real))
        {
            throw new IOException($"{folder} is not a folder that footage may be read from, or it is gone.");
        }
        var (files, unread) = FootageFolders.All(real);
        var left = new List<LeftOut>(unread);
        int taken = 0,
            known = 0,
            seen = 0;
        var gate = new Lock();
        await Parallel.ForEachAsync(
            files,
            new ParallelOptions { MaxDegreeOfParallelism = Environment.ProcessorCount, CancellationToken = cancel },
            async (path, stop) =>
            {
                var (source, isHere, reason) = await MeasureAsync(productionId, path, stop);
                lock (gate)
                {
                    progress(++seen, files.Count);
                    if (source is not null && footage.SourceByFingerprint(productionId, source.Fingerprint) is null)
                    {
                        footage.BringIn(productionId, null, [source]);
                        Queue(productionId, null, [source]);
                        taken++;
                    }
                    else if (source is not null || isHere)
                    {
                        known++;
                    }
                    else
                    {
                        left.Add(new LeftOut(path, reason));
                    }
                }
            }
        );
        return (taken, known, [.. left.OrderBy(l => l.Name, StringComparer.Ordinal)]);
    }

    // The measured file, or null and why it can not be used: also that it is here already.
    private async Task<(NewSource? Source, bool IsHere, string Reason)> MeasureAsync(
        long productionId,
        string path,
        CancellationToken cancel
    )
    {
        if (folders.Allowed(path) is not { } real)
        {
            return (null, false, "It lies outside the footage folders. Start Ember Lane with --footage and its folder.");
        }
        try
        {
            var before = new FileInfo(real);
            if (!real.StartsWith(folders.Uploads, StringComparison.Ordinal) && await IsGrowingAsync(before, cancel))
            {
                return (null, false, "It is still being written. Bring it in again when it is finished.");
            }
            var facts = await MediaProbe.MeasureAsync(real, cancel);
            var print = await Fingerprint.OfAsync(real, cancel);
            return footage.SourceByFingerprint(productionId, print) is { } there
                ? (null, true, $"It is in this production already, as {there.Name}.")
                : (new NewSource(real, Path.GetFileName(path), before.Length, print, facts, Modified(before)), false, "");
        }
        catch (UnreadableMediaException bad)
        {
            return (null, false, bad.Message);
        }
        catch (Exception e) when (e is UnauthorizedAccessException or IOException)
        {
            return (null, false, "It can not be read: " + e.Message);
        }
    }

    internal static long Modified(FileInfo file) => new DateTimeOffset(file.LastWriteTimeUtc).ToUnixTimeSeconds();

    // A file that was written to a moment ago is looked at twice.
    private static async Task<bool> IsGrowingAsync(FileInfo file, CancellationToken cancel)
    {
        if (!file.Exists || DateTime.UtcNow - file.LastWriteTimeUtc > JustWritten)
        {
            return false;
        }
        var (length, written) = (file.Length, file.LastWriteTimeUtc);
        await Task.Delay(BetweenLooks, cancel);
        file.Refresh();
        return file.Exists && (file.Length != length || file.LastWriteTimeUtc != written);
    }

    private void Queue(long productionId, long? sitting, List<NewSource> taken)
    {
        var prints = taken.Select(t => t.Fingerprint).ToHashSet();
        foreach (var source in footage.Sources(productionId).Where(s => prints.Contains(s.Fingerprint)))
        {
            jobs.Add(productionId, WorkKinds.Pictures, source.Id, $"Playing copy of {source.Name}");
        }
        if (sitting is { } id)
        {
            changes.Made(id);
        }
        upkeep?.Ask(productionId);
        news.Tell();
    }
}
