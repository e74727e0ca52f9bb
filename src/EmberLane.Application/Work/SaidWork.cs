using EmberLane.Application.Gathering;
using EmberLane.Core;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Writes down what is said aloud in the first ten seconds of a file, as people who film cutaways do.</summary>
internal sealed class SaidWork(Footage footage, MediaCache cache, SourceFiles files, Recognisers recognisers, Arrival arrival) : IWork
{
    private static readonly MediaTime Start = MediaTime.FromMilliseconds(10_000);

    public string Kind => WorkKinds.Said;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var source = footage.Source(job.SubjectId) ?? throw new InvalidOperationException("The file is no longer in the production.");
        var real = files.Open(source);
        if (source.Facts.Channels == 0)
        {
            throw new InvalidOperationException($"{source.Name} has no sound.");
        }
        var choice = recognisers.For(job.Payload);
        // As the production's sittings are; in English where the recogniser does not know their language.
        var asked = arrival.Of(source.ProductionId).Language;
        var language = choice.Recogniser.WhyNot(asked) is null ? asked : TranscribeOrder.English;
        if (choice.Recogniser.WhyNot(language) is { } reason)
        {
            throw new ToolException(reason);
        }
        string pcm = cache.Channel(source, -2, SilenceSegmenter.SampleRate) + ".part",
            wav = pcm + ".wav";
        try
        {
            await Ffmpeg.DecodePartAsync(
                real,
                source.Facts,
                MediaTime.Zero,
                MediaTime.Min(Start, source.Facts.Duration),
                null,
                SilenceSegmenter.SampleRate,
                pcm,
                cancel
            );
            await PcmFile.WriteWavAsync(pcm, 0, new FileInfo(pcm).Length / 2, wav, cancel);
            var heard = await choice.Recogniser.RecogniseAsync(new ToRecognise(wav, source.Name, language, []), cancel);
            cancel.ThrowIfCancellationRequested();
            var said = TypedText.OneLine(string.Join(' ', heard.Words.Where(w => w.Range.In.FromZero < Start).Select(w => w.Text)));
            footage.SetSaid(source.Id, said);
            return said.Length == 0 ? "nothing understood" : said;
        }
        finally
        {
            File.Delete(pcm);
            File.Delete(wav);
        }
    }
}
