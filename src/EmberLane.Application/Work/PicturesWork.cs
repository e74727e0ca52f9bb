using EmberLane.Application.Gathering;
using EmberLane.Application.Hands;
using EmberLane.Core.Sync;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Makes what the browser plays and shows of a source: a thumbnail, a playing copy, and the peaks of its sound.</summary>
internal sealed class PicturesWork(Footage footage, MediaCache cache, SourceFiles files, SyncSounds sounds, IHands hands) : IWork
{
    public string Kind => WorkKinds.Pictures;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var source = footage.Source(job.SubjectId) ?? throw new InvalidOperationException("The source is no longer in the production.");
        var real = files.Open(source);
        if (source.Facts.Picture is not null && !cache.IsWhole(cache.Thumbnail(source)))
        {
            await cache.MakeAsync(
                cache.Thumbnail(source),
                output =>
                    hands.DoAsync(
                        CopyErrand.Picture(source.Name, real, new MediaTime(source.Facts.Duration.Units / 4), output),
                        (_, waits) => progress(PerMille.None, waits),
                        cancel
                    )
            );
        }
        if (!cache.IsPlayable(source))
        {
            var speed = new Speed();
            await cache.MakeAsync(
                cache.Playing(source),
                output =>
                    hands.DoAsync(
                        CopyErrand.Playing(source.Name, real, source.Facts.Duration, output),
                        (at, waits) =>
                            progress(
                                Speed.Done(at, source.Facts.Duration),
                                waits.Length > 0 ? waits : speed.Words(at, source.Facts.Duration)
                            ),
                        cancel
                    )
            );
        }
        if (source.Facts.Channels > 0 && !cache.IsWhole(cache.Peaks(source)))
        {
            using var sound = await sounds.OpenAsync(source, cancel);
            await cache.MakeAsync(cache.Peaks(source), output => File.WriteAllBytesAsync(output, Peaks.Of(sound), cancel));
        }
        return "";
    }
}
