using System.Collections.Concurrent;
using EmberLane.Store;

namespace EmberLane.Web.Work;

/// <summary>Runs the queue: speech in one lane, comparing loose footage in another and everything else in a third, so that what takes long holds up no picture.</summary>
internal sealed partial class WorkLoop(Jobs jobs, IEnumerable<IWork> works, WorkNews news, ILogger<WorkLoop> log) : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(2), BetweenReports = TimeSpan.FromMilliseconds(400);

    private readonly ConcurrentDictionary<long, CancellationTokenSource> running = new();

    /// <summary>Ends work that waits or runs; what it made so far is kept for another try.</summary>
    public void Cancel(long jobId)
    {
        jobs.End(jobId, "cancelled", "", "");
        if (running.TryGetValue(jobId, out var cancel))
        {
            cancel.Cancel();
        }
        news.Tell();
    }

    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        jobs.TakeUpAgain();
        var speech = works.Where(w => w.Kind == WorkKinds.Transcribe).ToList();
        var comparing = works.Where(w => w.Kind == WorkKinds.Alike).ToList();
        await Task.WhenAll(LaneAsync(speech, stoppingToken), LaneAsync(comparing, stoppingToken), LaneAsync([.. works.Except(speech).Except(comparing)], stoppingToken));
    }

    private async Task LaneAsync(List<IWork> lane, CancellationToken stop)
    {
        var kinds = lane.Select(w => w.Kind).ToList();
        while (!stop.IsCancellationRequested)
        {
            var more = news.NextAsync();
            if (jobs.TakeNext(kinds) is { } job)
            {
                news.Tell();
                await DoAsync(lane.Single(w => w.Kind == job.Kind), job, stop);
                news.Tell();
            }
            else
            {
                await Task.WhenAny(more, Task.Delay(Pause, stop));
            }
        }
    }

    private async Task DoAsync(IWork work, Job job, CancellationToken stop)
    {
        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(stop);
        running[job.Id] = cancel;
        try
        {
            string detail;
            using (var reports = new Reports((perMille, said) =>
            {
                jobs.Progress(job.Id, perMille, said);
                news.Tell();
            }, BetweenReports, TimeProvider.System))
            {
                detail = await work.DoAsync(job, reports.Report, cancel.Token);
            }
            jobs.End(job.Id, "done", detail, "");
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            // Cancelled by a person: the state is set already. Stopped with the server: it stays running and is taken up again.
        }
        catch (Exception e)
        {
            Failed(e, job.Title);
            jobs.End(job.Id, "failed", "", e.Message);
        }
        finally
        {
            running.TryRemove(job.Id, out _);
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Background work failed: {Title}")]
    private partial void Failed(Exception e, string title);
}
