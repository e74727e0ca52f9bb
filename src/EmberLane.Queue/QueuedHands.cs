using System.Collections.Concurrent;
using System.Security.Cryptography;
using EmberLane.Application.Hands;
using EmberLane.Application.Work;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;
using NATS.Client.Core;
using NATS.Client.JetStream.Models;
using NATS.Client.ObjectStore;

namespace EmberLane.Queue;

/// <summary>
/// Has errands done by workers, over a queue that keeps them on its disk. An errand is out until an answer to it was looked at and stands;
/// whatever is lost on the way, a worker, the queue's store or an answer, it is given again. Three failed tries end it.
/// </summary>
public sealed partial class QueuedHands(QueueWish wish, Settings settings, News news, ILogger<QueuedHands> log) : BackgroundService, IHands
{
    private const string Setting = "queue server";

    /// <summary>Tries before an errand fails.</summary>
    public const int Tries = 3;

    private const int MostOut = 64,
        MostLanes = 4,
        MostEarly = 1_000,
        MostEnded = 10_000,
        MostLost = 10;

    /// <summary>A made file may have so many bytes (64 MiB), and so many more (4 MB) for each second of what it is made of.</summary>
    private const long LeastBytes = 64L << 20,
        BytesASecond = 4_000_000;

    private readonly ConcurrentDictionary<string, OutErrand> awaited = new();
    private readonly ConcurrentDictionary<string, AnswerMessage> early = new();
    private readonly ConcurrentDictionary<string, bool> ended = new();
    private readonly SemaphoreSlim encoding = new(Environment.ProcessorCount);
    private readonly Roster roster = new(wish.Times);
    private readonly TaskCompletionSource opened = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private QueueLine line = null!;
    private KeptLine kept = null!;
    private string server = "";

    /// <inheritdoc/>
    public int? AtOnce => MostOut;

    /// <inheritdoc/>
    public int Lanes => MostLanes;

    /// <inheritdoc/>
    public IReadOnlyList<WorkerSeen> Workers => roster.Seen(KindOf);

    /// <inheritdoc/>
    public string? Trouble =>
        !opened.Task.IsCompleted && kept?.Trouble is null ? $"The queue at {wish.Address} has not answered yet."
        : (kept.Trouble ?? line.Gone) is { } said
            ? $"{said} It is tried again every {wish.Times.Again.TotalSeconds:0} seconds, and nothing is lost."
        : awaited.Values.Select(Unseen).FirstOrDefault(w => w is not null);

    /// <inheritdoc/>
    public async Task<string> DoAsync(Errand errand, ErrandProgress progress, CancellationToken cancel)
    {
        await opened.Task.WaitAsync(cancel);
        var own = new OutErrand(errand, ErrandId.Of(errand), progress);
        while (!awaited.TryAdd(own.Id, own))
        {
            // The same is out already: what it makes is there when it has ended.
            await (awaited.TryGetValue(own.Id, out var other) ? other.WhenEnded.WaitAsync(cancel) : Task.CompletedTask);
        }
        ended.TryRemove(own.Id, out _);
        try
        {
            return await UntilDoneAsync(own, cancel);
        }
        catch
        {
            await CallOffAsync(own);
            throw;
        }
        finally
        {
            if (ended.Count > MostEnded)
            {
                ended.Clear();
            }
            ended[own.Id] = true;
            awaited.TryRemove(own.Id, out _);
            own.End();
            if (errand.Sound is not null)
            {
                await line.ForgetAsync(QueueNames.Sound(server, own.Id));
            }
        }
    }

    /// <inheritdoc/>
    public override void Dispose()
    {
        encoding.Dispose();
        base.Dispose();
        GC.SuppressFinalize(this);
    }

    /// <inheritdoc/>
    public override async Task StopAsync(CancellationToken cancellationToken)
    {
        await base.StopAsync(cancellationToken);
        if (line is not null)
        {
            await line.DisposeAsync();
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        line = new QueueLine(wish, "ember-server", isServer: true);
        kept = new KeptLine(
            line,
            wish.Times.Again,
            (_, e) =>
            {
                Odd(e);
                news.Tell();
            }
        );
        await kept.UntilDoneAsync(
            async () =>
            {
                await line.OpenAsync(stoppingToken);
                await TakeNameAsync(stoppingToken);
            },
            stoppingToken
        );
        opened.TrySetResult();
        await Task.WhenAll(
            kept.AlwaysAsync(ListenAnswersAsync, stoppingToken),
            kept.AlwaysAsync(stop => ListenAsync<ProgressMessage>(QueueNames.Progress(server), Progressed, stop), stoppingToken),
            kept.AlwaysAsync(stop => ListenAsync<HereMessage>(QueueNames.Here, HeardOf, stop), stoppingToken),
            kept.AlwaysAsync(AnswerWhoAsync, stoppingToken),
            kept.AlwaysAsync(WatchAsync, stoppingToken)
        );
    }

    private async Task<string> UntilDoneAsync(OutErrand own, CancellationToken cancel)
    {
        if (early.TryRemove(own.Id, out var before))
        {
            own.Answered(before);
        }
        else
        {
            await GiveAsync(own, cancel);
        }
        for (var lost = 0; ;)
        {
            var answer = await own.NextAsync(cancel);
            own.GivenBack(answer.Worker);
            switch (answer.Ended)
            {
                case Ended.Done:
                    if (await TakeAsync(own, answer, cancel))
                    {
                        return answer.Text;
                    }
                    break;
                case Ended.Failed:
                    own.Failed.Add($"{answer.Worker}: {answer.Text}");
                    break;
                case Ended.Elsewhere:
                    own.Elsewhere(answer.Worker, answer.Text);
                    break;
                case Ended.Deadly:
                    break;
                default:
                    own.SoundIsThere = false;
                    lost++;
                    break;
            }
            if (own.Failed.Count >= Tries || answer.Ended == Ended.Deadly || lost > MostLost)
            {
                throw new ToolException(WhyFailed(own, own.Gone(roster.IsThere), lost));
            }
            await GiveAsync(own, cancel);
        }
    }

    private static string WhyFailed(OutErrand own, IReadOnlyList<string> gone, int lost) =>
        own.Failed.Count > 0 ? $"It was tried {own.Failed.Count + gone.Count} times. {string.Join(" ", own.Failed.Distinct())}"
        : gone.Count > 0
            ? $"It was begun {gone.Count} times, by {string.Join(", ", gone)}, and none of them was heard of again. Look at what "
                + "it works on, then try again or leave it."
        : $"It was lost in the queue {lost} times. Look at the store of the queue, then try again.";

    // Takes over an answer. False when it can not be one: that was a try.
    private async Task<bool> TakeAsync(OutErrand own, AnswerMessage answer, CancellationToken cancel)
    {
        try
        {
            if (own.Errand.Output is { } output)
            {
                await FetchAsync(own.Errand, answer.Made ?? throw new FormatException("Nothing came with the answer."), output, cancel);
            }
            await ErrandDesk.CheckAsync(own.Errand, answer.Text, cancel);
            return true;
        }
        catch (NatsObjNotFoundException)
        {
            own.Answered(answer with { Ended = Ended.Lost });
            return false;
        }
        catch (FormatException odd)
        {
            own.Failed.Add($"What {answer.Worker} answered can not be used. {odd.Message}");
            return false;
        }
        finally
        {
            await line.ForgetAsync(answer.Made);
        }
    }

    private async Task FetchAsync(Errand errand, string made, string output, CancellationToken cancel)
    {
        var part = output + ".part";
        try
        {
            await kept.UntilDoneAsync(
                async () =>
                {
                    var most = LeastBytes + ((long)errand.Length.ToSecondsInexact() * BytesASecond);
                    var info = await line.Store.GetInfoAsync(made, cancellationToken: cancel);
                    if ((decimal)info.Size > most)
                    {
                        throw new FormatException($"It has {info.Size} bytes; {most} are the most that there can be.");
                    }
                    await using var file = File.Create(part);
                    await line.Store.GetAsync(made, file, leaveOpen: true, cancel);
                },
                cancel
            );
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }

    private async Task GiveAsync(OutErrand own, CancellationToken cancel)
    {
        if (own.Errand.Sound is { } sound && !own.SoundIsThere)
        {
            await PutSoundAsync(sound, QueueNames.Sound(server, own.Id), cancel);
            own.SoundIsThere = true;
        }
        var errand = own.Errand;
        var message = QueueMessages.Write(
            new ErrandMessage(
                server,
                own.Id,
                errand.Kind,
                errand.Title,
                errand.Asked,
                errand.Length.Units,
                errand.Sound is null ? null : QueueNames.Sound(server, own.Id),
                errand.Footage,
                errand.Footage is { } footage ? new FileInfo(footage).Length : 0,
                errand.Output is not null,
                [.. own.Not.Keys]
            )
        );
        own.Touch();
        await kept.UntilDoneAsync(() => line.PublishAsync(QueueNames.Work1(errand.Kind, server, own.Id), message, cancel), cancel);
    }

    private async Task PutSoundAsync(string sound, string name, CancellationToken cancel)
    {
        var flac = sound + ".flac";
        try
        {
            // As many as there are cores: so the first is in the queue soon, however many are asked for at once.
            await encoding.WaitAsync(cancel);
            try
            {
                FlacFile.Encode(sound, flac);
            }
            finally
            {
                encoding.Release();
            }
            await kept.UntilDoneAsync(
                async () =>
                {
                    await using var file = File.OpenRead(flac);
                    await line.Store.PutAsync(name, file, leaveOpen: true, cancel);
                },
                cancel
            );
        }
        finally
        {
            File.Delete(flac);
        }
    }

    // Nobody wants it any more: whoever has it stops, and it is not given out again.
    private async Task CallOffAsync(OutErrand own)
    {
        try
        {
            await CancelAsync(own.Id);
            await line.Stream.PurgeStreamAsync(
                QueueNames.Work,
                new StreamPurgeRequest { Filter = QueueNames.Work1(own.Errand.Kind, server, own.Id) }
            );
        }
        catch (Exception e) when (e is not OutOfMemoryException)
        {
            // The line is gone: whoever has it is told when it is heard of again, and the next start clears what lies there.
            Odd(e);
        }
    }

    private ValueTask CancelAsync(string id) =>
        line.Connection.PublishAsync(QueueNames.Cancel(server), System.Text.Encoding.ASCII.GetBytes(id));

    // The name that this server had before, unless another one answers to it: then its data folder was copied.
    private async Task TakeNameAsync(CancellationToken cancel)
    {
        server = settings.Get(Setting) ?? NewName();
        try
        {
            await line.Connection.RequestAsync<byte[], byte[]>(
                QueueNames.Who(server),
                [],
                replyOpts: new NatsSubOpts { Timeout = TimeSpan.FromSeconds(2) },
                cancellationToken: cancel
            );
            server = NewName();
        }
        catch (Exception nobody) when (nobody is NatsNoRespondersException or NatsNoReplyException)
        {
            await line.Stream.PurgeStreamAsync(
                QueueNames.Work,
                new StreamPurgeRequest { Filter = QueueNames.WorkOfServer(server) },
                cancel
            );
            await ClearStoreAsync(cancel);
        }
        settings.Set(Setting, server);
    }

    private async Task ClearStoreAsync(CancellationToken cancel)
    {
        var once = new NatsObjWatchOpts
        {
            IgnoreDeletes = true,
            InitialSetOnly = true,
            // An empty store would be waited at for ever.
            OnNoData = _ => ValueTask.FromResult(true),
        };
        await foreach (var stored in line.Store.WatchAsync(once, cancel))
        {
            if (QueueNames.ServerOf(stored.Name) == server && stored.Name == QueueNames.Sound(server, stored.Name.Split('.')[1]))
            {
                await line.ForgetAsync(stored.Name);
            }
        }
    }

    private static string NewName() => Convert.ToHexStringLower(RandomNumberGenerator.GetBytes(8));

    private string Doing(string id) => $"{server}/{id}";

    // Of the kind only: what is worked on may be another production's.
    private string? KindOf(string doing) =>
        doing.Split('/') is [var of, var id] && of == server && awaited.TryGetValue(id, out var own) ? own.Errand.Kind : null;

    // Nobody is there who takes it.
    private string? Unseen(OutErrand own) =>
        own.Worker is not null || roster.HasFor(own.Errand.Kind, own.Not.Keys) ? null
        : own.Not.Count > 0 ? $"Work of the kind “{own.Errand.Kind}” waits: none of the workers that are there can do it."
        : $"Work of the kind “{own.Errand.Kind}” waits: no worker is there that takes it. Start one: "
            + $"./ember work --nats {wish.Address}";

    [LoggerMessage(Level = LogLevel.Warning, Message = "The queue of work")]
    private partial void Odd(Exception e);
}
