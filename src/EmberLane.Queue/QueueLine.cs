using EmberLane.Application.Hands;
using EmberLane.Engines;
using NATS.Client.Core;
using NATS.Client.JetStream;
using NATS.Client.JetStream.Models;
using NATS.Client.ObjectStore;

namespace EmberLane.Queue;

/// <summary>A line to the queue, with what has to be there: the streams, a consumer for each kind of work, and the store.</summary>
internal sealed class QueueLine : IAsyncDisposable
{
    /// <summary>The first version of nats-server that has all that is used here.</summary>
    private static readonly Version Least = new(2, 9);

    private readonly QueueWish wish;
    private readonly bool isServer;
    private TaskCompletionSource back = new(TaskCreationOptions.RunContinuationsAsynchronously);

    // A server makes what has to be there; a worker finds it.
    public QueueLine(QueueWish wish, string name, bool isServer)
    {
        (this.wish, this.isServer) = (wish, isServer);
        Connection = new NatsConnection(wish.Opts(name));
        Stream = new NatsJSContext(Connection);
        Connection.ConnectionOpened += (_, _) =>
        {
            Interlocked.Exchange(ref back, new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously)).TrySetResult();
            return ValueTask.CompletedTask;
        };
    }

    /// <summary>That there is no line just now, for a person; null while there is one.</summary>
    public string? Gone => Connection.ConnectionState == NatsConnectionState.Open ? null : NotThere;

    private string NotThere => $"There is no queue at {wish.Address}. Start nats-server -js there, or look at the line to it.";

    public NatsConnection Connection { get; }

    public NatsJSContext Stream { get; }

    public INatsObjStore Store { get; private set; } = null!;

    /// <summary>
    /// Connects and makes or finds what has to be there; may be called again. Throws <see cref="ToolException"/> with a sentence where that
    /// can not be done.
    /// </summary>
    public async Task OpenAsync(CancellationToken cancel)
    {
        try
        {
            await Connection.ConnectAsync();
            var info = Connection.ServerInfo;
            if (Version.TryParse(info?.Version, out var version) && version < Least)
            {
                throw new ToolException(
                    $"The queue at {wish.Address} is nats-server {info!.Version}; {Least} or later is needed. Bring it up to date."
                );
            }
            if (info?.JetStreamAvailable != true)
            {
                throw new ToolException($"The queue at {wish.Address} keeps nothing: start nats-server with -js.");
            }
            await (isServer ? MakeAsync(cancel) : FindAsync(cancel));
        }
        catch (Exception e) when (e is NatsException or IOException or TimeoutException)
        {
            throw new ToolException(Words(e), e);
        }
    }

    /// <summary>Whether it is the line or the queue that something failed for, so that it is tried again.</summary>
    public static bool IsOfLine(Exception e) =>
        e
            is NatsException
                or NatsObjException
                or TimeoutException
                or OperationCanceledException
                or System.Net.Sockets.SocketException
                or ToolException
        && e is not NatsObjNotFoundException;

    /// <summary>What went wrong with the queue, for a person.</summary>
    public string Words(Exception e)
    {
        var all = string.Join(' ', Chain(e).Select(i => i.Message));
        return all.Contains("Authorization", StringComparison.OrdinalIgnoreCase)
            || all.Contains("Authentication", StringComparison.OrdinalIgnoreCase)
                ? $"The queue at {wish.Address} does not let this in. Give it the queue's token with --nats-token-file, or a certificate."
            : all.Contains("insufficient", StringComparison.OrdinalIgnoreCase)
            || all.Contains("maximum bytes", StringComparison.OrdinalIgnoreCase)
            || all.Contains("no space", StringComparison.OrdinalIgnoreCase)
                ? $"The store of the queue at {wish.Address} is full. Make room there; work goes on then."
            : e is ToolException ? e.Message
            : Connection.ConnectionState == NatsConnectionState.Open
                ? $"The queue at {wish.Address} does not answer as it should: {e.Message}"
            : NotThere;
    }

    /// <summary>
    /// Does something for as long as the line stays the same: when it has come back it is ended, and what has to be there is made again,
    /// for the queue may have begun anew with nothing. Throws what it throws.
    /// </summary>
    public async Task WhileItIsAsync(Func<CancellationToken, Task> act, CancellationToken stop)
    {
        using var own = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var again = Volatile.Read(ref back).Task;
        var doing = act(own.Token);
        if (await Task.WhenAny(doing, again) == doing)
        {
            await doing;
            return;
        }
        await own.CancelAsync();
        try
        {
            await doing;
        }
        catch (Exception e) when (!stop.IsCancellationRequested && e is OperationCanceledException or NatsException)
        {
            // Begun anew by who asked.
        }
        await OpenAsync(stop);
    }

    /// <summary>Gives an errand's or an answer's message to the queue, which has it on its disk then.</summary>
    public async Task PublishAsync(string subject, byte[] message, CancellationToken cancel) =>
        (await Stream.PublishAsync(subject, message, cancellationToken: cancel)).EnsureSuccess();

    /// <summary>Lets go of something in the store, where it is there and can be reached.</summary>
    public async Task ForgetAsync(string? stored)
    {
        if (stored is null)
        {
            return;
        }
        try
        {
            await Store.DeleteAsync(stored);
        }
        catch (Exception e) when (e is NatsException or NatsObjException or TimeoutException)
        {
            // Cleared at the next start of its server.
        }
    }

    /// <inheritdoc/>
    public ValueTask DisposeAsync() => Connection.DisposeAsync();

    private static IEnumerable<Exception> Chain(Exception? e)
    {
        for (; e is not null; e = e.InnerException)
        {
            yield return e;
        }
    }

    private async Task FindAsync(CancellationToken cancel)
    {
        try
        {
            await Stream.GetStreamAsync(QueueNames.Work, cancellationToken: cancel);
            await Stream.GetStreamAsync(QueueNames.Answers, cancellationToken: cancel);
            Store = await new NatsObjContext(Stream).GetObjectStoreAsync(QueueNames.Store, cancel);
        }
        catch (Exception e) when (e is NatsJSApiException { Error.Code: 404 } or NatsObjException)
        {
            throw new ToolException(
                $"No server gives work to the queue at {wish.Address} yet. Start one: ./ember serve --nats {wish.Address}",
                e
            );
        }
    }

    private async Task MakeAsync(CancellationToken cancel)
    {
        await Stream.CreateOrUpdateStreamAsync(
            new StreamConfig(QueueNames.Work, [QueueNames.AllWork])
            {
                Retention = StreamConfigRetention.Workqueue,
                // Work that is asked for again takes the place of what lies there.
                MaxMsgsPerSubject = 1,
            },
            cancel
        );
        await Stream.CreateOrUpdateStreamAsync(
            new StreamConfig(QueueNames.Answers, [QueueNames.AllAnswers])
            {
                Retention = StreamConfigRetention.Workqueue,
                MaxAge = TimeSpan.FromDays(7),
            },
            cancel
        );
        foreach (var kind in ErrandKinds.All)
        {
            await Stream.CreateOrUpdateConsumerAsync(
                QueueNames.Work,
                new ConsumerConfig(kind)
                {
                    FilterSubject = QueueNames.WorkOf(kind),
                    AckPolicy = ConsumerConfigAckPolicy.Explicit,
                    AckWait = wish.Times.Silence,
                    MaxDeliver = -1,
                    MaxAckPending = 10_000,
                },
                cancel
            );
        }
        Store = await new NatsObjContext(Stream).CreateObjectStoreAsync(
            new NatsObjConfig(QueueNames.Store) { MaxAge = TimeSpan.FromDays(7) },
            cancel
        );
    }
}
