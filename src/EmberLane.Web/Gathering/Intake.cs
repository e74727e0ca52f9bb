using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Work;

namespace EmberLane.Web.Gathering;

/// <summary>A file that was left out, and why.</summary>
public sealed record LeftOut(string Name, string Reason);

/// <summary>What came of bringing files in: the new sitting (null for loose footage, or when nothing could be used) and what was left out.</summary>
public sealed record IntakeResult(long? SittingId, int Taken, IReadOnlyList<LeftOut> LeftOut);

/// <summary>Brings files into a production: measures them, makes the sitting, and queues what is made from them.</summary>
public sealed class Intake(Footage footage, FootageFolders folders, Jobs jobs, WorkNews news)
{
    /// <summary>Files that can not be used are left out with a reason and hold nothing back. Throws <see cref="ToolException"/> when ffprobe is missing.</summary>
    public async Task<IntakeResult> BringInAsync(long productionId, string? title, IReadOnlyList<string> paths, CancellationToken cancel)
    {
        var taken = new List<NewSource>();
        var left = new List<LeftOut>();
        foreach (var path in paths)
        {
            var name = Path.GetFileName(path);
            if (folders.Allowed(path) is not { } real)
            {
                left.Add(new LeftOut(name, "It lies outside the footage folders. Start Ember Lane with --footage and its folder."));
                continue;
            }
            try
            {
                var facts = await MediaProbe.MeasureAsync(real, cancel);
                var print = await Fingerprint.OfAsync(real, cancel);
                if (footage.SourceByFingerprint(productionId, print) is { } known)
                {
                    left.Add(new LeftOut(name, $"It is in this production already, as {known.Name}."));
                }
                else if (taken.Any(t => t.Fingerprint == print))
                {
                    left.Add(new LeftOut(name, "It is the same file as another of these."));
                }
                else
                {
                    taken.Add(new NewSource(real, name, new FileInfo(real).Length, print, facts));
                }
            }
            catch (UnreadableMediaException bad)
            {
                left.Add(new LeftOut(name, bad.Message));
            }
            catch (Exception e) when (e is UnauthorizedAccessException or IOException)
            {
                left.Add(new LeftOut(name, "It can not be read: " + e.Message));
            }
        }
        var sitting = taken.Count == 0 ? null : footage.BringIn(productionId, title, taken);
        if (taken.Count > 0)
        {
            Queue(productionId, sitting, taken);
        }
        return new IntakeResult(sitting, taken.Count, left);
    }

    private void Queue(long productionId, long? sitting, List<NewSource> taken)
    {
        var prints = taken.Select(t => t.Fingerprint).ToHashSet();
        foreach (var source in footage.Sources(productionId).Where(s => prints.Contains(s.Fingerprint)))
        {
            jobs.Add(productionId, WorkKinds.Pictures, source.Id, $"Playing copy of {source.Name}");
        }
        if (sitting is { } id && taken.Count > 1)
        {
            jobs.Add(productionId, WorkKinds.Sync, id, $"Sync of {footage.Sitting(id)!.Title}");
        }
        news.Tell();
    }
}
