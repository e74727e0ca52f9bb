using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Speech;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Listens to how each voice of a sitting's text sounds, so that it is known again in another sitting.</summary>
internal sealed class VoicesWork(
    Footage footage,
    SittingMics sittingMics,
    Store.Transcripts transcripts,
    VoicePrints prints,
    MediaCache cache,
    SourceFiles files
) : IWork
{
    private static readonly PerMille Sure = new(600);

    public string Kind => WorkKinds.Voices;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        if (sitting.TranscriptId is not { } text)
        {
            throw new InvalidOperationException("The sitting is read by no text any more.");
        }
        var mics = sittingMics.Of(sitting);
        foreach (var source in mics.Sources)
        {
            files.Open(source);
        }
        var pcm = cache.Speech(mics.Key) + ".voices";
        try
        {
            await SittingSound.MakeAsync(mics.Placed, pcm, cancel);
            progress(new PerMille(500), "listening");
            var transcript = transcripts.Get(text);
            var start = SittingSound.Extent(mics.Placed).In;
            // Where a word's voice is unsure it may be another's.
            var said = transcript
                .Voices()
                .ToDictionary(
                    v => v,
                    v =>
                        (IReadOnlyList<StepRange>)
                            [
                                .. transcript
                                    .Words.Where(w => transcript.VoiceOf(w) == v && transcript.SureOf(w) >= Sure)
                                    .Select(w => new StepRange(Step.At(w.Range.In - start), Step.At(w.Range.Out - start))),
                            ]
                );
            prints.Keep(text, HeardVoices.Prints(pcm, said));
            return string.Create(CultureInfo.InvariantCulture, $"{said.Count} {(said.Count == 1 ? "voice" : "voices")}");
        }
        finally
        {
            File.Delete(pcm);
        }
    }
}
