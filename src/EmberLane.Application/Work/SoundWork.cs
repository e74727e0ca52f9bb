using EmberLane.Application.Gathering;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Makes the sound of a sitting for playing: the mics that are heard, in one mix on the sitting's clock.</summary>
internal sealed class SoundWork(Footage footage, SittingMics sittingMics, MediaCache cache, SourceFiles files) : IWork
{
    public string Kind => WorkKinds.Sound;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var mics = sittingMics.Of(sitting);
        if (mics.Placed.Count == 0)
        {
            return "no sound to play";
        }
        foreach (var source in mics.Sources)
        {
            files.Open(source);
        }
        var path = cache.SittingSound(mics.Key);
        if (!cache.IsWhole(path))
        {
            var speed = new Speed();
            var whole = SittingSound.Extent(mics.Placed).Length;
            await cache.MakeAsync(
                path,
                output =>
                    SittingSound.MakePlayableAsync(
                        mics.Placed,
                        output,
                        at => progress(Speed.Done(at, whole), speed.Words(at, whole)),
                        cancel
                    )
            );
        }
        return "";
    }
}
