using System.Net;
using EmberLane.Application.Backups;
using EmberLane.Store;
using EmberLane.Web.Access;
using Prometheus;

namespace EmberLane.Web;

/// <summary>
/// How the server does, in the text form of Prometheus, for those who look after it: no names, no words. Owners are told, and this machine
/// itself where it asks without a proxy.
/// </summary>
internal static class Figures
{
    /// <summary>Measures requests, and answers at <c>/metrics</c>. After routing.</summary>
    public static void Map(WebApplication app)
    {
        var registry = Metrics.NewCustomRegistry();
        var make = Metrics.WithCustomRegistry(registry);
        var took = make.CreateHistogram(
            "ember_request_seconds",
            "How long requests took, by page and kind of answer.",
            ["page", "status"],
            new HistogramConfiguration { Buckets = Histogram.ExponentialBuckets(0.005, 2, 12) }
        );
        var work = make.CreateGauge("ember_work", "Background work by how it stands.", ["state"]);
        var size = make.CreateGauge("ember_database_bytes", "Size of the database with its log.");
        var room = make.CreateGauge("ember_disk_free_bytes", "Room on the disk of the data folder.");
        var backup = make.CreateGauge("ember_backup_age_seconds", "Age of the newest backup; -1 where there is none.");
        app.Use(
            async (context, next) =>
            {
                var begun = TimeProvider.System.GetTimestamp();
                try
                {
                    await next(context);
                }
                finally
                {
                    // By the pattern of the address: what stands in its place may be somebody's.
                    var page = (context.GetEndpoint() as RouteEndpoint)?.RoutePattern.RawText ?? "file";
                    took.WithLabels(page, $"{context.Response.StatusCode / 100}xx")
                        .Observe(TimeProvider.System.GetElapsedTime(begun).TotalSeconds);
                }
            }
        );
        app.MapGet(
                "/metrics",
                async (
                    HttpContext context,
                    Options options,
                    Jobs jobs,
                    Application.Gathering.IDiskSpace disk,
                    BackupShelf shelf,
                    TimeProvider time
                ) =>
                {
                    if (!MayAsk(context))
                    {
                        context.Response.StatusCode = StatusCodes.Status404NotFound;
                        return;
                    }
                    foreach (var (state, count) in jobs.CountsByState())
                    {
                        work.WithLabels(state).Set(count);
                    }
                    var database = Path.Combine(options.Data, "ember.sqlite");
                    size.Set(new[] { database, database + "-wal" }.Select(f => new FileInfo(f)).Where(f => f.Exists).Sum(f => f.Length));
                    room.Set(disk.FreeBytes(options.Data));
                    backup.Set(shelf.All() is [var newest, ..] ? (time.GetUtcNow() - newest.At).TotalSeconds : -1);
                    context.Response.ContentType = PrometheusConstants.TextContentTypeWithVersionAndEncoding;
                    await registry.CollectAndExportAsTextAsync(context.Response.Body, context.RequestAborted);
                }
            )
            .WithMetadata(new OpenAttribute());
    }

    private static bool MayAsk(HttpContext context) =>
        Visitor.Of(context) is { IsOwner: true }
        || (
            context.Connection.RemoteIpAddress is { } from
            && IPAddress.IsLoopback(from)
            && !context.Request.Headers.Any(h => h.Key.StartsWith("X-", StringComparison.OrdinalIgnoreCase) || h.Key == "Forwarded")
        );
}
