using EmberLane.Application.Hands;
using EmberLane.Core.Sync;
using EmberLane.Engines.Sync;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>The sounds that sync compares, decoded once and kept in the cache.</summary>
public sealed class SyncSounds(MediaCache cache, SourceFiles files, IHands hands) : IDisposable
{
    // One for each of some sounds: different ones are decoded side by side, the same one once.
    private readonly SemaphoreSlim[] making = [.. Enumerable.Range(0, 16).Select(_ => new SemaphoreSlim(1, 1))];

    /// <summary>
    /// The sound of a source that has some; the caller disposes it. Throws <see cref="Engines.ToolException"/> when it can not be decoded,
    /// <see cref="FileNotFoundException"/> when its file is gone and was never decoded.
    /// </summary>
    public async Task<PcmSound> OpenAsync(Source source, CancellationToken cancel)
    {
        var path = cache.Channel(source, -1, SoundMatch.SampleRate);
        var own = making[(uint)StringComparer.Ordinal.GetHashCode(path) % making.Length];
        await own.WaitAsync(cancel);
        try
        {
            if (!cache.IsWhole(path))
            {
                var real = files.Open(source);
                await cache.MakeAsync(
                    path,
                    output => hands.DoAsync(SoundErrand.Of(source.Name, real, source.Facts.Duration, output), (_, _) => { }, cancel)
                );
            }
            return new PcmSound(path);
        }
        finally
        {
            own.Release();
        }
    }

    /// <summary>Whether a source can be heard now: from its file, or as it was decoded earlier.</summary>
    public bool CanOpen(Source source) => cache.IsWhole(cache.Channel(source, -1, SoundMatch.SampleRate)) || files.Find(source) is not null;

    /// <inheritdoc/>
    public void Dispose() => Array.ForEach(making, m => m.Dispose());
}
