using EmberLane.Application.Gathering;
using EmberLane.Store;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace EmberLane.Application.Work;

/// <summary>Looks every few minutes whether files have moved or changed; where that seems so, work is queued that looks closely.</summary>
public sealed partial class FilesWatch(Footage footage, FilesCheck check, Jobs jobs, News news, TimeProvider time, ILogger<FilesWatch> log)
    : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromSeconds(20);

    /// <summary>Queues a close look at a production's files.</summary>
    public static void Queue(Jobs jobs, long productionId) =>
        jobs.Add(productionId, WorkKinds.Files, productionId, "Files checked on the disk");

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        using var timer = new PeriodicTimer(Between, time);
        do
        {
            try
            {
                foreach (var production in footage.Productions().Where(p => check.LooksChanged(p.Id)))
                {
                    Queue(jobs, production.Id);
                    news.Tell();
                }
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                // A disk or database that fails in the middle of a look is looked at again the next time; it must not end the server.
                NotLooked(e.Message);
            }
        } while (await timer.WaitForNextTickAsync(stoppingToken));
    }

    [LoggerMessage(LogLevel.Warning, "The files could not be looked over: {Reason}")]
    private partial void NotLooked(string reason);
}
