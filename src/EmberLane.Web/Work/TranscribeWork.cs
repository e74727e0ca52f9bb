using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Transcribes a sitting's sound. Pieces are kept as they come, so that a restart goes on where it was.</summary>
internal sealed class TranscribeWork(Footage footage, SittingMics sittingMics, Jobs jobs, Store.Transcripts transcripts, MediaCache cache, Recognisers recognisers) : IWork
{
    private const string Language = "en";

    public string Kind => WorkKinds.Transcribe;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        if (sitting.SoundSourceId is null)
        {
            throw new InvalidOperationException("The sitting has no sound to transcribe.");
        }
        var choice = recognisers.Find(job.Payload) ?? recognisers.Chosen;
        if (choice.Recogniser.WhyNot() is { } reason)
        {
            throw new ToolException(reason);
        }
        var mics = sittingMics.Of(sitting);
        foreach (var source in mics.Sources)
        {
            FilesCheck.Demand(source);
        }
        progress(0, "reading the sound");
        var pcm = cache.Speech(mics.Key);
        if (!File.Exists(pcm))
        {
            jobs.ForgetPieces(job.Id);
        }
        var levels = await SittingSound.MakeAsync(mics.Placed, pcm, cancel);
        var extent = SittingSound.Extent(mics.Placed);
        var words = await RecogniseAsync(job, choice.Recogniser, sitting, extent.Length, pcm, progress, cancel);
        progress(990, "finding who speaks");
        words = HeardVoices.Give(HeardVoices.In(levels, pcm, null), words);
        var voices = words.Select(w => w.Voice ?? "").Distinct().ToList();
        var record = words.Select((w, i) => new RecordWord(i, EmberLane.Core.TypedText.OneLine(w.Text), OnSitting(w.Range, extent.In), w.Confidence, voices.IndexOf(w.Voice ?? ""), w.VoiceSure)).ToList();
        cancel.ThrowIfCancellationRequested();
        var detail = string.Create(CultureInfo.InvariantCulture, $"{record.Count} words");
        transcripts.AddFromJob(job.Id, detail, sitting.Id, choice.Key, Language, record, Names(voices, mics));
        File.Delete(pcm);
        return detail;
    }

    private static SittingRange OnSitting(SourceRange range, SittingTime from) => new(from + range.In.FromZero, from + range.Out.FromZero);

    // A voice that is near a person's mic is that person's.
    private static Dictionary<int, string> Names(List<string> voices, MicsOfSitting mics)
    {
        var named = new Dictionary<int, string>();
        for (var m = 0; m < mics.Placed.Count; m++)
        {
            var voice = voices.IndexOf(FormattableString.Invariant($"mic {m + 1}"));
            if (voice >= 0 && mics.People[m].Length > 0)
            {
                named[voice] = mics.People[m];
            }
        }
        return named;
    }

    private async Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(Job job, IRecogniser recogniser, Sitting sitting, MediaTime whole, string pcm, Progress progress, CancellationToken cancel)
    {
        var done = jobs.Pieces(job.Id).ToDictionary(p => new SoundPiece(p.First, p.End), p => WordsJson.Read(p.Words).Words);
        var speed = new Speed();
        MediaTime heard = MediaTime.Zero, fresh = MediaTime.Zero;
        return await new Transcription(recogniser, Environment.ProcessorCount).RunAsync(pcm, sitting.Title, done, piece =>
        {
            heard += piece.Piece.Length;
            if (!done.ContainsKey(piece.Piece))
            {
                fresh += piece.Piece.Length;
                jobs.KeepPiece(job.Id, piece.Piece.First, piece.Piece.End, WordsJson.Write(new WordList(Language, piece.Words)));
            }
            if (fresh > MediaTime.Zero)
            {
                progress(Speed.PerMille(heard, whole), speed.Words(fresh, whole - heard + fresh));
            }
            return Task.CompletedTask;
        }, cancel);
    }
}
