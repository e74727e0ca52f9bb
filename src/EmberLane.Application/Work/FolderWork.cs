using System.Diagnostics;
using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Brings a folder with its subfolders in; the job's payload is the folder.</summary>
internal sealed class FolderWork(Intake intake, Jobs jobs) : IWork
{
    public string Kind => WorkKinds.Folder;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var watch = Stopwatch.StartNew();
        var (taken, known, left) = await intake.BringFolderInAsync(
            job.ProductionId,
            job.Payload,
            (seen, all) =>
                progress(
                    PerMille.Of(seen, all),
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{seen} of {all} files, {seen / Math.Max(0.1, watch.Elapsed.TotalSeconds):0.0} a second"
                    )
                ),
            cancel
        );
        jobs.LeaveOut(job.Id, [.. left.Select(l => (l.Name, l.Reason))]);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{taken} {(taken == 1 ? "file" : "files")} brought "
                + $"in{(known > 0 ? $", {known} there already" : "")}{(left.Count > 0 ? $", {left.Count} left out" : "")}"
        );
    }
}
