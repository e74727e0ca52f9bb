using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Makes what is seen and heard of a sitting by who comes by a link, without what is off the record.</summary>
internal sealed class ShownWork(
    Footage footage,
    OffTheRecord held,
    ShownMedia shown,
    SittingMics sittingMics,
    MediaCache cache,
    SourceFiles files
) : IWork
{
    public string Kind => WorkKinds.Shown;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        foreach (var file in shown.Missing(sitting))
        {
            var speed = new Speed();
            if (file.Source is { } source)
            {
                var plain = shown.Plain(source) ?? throw new FileNotFoundException($"{source.Name} can not be played yet.");
                await MakeAsync(
                    file.Path,
                    output => Ffmpeg.WithholdPictureAsync(plain, file.Without, output, at => Tell(at, source.Facts.Duration), cancel)
                );
                continue;
            }
            var mics = sittingMics.Of(sitting);
            foreach (var heard in mics.Sources)
            {
                files.Open(heard);
            }
            var whole = SittingSound.Extent(mics.Placed).Length;
            await MakeAsync(
                file.Path,
                output => SittingSound.MakePlayableAsync(mics.Placed, output, at => Tell(at, whole), cancel, held.Withheld(sitting))
            );

            void Tell(MediaTime at, MediaTime of) => progress(Speed.Done(at, of), speed.Words(at, of));
        }
        return "";
    }

    private async Task MakeAsync(string path, Func<string, Task> make)
    {
        await cache.MakeAsync(path, make);
        MediaCache.KeepOnly(path);
    }
}
