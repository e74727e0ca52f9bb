using System.Collections.Concurrent;
using EmberLane.Application.Hands;
using EmberLane.Store;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace EmberLane.Application.Work;

/// <summary>
/// Runs the queue in six lanes: speech; comparing loose footage and listening for pauses, for which nobody waits; playing copies;
/// measuring pictures; copies of stories; and everything else, which people wait for. Whatever a job or the database throws, a lane says so
/// and goes on.
/// </summary>
public sealed partial class WorkLoop(Jobs jobs, IEnumerable<IWork> works, News news, DiskReserve disk, IHands hands, ILogger<WorkLoop> log)
    : BackgroundService
{
    private static readonly TimeSpan Pause = TimeSpan.FromSeconds(2),
        BetweenReports = TimeSpan.FromMilliseconds(400);

    private readonly ConcurrentDictionary<long, CancellationTokenSource> running = new();
    private readonly ConcurrentDictionary<string, string> troubles = new();

    /// <summary>What keeps work from going on just now, a sentence for a person; null when nothing does.</summary>
    public string? Trouble => troubles.Values.FirstOrDefault() ?? hands.Trouble;

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

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        await StubbornlyAsync("start", jobs.TakeUpAgain, stoppingToken);
        // Those whose work is done elsewhere have several in hand, so that the end of one does not leave workers idle.
        string[][] handed =
        [
            [WorkKinds.Transcribe],
            [WorkKinds.Pictures, WorkKinds.Shown],
            [WorkKinds.Look, WorkKinds.Tag],
        ];
        string[][] lanes =
        [
            .. Enumerable.Repeat(handed, hands.Lanes).SelectMany(l => l),
            [WorkKinds.Alike, WorkKinds.Talk],
            [WorkKinds.Copy],
        ];
        var rest = works.Select(w => w.Kind).Except(lanes.SelectMany(l => l));
        await Task.WhenAll([
            .. lanes.Append([.. rest]).Select(kinds => LaneAsync([.. works.Where(w => kinds.Contains(w.Kind))], stoppingToken)),
        ]);
    }

    private async Task LaneAsync(List<IWork> lane, CancellationToken stop)
    {
        var kinds = lane.Select(w => w.Kind).ToList();
        while (!stop.IsCancellationRequested)
        {
            var more = news.NextAsync();
            Job? job = null;
            await StubbornlyAsync(kinds[0], () => job = jobs.TakeNext(kinds), stop);
            if (job is not null)
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

    // Tried again until it is done or the server stops: what ended must be written down, and the lane must live.
    private async Task StubbornlyAsync(string lane, Action write, CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            try
            {
                write();
                if (troubles.TryRemove(lane, out _))
                {
                    news.Tell();
                }
                return;
            }
            catch (Exception e)
            {
                Stuck(e);
                var said = $"Work can not go on just now: {ErrorWords.Of(e)} It is tried again every {Pause.TotalSeconds:0} seconds.";
                if (!troubles.TryGetValue(lane, out var before) || before != said)
                {
                    troubles[lane] = said;
                    news.Tell();
                }
                await Task.WhenAny(Task.Delay(Pause, stop));
            }
        }
    }

    private async Task DoAsync(IWork work, Job job, CancellationToken stop)
    {
        using var cancel = CancellationTokenSource.CreateLinkedTokenSource(stop);
        using var guard = disk.Watch(cancel);
        running[job.Id] = cancel;
        Action? end = null;
        try
        {
            string detail;
            using (
                var reports = new Reports(
                    (perMille, said) =>
                    {
                        jobs.Progress(job.Id, perMille, said);
                        news.Tell();
                    },
                    BetweenReports,
                    TimeProvider.System
                )
            )
            {
                detail = await work.DoAsync(job, reports.Report, cancel.Token);
            }
            end = () => jobs.End(job.Id, "done", detail, "");
        }
        catch (OperationCanceledException) when (guard.Struck)
        {
            end = () => jobs.End(job.Id, "failed", "", disk.Words);
        }
        catch (OperationCanceledException) when (cancel.IsCancellationRequested)
        {
            // Cancelled by a person: the state is set already. Stopped with the server: it waits for the next start.
            end = stop.IsCancellationRequested ? () => jobs.Stopped(job.Id) : null;
        }
        catch (Exception e)
        {
            Failed(e, job.Title);
            end = () => jobs.End(job.Id, "failed", "", guard.Struck ? disk.Words : ErrorWords.Of(e));
        }
        finally
        {
            running.TryRemove(job.Id, out _);
        }
        if (end is not null && stop.IsCancellationRequested)
        {
            TryOnce(end);
        }
        else if (end is not null)
        {
            await StubbornlyAsync(job.Kind, end, stop);
        }
    }

    // The server goes down: what can not be written now is taken up again at the next start.
    private void TryOnce(Action end)
    {
        try
        {
            end();
        }
        catch (Exception e)
        {
            Stuck(e);
        }
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "Background work failed: {Title}")]
    private partial void Failed(Exception e, string title);

    [LoggerMessage(Level = LogLevel.Error, Message = "The queue of work could not be read or written")]
    private partial void Stuck(Exception e);
}
