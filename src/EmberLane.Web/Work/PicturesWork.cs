using EmberLane.Engines;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Makes what the browser plays and shows of a source.</summary>
internal sealed class PicturesWork(Footage footage, MediaCache cache) : IWork
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
        return "";
    }
}
