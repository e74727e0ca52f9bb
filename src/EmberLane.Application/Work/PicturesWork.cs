using EmberLane.Application.Gathering;
using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Makes what the browser plays and shows of a source: a thumbnail, a playing copy, and the peaks of its sound.</summary>
internal sealed class PicturesWork(Footage footage, MediaCache cache, SourceFiles files, SyncSounds sounds) : IWork
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
                output => Ffmpeg.MakeThumbnailAsync(real, new MediaTime(source.Facts.Duration.Units / 4), output, cancel)
            );
        }
        if (!cache.IsPlayable(source))
        {
            var speed = new Speed();
            await cache.MakeAsync(
                cache.Playing(source),
                output =>
                    Ffmpeg.MakeProxyAsync(
                        real,
                        source.Facts,
                        output,
                        at => progress(Speed.Done(at, source.Facts.Duration), speed.Words(at, source.Facts.Duration)),
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
