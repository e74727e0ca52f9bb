using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Transcribes a sitting's sound. Pieces are kept as they come, so that a restart goes on where it was.</summary>
internal sealed class TranscribeWork(
    Footage footage,
    SittingMics sittingMics,
    Jobs jobs,
    Store.Transcripts transcripts,
    MediaCache cache,
    SourceFiles files,
    Recognisers recognisers,
    Upkeep upkeep
) : IWork
{
    private static readonly PerMille Certain = PerMille.All;

    /// <summary>A sound that ends earlier than its file claims by more than this (5 s) is told of.</summary>
    private static readonly MediaTime Unsaid = MediaTime.FromMilliseconds(5_000);

    public string Kind => WorkKinds.Transcribe;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        if (sitting.SoundSourceId is null)
        {
            throw new InvalidOperationException("The sitting has no sound to transcribe.");
        }
        var order = TranscribeOrder.Read(job.Payload);
        var sameWords =
            order.Recogniser != Recognisers.SameWords ? null
            : sitting.TranscriptId is { } read ? transcripts.Get(read)
            : throw new InvalidOperationException("The sitting is read by no text any more, so there are no words to find voices for.");
        var choice = recognisers.Find(order.Recogniser) ?? recognisers.Chosen;
        if (sameWords is null && choice.Recogniser.WhyNot(order.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        var mics = sittingMics.Of(sitting);
        foreach (var source in mics.Sources)
        {
            files.Open(source);
        }
        progress(PerMille.None, "reading the sound");
        var pcm = cache.Speech(mics.Key);
        if (!File.Exists(pcm))
        {
            jobs.ForgetPieces(job.Id);
        }
        var levels = await SittingSound.MakeAsync(mics.Placed, pcm, cancel);
        var extent = SittingSound.Extent(mics.Placed);
        var decoded = MediaTime.FromSamples(new FileInfo(pcm).Length / 2, SilenceSegmenter.SampleRate);
        var part = order.Part is { } asked ? (SittingRange?)await CutAsync(pcm, asked, extent, cancel) : null;
        var sound = part is null ? pcm : PartOf(pcm);
        var words = sameWords is not null
            ? AsHeard(sameWords, extent.In)
            : await RecogniseAsync(job, choice.Recogniser, order.Language, sitting, part?.Length ?? extent.Length, sound, progress, cancel);
        if (part is { } cut)
        {
            var late = cut.In - extent.In;
            words =
            [
                .. words
                    .Where(w => w.Range.In.FromZero < cut.Length)
                    .Select(w => w with { Range = new SourceRange(w.Range.In + late, w.Range.Out + late) }),
            ];
        }
        progress(new PerMille(990), "finding who speaks");
        // Hours of one mix take a while; whoever cancels does not wait for them.
        words = await Task.Run(() => HeardVoices.Give(words, levels, pcm, order.Voices), cancel).WaitAsync(cancel);
        var voices = words.Select(w => w.Voice ?? "").Distinct().ToList();
        var record = words
            .Select(
                (w, i) =>
                    new RecordWord(
                        new WordNumber(i),
                        EmberLane.Core.TypedText.OneLine(w.Text),
                        OnSitting(w.Range, extent.In),
                        w.Confidence,
                        voices.IndexOf(w.Voice ?? ""),
                        w.VoiceSure
                    )
            )
            .ToList();
        cancel.ThrowIfCancellationRequested();
        IReadOnlyDictionary<int, string> names = Names(voices, mics);
        if (part is { } replaced && sitting.TranscriptId is { } before)
        {
            (record, names) = Merged.Of(transcripts.Get(before), record, replaced);
        }
        else if (sitting.TranscriptId is { } current)
        {
            names = CarriedNames.Of(transcripts.Get(current), record, names);
        }
        var missing = extent.Length - decoded;
        var detail = string.Create(
            CultureInfo.InvariantCulture,
            $"{record.Count} "
                + $"words{(missing > Unsaid ? $"; the sound ends at {extent.In + decoded}, {missing} before what the files claim" : "")}"
        );
        transcripts.AddFromJob(
            job.Id,
            detail,
            sitting.Id,
            sameWords is null ? choice.Key : Recognisers.SameWords,
            order.Language,
            record,
            names
        );
        File.Delete(pcm);
        File.Delete(PartOf(pcm));
        upkeep.Ask(job.ProductionId);
        return detail;
    }

    private static SittingRange OnSitting(SourceRange range, SittingTime from) => new(from + range.In.FromZero, from + range.Out.FromZero);

    // The words as they are read now, with the times of the sound; what a person has mended is doubted no more.
    private static List<RecognisedWord> AsHeard(Transcript text, SittingTime from) =>
        [
            .. text.Units()
                .Select(u => new RecognisedWord(
                    text.Said(u),
                    new SourceRange(new SourceTime(u[0].Range.In - from), new SourceTime(u[^1].Range.Out - from)),
                    u.Any(w => w.Confidence < Transcript.DoubtBelow) && !u.Any(text.IsDoubtful) ? Certain : u[0].Confidence
                )),
        ];

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

    private static string PartOf(string pcm) => pcm + ".part-of-it";

    // The asked part as far as there is sound, as a sound of its own.
    private static async Task<SittingRange> CutAsync(string pcm, SittingRange asked, SittingRange extent, CancellationToken cancel)
    {
        SittingTime from = asked.In > extent.In ? asked.In : extent.In,
            to = asked.Out < extent.Out ? asked.Out : extent.Out;
        if (to <= from)
        {
            throw new InvalidOperationException(
                $"There is no sound from {asked.In} to {asked.Out}; the sitting's sound lasts from {extent.In} to {extent.Out}."
            );
        }
        var first = (from - extent.In).ToSamplesFloor(SilenceSegmenter.SampleRate);
        await PcmFile.WritePartAsync(pcm, first, (to - extent.In).ToSamplesFloor(SilenceSegmenter.SampleRate), PartOf(pcm), cancel);
        return new SittingRange(extent.In + MediaTime.FromSamples(first, SilenceSegmenter.SampleRate), to);
    }

    private async Task<IReadOnlyList<RecognisedWord>> RecogniseAsync(
        Job job,
        IRecogniser recogniser,
        string language,
        Sitting sitting,
        MediaTime whole,
        string pcm,
        Progress progress,
        CancellationToken cancel
    )
    {
        var done = jobs.Pieces(job.Id).ToDictionary(p => p.Piece, p => WordsJson.Read(p.Words).Words);
        var speed = new Speed();
        MediaTime heard = MediaTime.Zero,
            fresh = MediaTime.Zero;
        return await new Transcription(recogniser, Environment.ProcessorCount, language).RunAsync(
            pcm,
            sitting.Title,
            done,
            piece =>
            {
                heard += piece.Piece.Length;
                if (!done.ContainsKey(piece.Piece))
                {
                    fresh += piece.Piece.Length;
                    jobs.KeepPiece(job.Id, piece.Piece, WordsJson.Write(new WordList(language, piece.Words)));
                }
                if (fresh > MediaTime.Zero)
                {
                    progress(Speed.Done(heard, whole), speed.Words(fresh, whole - heard + fresh));
                }
                return Task.CompletedTask;
            },
            cancel
        );
    }
}
