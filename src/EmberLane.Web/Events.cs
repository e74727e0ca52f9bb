using EmberLane.Application.Work;

namespace EmberLane.Web;

/// <summary>Server-sent events: one word each time background work has moved on; the page then asks for what it shows.</summary>
internal static class Events
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15), Least = TimeSpan.FromMilliseconds(300);

    public static void Map(IEndpointRouteBuilder app) => app.MapGet("/events", async (HttpContext context, WorkNews news, IHostApplicationLifetime life) =>
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(context.RequestAborted, life.ApplicationStopping);
        context.Response.ContentType = "text/event-stream";
        context.Response.Headers.CacheControl = "no-store";
        try
        {
            while (!stop.IsCancellationRequested)
            {
                var next = news.NextAsync();
                var said = await Task.WhenAny(next, Task.Delay(Beat, stop.Token)) == next ? "event: work\ndata: moved\n\n" : ": still here\n\n";
                await context.Response.WriteAsync(said, stop.Token);
                await context.Response.Body.FlushAsync(stop.Token);
                await Task.Delay(Least, stop.Token);
            }
        }
        catch (OperationCanceledException)
        {
            // The page was closed, or the server stops.
        }
    });
}
