using System.Diagnostics;
using System.Threading.Channels;
using EmberLane.Application.Hands;

namespace EmberLane.Queue;

/// <summary>An errand that is out: what came back so far, who has it, and who could not do it.</summary>
internal sealed class OutErrand(Errand errand, string id, ErrandProgress progress)
{
    private readonly Channel<AnswerMessage> answers = Channel.CreateUnbounded<AnswerMessage>();
    private readonly TaskCompletionSource ended = new(TaskCreationOptions.RunContinuationsAsynchronously);
    private readonly HashSet<string> begun = [];
    private long heard = Stopwatch.GetTimestamp();

    public Errand Errand => errand;

    public string Id => id;

    /// <summary>When it is no longer out, however it ended.</summary>
    public Task WhenEnded => ended.Task;

    /// <summary>Workers that can not do it, each with its reason.</summary>
    public Dictionary<string, string> Not { get; } = [];

    /// <summary>Why it failed, once for each try.</summary>
    public List<string> Failed { get; } = [];

    /// <summary>Whether its sound lies in the store.</summary>
    public bool SoundIsThere { get; set; }

    /// <summary>How often in a row it seemed to be what ended its workers.</summary>
    public int Deadly { get; set; }

    /// <summary>Who began it last.</summary>
    public string? Worker { get; private set; }

    public TimeSpan Silent => Stopwatch.GetElapsedTime(Interlocked.Read(ref heard));

    public void Touch() => Interlocked.Exchange(ref heard, Stopwatch.GetTimestamp());

    public void Answered(AnswerMessage answer) => answers.Writer.TryWrite(answer);

    public ValueTask<AnswerMessage> NextAsync(CancellationToken cancel) => answers.Reader.ReadAsync(cancel);

    /// <summary>A worker has begun it.</summary>
    public void Begun(string worker)
    {
        lock (begun)
        {
            begun.Add(worker);
        }
        Worker = worker;
        Touch();
    }

    /// <summary>The worker has answered: it is not missing.</summary>
    public void GivenBack(string worker)
    {
        lock (begun)
        {
            begun.Remove(worker);
        }
        Worker = Worker == worker ? null : Worker;
    }

    /// <summary>
    /// Workers that began it before the one who has it now, never answered, and are not there any more, as <paramref name="isThere"/> says
    /// now: one that only lost its line for a while is none of them.
    /// </summary>
    public IReadOnlyList<string> Gone(Func<string, bool> isThere)
    {
        lock (begun)
        {
            return [.. begun.Where(w => w != Worker && !isThere(w)).Order(StringComparer.Ordinal)];
        }
    }

    public void At(long units)
    {
        Touch();
        if (units > 0 && units <= errand.Length.Units)
        {
            progress(new MediaTime(units), "");
        }
    }

    /// <summary>A worker can not do it: it waits for another one.</summary>
    public void Elsewhere(string worker, string reason)
    {
        Not[worker] = reason;
        progress(MediaTime.Zero, $"waits for a worker that can do it. {worker}: {reason}");
    }

    public void End() => ended.TrySetResult();
}
