using System.Collections.Concurrent;
using System.Diagnostics;
using System.Globalization;
using System.Threading.Channels;
using EmberLane.Application;
using EmberLane.Application.Hands;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using NATS.Client.Core;
using NATS.Client.JetStream;
using NATS.Client.ObjectStore;

namespace EmberLane.Queue;

/// <summary>
/// What a worker is: the queue, which kinds of work it takes and how many at once, where it sees footage, its name (its own among all
/// workers), and the folder where it keeps what it works on.
/// </summary>
public sealed record WorkerWish(QueueWish Queue, IReadOnlyList<string> Kinds, int AtOnce, PathMap Map, string Name, string Scratch);

/// <summary>
/// Takes errands from the queue and does them. One is acknowledged when its answer lies in the queue; while it runs the queue hears of it,
/// and gives it out again when it does not.
/// </summary>
public sealed class Worker : IAsyncDisposable
{
    private const int BeatsInSilence = 3,
        Plenty = 16;

    /// <summary>An errand may stand still for so many times the length of its media, beside what any may.</summary>
    private const int StillTimes = 30;

    private static readonly TimeSpan NotForUs = TimeSpan.FromSeconds(2);

    private readonly ConcurrentDictionary<string, ErrandInHand> inHand = new();
    private readonly Channel<bool> wake = Channel.CreateBounded<bool>(
        new BoundedChannelOptions(1) { FullMode = BoundedChannelFullMode.DropWrite }
    );
    private readonly ConcurrentDictionary<string, bool> otherServers = new();
    private readonly ConcurrentDictionary<string, long> resting = new();
    private readonly ConcurrentDictionary<Task, bool> doing = new();
    private readonly WorkerWish wish;
    private readonly ErrandDesk desk;
    private readonly Action<string> tell;
    private readonly SemaphoreSlim places,
        ahead,
        working;
    private readonly QueueLine line;
    private readonly KeptLine kept;

    // Whether so many pieces of sound wait that one is fetched while another is worked on; the last ones are left to who is idle.
    private bool isPlenty;
    private long doneUnits,
        doneTicks;

    // As the server wishes it: the queue gives work out again when it has heard nothing of it for so long.
    private TimeSpan silence = new QueueTimes().Silence;

    /// <summary>A worker that does errands at this desk and says what a person at its terminal should know; not yet at the queue.</summary>
    public Worker(WorkerWish wish, ErrandDesk desk, Action<string> tell)
    {
        (this.wish, this.desk, this.tell) = (wish, desk, tell);
        places = new SemaphoreSlim(wish.AtOnce);
        ahead = new SemaphoreSlim(wish.AtOnce);
        working = new SemaphoreSlim(wish.AtOnce);
        line = new QueueLine(wish.Queue, wish.Name, isServer: false);
        kept = new KeptLine(line, Times.Again, (said, _) => tell($"{said} It is tried again every {Times.Again.TotalSeconds:0} seconds."));
    }

    private QueueTimes Times => wish.Queue.Times;

    /// <summary>Works until it is stopped; what it has in hand then is given back. Once.</summary>
    public async Task RunAsync(CancellationToken stop)
    {
        Directory.CreateDirectory(wish.Scratch);
        try
        {
            await kept.UntilDoneAsync(
                async () =>
                {
                    await line.OpenAsync(stop);
                },
                stop
            );
            tell($"{wish.Name} is there for {string.Join(", ", wish.Kinds)}, {wish.AtOnce} at once, at {wish.Queue.Address}");
            await Task.WhenAll([
                .. wish.Kinds.Select(kind => kept.AlwaysAsync(quit => WakeAsync(kind, quit), stop)),
                kept.AlwaysAsync(CancelsAsync, stop),
                kept.AlwaysAsync(ServersAsync, stop),
                kept.AlwaysAsync(BeatAsync, stop),
                kept.AlwaysAsync(quit => TakeAsync(quit, stop), stop),
            ]);
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            // Stopped before there was a queue.
        }
        await Task.WhenAll(doing.Keys);
    }

    /// <inheritdoc/>
    public async ValueTask DisposeAsync()
    {
        await line.DisposeAsync();
        places.Dispose();
        ahead.Dispose();
        working.Dispose();
    }

    // Takes work while the line is there; what is in hand goes on until the worker stops.
    private async Task TakeAsync(CancellationToken quit, CancellationToken stop)
    {
        var consumers = new List<INatsJSConsumer>();
        foreach (var kind in wish.Kinds)
        {
            consumers.Add(await line.Stream.GetConsumerAsync(QueueNames.Work, kind, quit));
        }
        silence = consumers[0].Info.Config.AckWait;
        while (true)
        {
            // Ahead of a piece of sound only: behind a copy it would wait for an hour.
            var held = isPlenty && inHand.Values.All(e => e.Message.Kind == ErrandKinds.Speech) ? ahead : places;
            await held.WaitAsync(quit);
            INatsJSMsg<byte[]> came;
            try
            {
                came = await NextAsync(consumers, quit);
            }
            catch
            {
                held.Release();
                throw;
            }
            isPlenty =
                came.Subject.StartsWith(QueueNames.WorkOf(ErrandKinds.Speech)[..^1], StringComparison.Ordinal)
                && came.Metadata?.NumPending >= Plenty;
            var task = DoAsync(came, stop);
            doing[task] = true;
            _ = task.ContinueWith(
                t =>
                {
                    doing.TryRemove(t, out _);
                    held.Release();
                },
                CancellationToken.None,
                TaskContinuationOptions.ExecuteSynchronously,
                TaskScheduler.Default
            );
        }
    }

    private async Task<INatsJSMsg<byte[]>> NextAsync(List<INatsJSConsumer> consumers, CancellationToken stop)
    {
        for (var isAwake = true; ;)
        {
            foreach (var (consumer, kind) in consumers.Zip(wish.Kinds))
            {
                if (!isAwake && resting.TryGetValue(kind, out var until) && Stopwatch.GetTimestamp() < until)
                {
                    continue;
                }
                await foreach (var came in consumer.FetchNoWaitAsync<byte[]>(new NatsJSFetchOpts { MaxMsgs = 1 }, cancellationToken: stop))
                {
                    return came;
                }
            }
            using var soon = CancellationTokenSource.CreateLinkedTokenSource(stop);
            // What is given out again wakes nobody, so it is looked for now and then; not all at the same time.
            soon.CancelAfter(Times.Beat * (0.5 + Random.Shared.NextDouble()));
            try
            {
                isAwake = await wake.Reader.ReadAsync(soon.Token);
            }
            catch (OperationCanceledException) when (!stop.IsCancellationRequested)
            {
                isAwake = false;
            }
        }
    }

    private async Task DoAsync(INatsJSMsg<byte[]> came, CancellationToken stop)
    {
        if (QueueMessages.Read<ErrandMessage>(came.Data) is not { } message)
        {
            tell("Something in the queue is no work of Ember Lane and was taken out.");
            await QuietlyAsync(() => came.AckTerminateAsync(cancellationToken: CancellationToken.None));
            return;
        }
        if (message.Not.Contains(wish.Name))
        {
            // It comes back to whoever looks first: this worker looks later, so that it is another.
            resting[message.Kind] = Stopwatch.GetTimestamp() + (long)((NotForUs + Times.Beat).TotalSeconds * Stopwatch.Frequency);
            await QuietlyAsync(() => came.NakAsync(new AckOpts { NakDelay = NotForUs }, CancellationToken.None));
            return;
        }
        using var end = CancellationTokenSource.CreateLinkedTokenSource(stop);
        var own = new ErrandInHand(message, came, end);
        if (!inHand.TryAdd(own.Name, own))
        {
            // Given out again while it is being done here: the line was gone for a while.
            inHand.TryGetValue(own.Name, out var same);
            (same ?? own).Came = came;
            return;
        }
        using var alive = new Timer(_ => _ = AliveAsync(own), null, TimeSpan.Zero, silence / BeatsInSilence);
        try
        {
            var answer = await AnswerAsync(own, end.Token);
            // Before its server hears of it: what that gives again then is another try, and not this one.
            inHand.TryRemove(own.Name, out _);
            if (answer is null)
            {
                await QuietlyAsync(() =>
                    stop.IsCancellationRequested
                        ? own.Came.NakAsync(cancellationToken: CancellationToken.None)
                        : own.Came.AckTerminateAsync(cancellationToken: CancellationToken.None)
                );
                return;
            }
            await kept.UntilDoneAsync(
                async () =>
                {
                    await line.PublishAsync(QueueNames.Answer(message.Server, message.Id), QueueMessages.Write(answer), stop);
                },
                stop
            );
            await QuietlyAsync(() => own.Came.AckAsync(cancellationToken: CancellationToken.None));
        }
        catch (OperationCanceledException) when (stop.IsCancellationRequested)
        {
            // Stopped before its answer was in the queue.
            await QuietlyAsync(() => own.Came.NakAsync(cancellationToken: CancellationToken.None));
        }
        catch (Exception e)
        {
            // Whatever it is, the worker goes on; the queue gives this out again.
            tell($"{message.Title}: {ErrorWords.Of(e)}");
        }
        finally
        {
            inHand.TryRemove(KeyValuePair.Create(own.Name, own));
        }
    }

    // Null when it was called off, or the worker stops.
    private async Task<AnswerMessage?> AnswerAsync(ErrandInHand own, CancellationToken cancel)
    {
        var message = own.Message;
        var folder = Directory.CreateDirectory(Path.Combine(wish.Scratch, Guid.NewGuid().ToString("N"))).FullName;
        AnswerMessage Answer(Ended ended, string text, string? made = null) => new(message.Id, wish.Name, ended, text, made);
        try
        {
            var errand = await ErrandAsync(message, folder, cancel);
            string text;
            await working.WaitAsync(cancel);
            try
            {
                own.Begin();
                text = await desk.DoAsync(errand, (at, _) => own.Move(at), cancel);
            }
            finally
            {
                working.Release();
            }
            var made = errand.Output is { } output ? await PutAsync(message, output, cancel) : null;
            Interlocked.Add(ref doneUnits, message.Length);
            Interlocked.Add(ref doneTicks, own.Lasted.Ticks);
            return Answer(Ended.Done, text, made);
        }
        catch (Exception) when (own.IsHung)
        {
            return Answer(
                Ended.Failed,
                string.Create(CultureInfo.InvariantCulture, $"It did not get on for {Still(own).TotalMinutes:0} min.")
            );
        }
        catch (Exception) when (cancel.IsCancellationRequested)
        {
            return null;
        }
        catch (NatsObjNotFoundException)
        {
            return Answer(Ended.Lost, "");
        }
        catch (ErrandElsewhereException elsewhere)
        {
            return Answer(Ended.Elsewhere, elsewhere.Message);
        }
        catch (Exception e)
        {
            // Whatever it is: the server is told, and this worker goes on.
            tell($"{message.Title}: {ErrorWords.Of(e)}");
            return Answer(Ended.Failed, ErrorWords.Of(e));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private async Task<Errand> ErrandAsync(ErrandMessage message, string folder, CancellationToken cancel)
    {
        var footage = message.Footage is { } there ? wish.Map.Find(there, message.Bytes) : null;
        string? sound = null;
        if (message.Sound is { } stored)
        {
            sound = Path.Combine(folder, "sound.wav");
            var flac = Path.Combine(folder, "sound.flac");
            await kept.UntilDoneAsync(
                async () =>
                {
                    await using var file = File.Create(flac);
                    await line.Store.GetAsync(stored, file, leaveOpen: true, cancel);
                },
                cancel
            );
            FlacFile.Decode(flac, sound);
            File.Delete(flac);
        }
        return new Errand(message.Kind, message.Title, message.Asked, new MediaTime(message.Length))
        {
            Sound = sound,
            Footage = footage,
            Output = message.Makes ? Path.Combine(folder, "made") : null,
        };
    }

    private async Task<string> PutAsync(ErrandMessage message, string output, CancellationToken cancel)
    {
        var name = QueueNames.Made(message.Server, message.Id, wish.Name);
        await kept.UntilDoneAsync(
            async () =>
            {
                await using var file = File.OpenRead(output);
                await line.Store.PutAsync(name, file, leaveOpen: true, cancel);
            },
            cancel
        );
        return name;
    }

    private TimeSpan Still(ErrandInHand own) =>
        Times.Hung + TimeSpan.FromSeconds(StillTimes * new MediaTime(own.Message.Length).ToSecondsInexact());

    private async Task AliveAsync(ErrandInHand own)
    {
        own.EndIfHung(Still(own));
        await QuietlyAsync(() => own.Came.AckProgressAsync());
        await QuietlyAsync(() =>
            line.Connection.PublishAsync(
                QueueNames.Progress(own.Message.Server),
                QueueMessages.Write(new ProgressMessage(own.Message.Id, wish.Name, own.At == 0, own.At))
            )
        );
    }

    private async Task WakeAsync(string kind, CancellationToken stop)
    {
        await foreach (var _ in line.Connection.SubscribeAsync<byte[]>(QueueNames.WorkOf(kind), cancellationToken: stop))
        {
            wake.Writer.TryWrite(true);
        }
    }

    private async Task CancelsAsync(CancellationToken stop)
    {
        await foreach (var message in line.Connection.SubscribeAsync<string>(QueueNames.Cancels, cancellationToken: stop))
        {
            if (inHand.TryGetValue($"{message.Subject.Split('.')[^1]}/{message.Data}", out var own))
            {
                own.CallOff();
            }
        }
    }

    private async Task ServersAsync(CancellationToken stop)
    {
        await foreach (var message in line.Connection.SubscribeAsync<byte[]>(QueueNames.Servers, cancellationToken: stop))
        {
            if (
                QueueMessages.Read<ServerMessage>(message.Data) is { } said
                && said.Protocol != QueueMessages.Protocol
                && otherServers.TryAdd(said.Server, true)
            )
            {
                tell(
                    $"A server of {(said.Protocol > QueueMessages.Protocol ? "a newer" : "an older")} version ({said.Version}) is at this "
                        + $"queue; this worker is {QueueMessages.Version} and takes nothing of it. Bring both to the same."
                );
            }
        }
    }

    private async Task BeatAsync(CancellationToken stop)
    {
        while (true)
        {
            var ticks = Interlocked.Read(ref doneTicks);
            var pace =
                ticks == 0
                    ? 0
                    : 1000 * new MediaTime(Interlocked.Read(ref doneUnits)).ToSecondsInexact() / TimeSpan.FromTicks(ticks).TotalSeconds;
            await line.Connection.PublishAsync(
                QueueNames.Here,
                QueueMessages.Write(
                    new HereMessage(
                        QueueMessages.Protocol,
                        QueueMessages.Version,
                        wish.Name,
                        wish.Kinds,
                        wish.AtOnce,
                        [.. inHand.Keys],
                        (long)pace,
                        DateTime.UtcNow
                    )
                ),
                cancellationToken: stop
            );
            await Task.Delay(Times.Beat, stop);
        }
    }

    // What is lost here is given out again, or told of with the next beat.
    private static async Task QuietlyAsync(Func<ValueTask> act)
    {
        try
        {
            await act();
        }
        catch (Exception e) when (e is NatsException or TimeoutException or OperationCanceledException or ObjectDisposedException) { }
    }
}
