using System.Threading.RateLimiting;

namespace EmberLane.Web.Access;

/// <summary>
/// What one person may ask for in a row: far more than hands can do, and less than keeps others waiting. An undo key that is held down
/// sends thirty changes a second; a page of many pictures asks for hundreds of them at once.
/// </summary>
internal static class Flood
{
    private const int ChangesInARow = 1_000,
        ChangesASecond = 50,
        ReadsInARow = 6_000,
        ReadsASecond = 300;

    /// <summary>Refuses what is too much with 429 and a sentence. After it is known who asks.</summary>
    public static void Use(WebApplication app)
    {
        var limits = PartitionedRateLimiter.Create<HttpContext, (string Who, bool Changes)>(context =>
        {
            var changes = !HttpMethods.IsGet(context.Request.Method) && !HttpMethods.IsHead(context.Request.Method);
            return RateLimitPartition.GetTokenBucketLimiter(
                (Visitor.Of(context)?.Name ?? context.Connection.RemoteIpAddress?.ToString() ?? "", changes),
                _ => new TokenBucketRateLimiterOptions
                {
                    TokenLimit = changes ? ChangesInARow : ReadsInARow,
                    TokensPerPeriod = changes ? ChangesASecond : ReadsASecond,
                    ReplenishmentPeriod = TimeSpan.FromSeconds(1),
                }
            );
        });
        app.Lifetime.ApplicationStopped.Register(limits.Dispose);
        app.Use(
            async (context, next) =>
            {
                // The page that says what was wrong is the same request once more.
                if (!context.Items.TryAdd(typeof(Flood), true))
                {
                    await next(context);
                    return;
                }
                using var lease = limits.AttemptAcquire(context);
                if (lease.IsAcquired)
                {
                    await next(context);
                    return;
                }
                context.Response.StatusCode = StatusCodes.Status429TooManyRequests;
                context.Response.Headers.RetryAfter = "5";
                context.Response.ContentType = "text/plain; charset=utf-8";
                await context.Response.WriteAsync(
                    "That was too much at once. Nothing of this was saved; wait a few seconds, then do it again."
                );
            }
        );
    }
}
