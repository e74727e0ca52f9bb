using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using EmberLane.Application.People;
using EmberLane.Application.Work;
using EmberLane.Web.Access;

namespace EmberLane.Web;

/// <summary>
/// Server-sent events: what has changed in the production that a page shows, in one word each; the page then asks for what it shows of
/// that.
/// </summary>
internal static class Events
{
    private static readonly TimeSpan Beat = TimeSpan.FromSeconds(15),
        Least = TimeSpan.FromMilliseconds(300);

    public static void Map(IEndpointRouteBuilder app) =>
        app.MapGet(
            "/events",
            IResult (long? production, string? at, HttpContext context, News news, Here here, IHostApplicationLifetime life) =>
            {
                if (Visitor.Of(context) is not { } visitor || (production is { } one && !visitor.IsTold(one)))
                {
                    return Results.NotFound();
                }
                // News of all productions is for owners only; a page of none is told to others that work moves on, and no more.
                production ??= visitor.IsOwner ? null : 0;
                context.Response.Headers.CacheControl = "no-store";
                return TypedResults.ServerSentEvents(
                    SayAsync(
                        news,
                        production,
                        production is { } where ? () => Enter(here, news, new Seat(where, visitor.Name, PageOf(at))) : null,
                        life.ApplicationStopping,
                        context.RequestAborted
                    )
                );
            }
        );

    private static async IAsyncEnumerable<SseItem<string>> SayAsync(
        News news,
        long? production,
        Func<Leaving>? enter,
        CancellationToken stopping,
        [EnumeratorCancellation] CancellationToken gone
    )
    {
        using var stop = CancellationTokenSource.CreateLinkedTokenSource(gone, stopping);
        var heard = Channel.CreateUnbounded<string>();
        using var seat = enter?.Invoke();
        var listening = HearAsync(news, production, heard.Writer, stop.Token);
        // At once, so that the page knows that the line is open.
        yield return new SseItem<string>("", "beat");
        if (seat is not null)
        {
            yield return new SseItem<string>(seat.Id.ToString(), "seat");
        }
        await foreach (var word in WordsAsync(heard.Reader, stop.Token))
        {
            yield return new SseItem<string>("", word);
        }
        await listening;
    }

    // Others are told who came, and who left.
    private static Leaving Enter(Here here, News news, Seat seat)
    {
        var taken = here.Enter(seat);
        var item = new NewsItem(NewsOf.Here, seat.ProductionId, seat.Who);
        news.Tell(item);
        return new Leaving(
            taken.Id,
            () =>
            {
                taken.Dispose();
                news.Tell(item);
            }
        );
    }

    private sealed class Leaving(Guid id, Action leave) : IDisposable
    {
        public Guid Id => id;

        public void Dispose() => leave();
    }

    private static string PageOf(string? at) =>
        at is { Length: > 0 and < 200 } && at.StartsWith("/productions/", StringComparison.Ordinal) ? at : "";

    private static async Task HearAsync(News news, long? production, ChannelWriter<string> heard, CancellationToken stop)
    {
        try
        {
            await foreach (var item in news.ListenAsync(production, stop))
            {
                heard.TryWrite(item.About.ToString().ToLowerInvariant());
            }
        }
        catch (OperationCanceledException)
        {
            // The page was closed, or the server stops.
        }
        heard.Complete();
    }

    // Several news of one kind within a moment are one; where there is none for long, a beat tells that the line is alive.
    private static async IAsyncEnumerable<string> WordsAsync(ChannelReader<string> heard, [EnumeratorCancellation] CancellationToken stop)
    {
        while (!stop.IsCancellationRequested)
        {
            var more = heard.WaitToReadAsync(CancellationToken.None).AsTask();
            while (await Task.WhenAny(more, Task.Delay(Beat, CancellationToken.None)) != more)
            {
                yield return "beat";
            }
            if (!await more)
            {
                yield break;
            }
            var said = new HashSet<string>(StringComparer.Ordinal);
            while (heard.TryRead(out var word))
            {
                if (said.Add(word))
                {
                    yield return word;
                }
            }
            await Task.WhenAny(Task.Delay(Least, stop));
        }
    }
}
