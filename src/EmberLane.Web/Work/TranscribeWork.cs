using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Transcribes a sitting's sound. Pieces are kept as they come, so that a restart goes on where it was.</summary>
internal sealed class TranscribeWork(Footage footage, Jobs jobs, Store.Transcripts transcripts, MediaCache cache, Recognisers recognisers) : IWork
{
    private const string Language = "en";

    public string Kind => WorkKinds.Transcribe;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var source = sitting.SoundSourceId is { } id ? footage.Source(id)! : throw new InvalidOperationException("The sitting has no sound to transcribe.");
        var choice = recognisers.Find(job.Payload) ?? recognisers.Chosen;
        if (choice.Recogniser.WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        if (!File.Exists(source.Path))
        {
            throw new FileNotFoundException($"{source.Name} is no longer at {source.Path}. Put it back and try again.");
        }
        progress(0, "reading the sound");
        var pcm = cache.Speech(source);
        if (!File.Exists(pcm))
        {
            await ReadingSound.MakeAsync(source.Path, source.Facts, pcm, cancel);
        }
        var words = await RecogniseAsync(job, choice.Recogniser, sitting, source, pcm, progress, cancel);
        var record = Record(source, await NearVoices.AssignAsync(source.Path, source.Facts, words, cache.Channel(source, 0, QuietCut.SampleRate), cancel));
        cancel.ThrowIfCancellationRequested();
        var detail = string.Create(CultureInfo.InvariantCulture, $"{record.Count} words");
        transcripts.AddFromJob(job.Id, detail, sitting.Id, choice.Key, Language, record);
        File.Delete(pcm);
        return detail;
    }

    private async Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(Job job, IRecogniser recogniser, Sitting sitting, Source source, string pcm, Progress progress, CancellationToken cancel)
    {
        var done = jobs.Pieces(job.Id).ToDictionary(p => new SoundPiece(p.First, p.End), p => WordsJson.Read(p.Words).Words);
        var watch = Stopwatch.StartNew();
        MediaTime heard = MediaTime.Zero, fresh = MediaTime.Zero;
        var whole = source.Facts.Duration;
        return await new Transcription(recogniser, Environment.ProcessorCount).RunAsync(pcm, sitting.Title, done, piece =>
        {
            heard += piece.Piece.Length;
            if (!done.ContainsKey(piece.Piece))
            {
                fresh += piece.Piece.Length;
                jobs.KeepPiece(job.Id, piece.Piece.First, piece.Piece.End, WordsJson.Write(new WordList(Language, piece.Words)));
            }
            if (fresh > MediaTime.Zero && watch.Elapsed > TimeSpan.Zero)
            {
                var speed = fresh.ToSecondsInexact() / watch.Elapsed.TotalSeconds;
                var left = MediaTime.FromMilliseconds((long)(Math.Max(0, (whole - heard).ToSecondsInexact()) / speed * 1000));
                progress((int)Math.Clamp(Exact.FloorDivide((Int128)heard.Units * 1000, whole.Units), 0, 1000), string.Create(CultureInfo.InvariantCulture, $"{speed:0.0}× real time, {left} left"));
            }
            return Task.CompletedTask;
        }, cancel);
    }

    // The source's clock becomes the sitting's through its place.
    private static List<RecordWord> Record(Source source, IReadOnlyList<RecognisedWord> words)
    {
        var place = source.Place ?? new ClockMap(default, 0);
        var voices = words.Select(w => w.Voice ?? "").Distinct().ToList();
        return [.. words.Select((w, i) => new RecordWord(
            i, EmberLane.Core.TypedText.OneLine(w.Text), new SittingRange(place.ToSitting(w.Range.In), place.ToSitting(w.Range.Out)), w.Confidence, voices.IndexOf(w.Voice ?? "")))];
    }
}
