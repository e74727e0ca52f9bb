using EmberLane.Application.Gathering;
using EmberLane.Application.Tidying;
using EmberLane.Core.Tidy;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Listens to a sitting for tidying: how loud each step of its sound is, and how likely somebody speaks in it.</summary>
internal sealed class TalkWork(Footage footage, SittingMics sittingMics, MediaCache cache, SourceFiles files) : IWork
{
    public string Kind => WorkKinds.Talk;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var mics = sittingMics.Of(sitting);
        var path = cache.Talk(mics.Key);
        if (mics.Placed.Count == 0 || cache.IsWhole(path))
        {
            return "";
        }
        foreach (var source in mics.Sources)
        {
            files.Open(source);
        }
        var pcm = cache.Speech(mics.Key) + ".talk";
        try
        {
            await SittingSound.MakeAsync(mics.Placed, pcm, cancel);
            progress(new PerMille(500), "listening");
            await cache.MakeAsync(
                path,
                output =>
                    Task.Run(
                        () =>
                        {
                            var energy = PcmFile.Energy(pcm);
                            TalkSounds.Write(
                                output,
                                new TalkSound(
                                    energy,
                                    SpeechNetwork.Chances(pcm, energy),
                                    PcmFile.Steady(pcm),
                                    SittingSound.Extent(mics.Placed).In.FromZero
                                )
                            );
                        },
                        cancel
                    )
            );
            return "";
        }
        finally
        {
            File.Delete(pcm);
        }
    }
}
