using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Application.Tidying;
using EmberLane.Core.Cameras;
using EmberLane.Core.Tidy;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// Listens to a sitting for tidying, seams and mics: how loud each step of its sound and of its mics is, and how likely somebody speaks.
/// </summary>
internal sealed class TalkWork(Footage footage, SittingMics sittingMics, MediaCache cache, SourceFiles files) : IWork
{
    public string Kind => WorkKinds.Talk;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var mics = sittingMics.Of(sitting);
        string path = cache.Talk(mics.Key),
            seams = cache.Seams(mics.Key),
            levels = cache.MicLevels(mics.Key);
        if (mics.Placed.Count == 0 || (cache.IsWhole(path) && cache.IsWhole(seams) && cache.IsWhole(levels)))
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
            var rows = await SittingSound.MakeAsync(mics.Placed, pcm, cancel);
            progress(new PerMille(500), "listening");
            var begins = SittingSound.Extent(mics.Placed).In;
            await cache.MakeAsync(levels, output => Task.Run(() => MicLevelFile.Write(output, new MicLevels(begins, rows)), cancel));
            await cache.MakeAsync(seams, output => Task.Run(() => WriteSeams(pcm, output, begins), cancel));
            if (cache.IsWhole(path))
            {
                return "";
            }
            await cache.MakeAsync(
                path,
                output =>
                    Task.Run(
                        () =>
                        {
                            var energy = PcmFile.Energy(pcm);
                            TalkSounds.Write(
                                output,
                                new TalkSound(energy, SpeechNetwork.Chances(pcm, energy), PcmFile.Steady(pcm), begins.FromZero)
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

    private static void WriteSeams(string pcm, string output, SittingTime begins)
    {
        using var file = SeamFile.Open(pcm);
        SeamSounds.Write(output, file.Sound, begins);
    }
}
