using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// Finds files that are missing or were replaced again below a folder, by their content; the job's payload is the folder, empty for all
/// that footage may be read from. Only files of a fitting size are read.
/// </summary>
internal sealed class FindWork(Footage footage, FootageFolders folders, Jobs jobs) : IWork
{
    public string Kind => WorkKinds.Find;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        IReadOnlyList<string> within =
            job.Payload.Length == 0 ? [.. folders.Roots.Where(Directory.Exists)]
            : folders.Allowed(job.Payload) is { } named && Directory.Exists(named) ? [named]
            : [];
        if (within.Count == 0)
        {
            throw new IOException(
                $"{job.Payload} is not a folder that footage may be read from, or it is gone. Start Ember Lane with --footage and that "
                    + "folder."
            );
        }
        var wanted = footage
            .Sources(job.ProductionId)
            .Where(s => s.State != FileState.Here || folders.Allowed(s.Path) is null || !File.Exists(s.Path))
            .ToList();
        var sizes = wanted.Select(s => s.Size).ToHashSet();
        var all = within.Select(FootageFolders.All).ToList();
        List<string> files = [.. all.SelectMany(a => a.Files).Distinct()];
        var left = all.SelectMany(a => a.Unread).Select(u => (u.Name, u.Reason)).ToList();
        var found = 0;
        for (var i = 0; i < files.Count && found < wanted.Count; i++)
        {
            progress(
                PerMille.Of(i, files.Count),
                string.Create(CultureInfo.InvariantCulture, $"{i} of {files.Count} files, {found} found")
            );
            try
            {
                var file = new FileInfo(files[i]);
                if (folders.Allowed(files[i]) is not { } real || !sizes.Contains(file.Length))
                {
                    continue;
                }
                var print = await Fingerprint.OfAsync(real, cancel);
                foreach (var source in wanted.Where(s => s.Fingerprint == print && s.Size == file.Length))
                {
                    footage.FoundAt(source.Id, real, Path.GetFileName(files[i]), Intake.Modified(file));
                    found++;
                }
            }
            catch (Exception e) when (e is IOException or UnauthorizedAccessException)
            {
                left.Add((files[i], "It can not be read: " + e.Message));
            }
        }
        jobs.LeaveOut(job.Id, left);
        return string.Create(CultureInfo.InvariantCulture, $"{found} of {wanted.Count} found");
    }
}
