using System.Runtime.CompilerServices;
using System.Threading.Channels;

namespace EmberLane.Application.Work;

/// <summary>What has changed, for those who show some of it.</summary>
public enum NewsOf
{
    /// <summary>Background work has moved on, with whatever it made.</summary>
    Work,

    /// <summary>Sittings, files, places and mics.</summary>
    Gather,

    /// <summary>The words, voices and marks of a text, or which text a sitting is read by.</summary>
    Words,

    /// <summary>A bite was kept, described or set aside.</summary>
    Bites,

    /// <summary>A story was changed.</summary>
    Story,

    /// <summary>What was chosen for a sitting's cameras.</summary>
    Cameras,

    /// <summary>What people made of a story's captions.</summary>
    Captions,

    /// <summary>A production's name and what was chosen for it.</summary>
    Production,

    /// <summary>Somebody said something of words, a bite or a card.</summary>
    Comments,

    /// <summary>Somebody opened a page of the production, or left it.</summary>
    Here,
}

/// <summary>A piece of news: what it is about, in which production (null: in any), and by whom (empty: by the product itself).</summary>
public sealed record NewsItem(NewsOf About, long? ProductionId, string Who);

/// <summary>Tells everyone who listens what has changed. News is not kept: who comes later looks for themselves.</summary>
public sealed class News
{
    /// <summary>A listener who is that far behind loses the oldest: it looks anew in any case.</summary>
    private const int MostWaiting = 64;

    private readonly Lock listening = new();
    private readonly List<Channel<NewsItem>> listeners = [];
    private TaskCompletionSource next = new(TaskCreationOptions.RunContinuationsAsynchronously);

    /// <summary>Completes at the next news.</summary>
    public Task NextAsync() => Volatile.Read(ref next).Task;

    /// <summary>Background work has moved on, in whichever production.</summary>
    public void Tell() => Tell(new NewsItem(NewsOf.Work, null, ""));

    /// <summary>Tells whoever listens. Never waits.</summary>
    public void Tell(NewsItem item)
    {
        lock (listening)
        {
            listeners.ForEach(l => l.Writer.TryWrite(item));
        }
        Interlocked.Exchange(ref next, new TaskCompletionSource(TaskCreationOptions.RunContinuationsAsynchronously)).SetResult();
    }

    /// <summary>News of a production from now on, and of all when none is named, until it is cancelled.</summary>
    public async IAsyncEnumerable<NewsItem> ListenAsync(long? productionId, [EnumeratorCancellation] CancellationToken cancel)
    {
        var channel = Channel.CreateBounded<NewsItem>(
            new BoundedChannelOptions(MostWaiting) { FullMode = BoundedChannelFullMode.DropOldest }
        );
        lock (listening)
        {
            listeners.Add(channel);
        }
        try
        {
            await foreach (var item in channel.Reader.ReadAllAsync(cancel))
            {
                if (productionId is null || item.ProductionId is null || item.ProductionId == productionId)
                {
                    yield return item;
                }
            }
        }
        finally
        {
            lock (listening)
            {
                listeners.Remove(channel);
            }
        }
    }
}
