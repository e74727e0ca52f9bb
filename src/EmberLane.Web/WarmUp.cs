using EmberLane.Store;

namespace EmberLane.Web;

/// <summary>
/// Asks for the first page, one chart, one transcript and the lists of one production as soon as the server listens, so that the program is
/// compiled and the database read before a person opens their own; only then is the server ready.
/// </summary>
internal sealed partial class WarmUp(Options options, Footage footage, ILogger<WarmUp> log) : IHostedLifecycleService
{
    public bool Done { get; private set; }

    public async Task StartedAsync(CancellationToken cancellationToken)
    {
        try
        {
            using var client = new HttpClient
            {
                BaseAddress = new Uri($"http://{options.Address}:{options.Port}"),
                Timeout = TimeSpan.FromSeconds(20),
            };
            foreach (var page in Pages())
            {
                await client.GetStringAsync(page, cancellationToken);
            }
        }
        catch (Exception e) when (e is HttpRequestException or TaskCanceledException)
        {
            // Whoever opens the page sees what is wrong with it.
            NotWarm(e.Message);
        }
        Done = true;
    }

    public Task StartAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StartingAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StoppingAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StopAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    public Task StoppedAsync(CancellationToken cancellationToken) => Task.CompletedTask;

    private IEnumerable<string> Pages()
    {
        yield return "/";
        var sittings = footage.Productions().SelectMany(p => footage.Sittings(p.Id)).ToList();
        if (sittings is [.., var last])
        {
            yield return FormattableString.Invariant($"/productions/{last.ProductionId}/gather?sitting={last.Id}");
            foreach (var room in new[] { "bites", "story", "handoff" })
            {
                yield return FormattableString.Invariant($"/productions/{last.ProductionId}/{room}");
            }
        }
        if (sittings.LastOrDefault(s => s.TranscriptId is not null) is { } sitting)
        {
            yield return FormattableString.Invariant($"/productions/{sitting.ProductionId}/read/{sitting.Id}");
        }
    }

    [LoggerMessage(LogLevel.Warning, "The first page could not be made ready: {Reason}")]
    private partial void NotWarm(string reason);
}
