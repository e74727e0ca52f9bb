using EmberLane.Core.Sync;
using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Makes what the browser plays and shows of a source: a thumbnail, a playing copy, and the peaks of its sound.</summary>
internal sealed class PicturesWork(Footage footage, MediaCache cache, SyncSounds sounds) : IWork
{
    public string Kind => WorkKinds.Pictures;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var source = footage.Source(job.SubjectId) ?? throw new InvalidOperationException("The source is no longer in the production.");
        FilesCheck.Demand(source);
        if (source.Facts.Picture is not null && !File.Exists(cache.Thumbnail(source)))
        {
            await Ffmpeg.MakeThumbnailAsync(source.Path, new MediaTime(source.Facts.Duration.Units / 4), cache.Thumbnail(source), cancel);
        }
        if (!cache.IsPlayable(source))
        {
            var speed = new Speed();
            await Ffmpeg.MakeProxyAsync(source.Path, source.Facts, cache.Playing(source), at => progress(Speed.PerMille(at, source.Facts.Duration), speed.Words(at, source.Facts.Duration)), cancel);
        }
        if (source.Facts.Channels > 0 && !File.Exists(cache.Peaks(source)))
        {
            using var sound = await sounds.OpenAsync(source, cancel);
            var part = cache.Peaks(source) + ".part";
            await File.WriteAllBytesAsync(part, Peaks.Of(sound), cancel);
            File.Move(part, cache.Peaks(source), overwrite: true);
        }
        return "";
    }
}
