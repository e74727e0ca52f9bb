using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Hands;
using EmberLane.Application.Rooms;
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
    Terms terms,
    Desk desk,
    Upkeep upkeep,
    IHands hands
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
        var choice = recognisers.For(order.Recogniser);
        if (sameWords is null && choice.Recogniser.WhyNot(order.Language) is { } reason)
        {
            throw new ToolException(reason);
        }
        var mics = sittingMics.Of(sitting);
        foreach (var source in mics.Sources)
        {
            files.Open(source);
        }
        progress(PerMille.None, Stage.Reading.Name);
        var pcm = cache.Speech(mics.Key);
        if (!File.Exists(pcm))
        {
            jobs.ForgetPieces(job.Id);
        }
        var extent = SittingSound.Extent(mics.Placed);
        var levels = await SittingSound.MakeAsync(mics.Placed, pcm, cancel, at => Stage.Reading.Tell(progress, at, extent.Length));
        var decoded = MediaTime.FromSamples(new FileInfo(pcm).Length / 2, SilenceSegmenter.SampleRate);
        var part = order.Part is { } asked ? (SittingRange?)Within(asked, extent) : null;
        var near =
            sameWords is null && choice.Recogniser.Pieces is not null
                ? HeardVoices.Layout(levels, pcm, order.Voices, part is { } some ? Steps(some, extent.In) : null)
                : null;
        // The same words stay in the language that they are in.
        var language = sameWords is null ? order.Language : transcripts.Head(sitting.TranscriptId!.Value)!.Language;
        async Task<IReadOnlyList<RecognisedWord>> Recognised(MediaTime whole, string sound)
        {
            var terms = Terms(sitting);
            var heard = await RecogniseAsync(
                job,
                new Transcription(new HandedRecogniser(choice, hands), language, terms),
                sitting,
                whole,
                sound,
                progress,
                cancel
            );
            language = heard.Language;
            return heard.Words;
        }
        IReadOnlyList<RecognisedWord> words;
        var spoken = PartOf(pcm);
        if (sameWords is not null)
        {
            words = AsHeard(sameWords, extent.In);
        }
        else if (near is not null)
        {
            // Named by how it is laid out: pieces of a sound that was laid out otherwise say nothing of this one.
            spoken = cache.Speech($"{mics.Key}.{near.Key}");
            if (!File.Exists(spoken))
            {
                jobs.ForgetPieces(job.Id);
                await SittingSound.MakeSpokenAsync(
                    mics.Placed,
                    near,
                    spoken,
                    cancel,
                    at => Stage.NearMics.Tell(progress, at, extent.Length)
                );
            }
            words = near.OnTheSitting(await Recognised(MediaTime.FromSamples(near.Steps, Step.PerSecond), spoken));
        }
        else if (part is { } cut)
        {
            var late = await CutAsync(pcm, cut, extent, cancel);
            words =
            [
                .. (await Recognised(cut.Length, spoken))
                    .Where(w => w.Range.In.FromZero < cut.Length)
                    .Select(w => w with { Range = new SourceRange(w.Range.In + late, w.Range.Out + late) }),
            ];
        }
        else
        {
            words = await Recognised(extent.Length, pcm);
        }
        progress(Stage.Voices.From, Stage.Voices.Name);
        // Hours of one mix take a while; whoever cancels does not wait for them.
        var given = await Task.Run(() => HeardVoices.Give(words, levels, pcm, order.Voices), cancel).WaitAsync(cancel);
        words = given.Words;
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
        var heardNear = Near(voices, mics);
        IReadOnlyDictionary<int, string> names = Names(heardNear, footage.Sitting(sitting.Id) ?? sitting);
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
            language,
            record,
            names,
            part is null ? heardNear : null,
            part is null && given.Doubt is { } doubt ? OnSitting(doubt, extent.In) : null,
            part is null ? Said(given, voices, extent.In) : []
        );
        File.Delete(pcm);
        File.Delete(spoken);
        upkeep.Ask(job.ProductionId);
        return detail;
    }

    private static SittingRange OnSitting(SourceRange range, SittingTime from) => new(from + range.In.FromZero, from + range.Out.FromZero);

    // Voices as the text numbers them; one none of whose words was understood comes behind those.
    private static IReadOnlyList<SaidStretch> Said(GivenVoices given, List<string> voices, SittingTime from)
    {
        List<string> all = [.. voices.Concat(given.Labels).Distinct()];
        return
        [
            .. given.Said.Select(s => new SaidStretch(
                all.IndexOf(given.Labels[s.Voice]),
                new SittingRange(from + s.First.FromStart, from + s.End.FromStart)
            )),
        ];
    }

    private static DoubtedVoices OnSitting(VoiceDoubt doubt, SittingTime from)
    {
        IReadOnlyList<SittingRange> Turns(IReadOnlyList<StepRange> steps) =>
            [.. steps.Select(s => new SittingRange(from + s.First.FromStart, from + s.End.FromStart))];
        return new DoubtedVoices(doubt.Perhaps, Turns(doubt.One), Turns(doubt.Other));
    }

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

    // Near which mic each voice was heard, of those that were.
    private static Dictionary<int, MicOfFile> Near(List<string> voices, MicsOfSitting mics) =>
        voices
            .Select((label, v) => (Voice: v, Mic: VoiceChances.MicOf(label)))
            .Where(v => v.Mic is not null)
            .ToDictionary(v => v.Voice, v => mics.Channels[v.Mic!.Value]);

    // A voice that is near a person's mic is that person's, as the mics are named by now: a person may have named them meanwhile.
    private Dictionary<int, string> Names(Dictionary<int, MicOfFile> near, Sitting sitting)
    {
        var people = sittingMics.Of(sitting).All.ToDictionary(m => new MicOfFile(m.SourceId, m.Channel), m => m.Person);
        return near.Where(v => people.GetValueOrDefault(v.Value, "").Length > 0).ToDictionary(v => v.Key, v => people[v.Value]);
    }

    private static string PartOf(string pcm) => pcm + ".part-of-it";

    // The asked part as far as there is sound.
    private static SittingRange Within(SittingRange asked, SittingRange extent)
    {
        SittingTime from = asked.In > extent.In ? asked.In : extent.In,
            to = asked.Out < extent.Out ? asked.Out : extent.Out;
        return to > from
            ? new SittingRange(from, to)
            : throw new InvalidOperationException(
                $"There is no sound from {asked.In} to {asked.Out}; the sitting's sound lasts from {extent.In} to {extent.Out}."
            );
    }

    private static StepRange Steps(SittingRange part, SittingTime from) => new(Step.At(part.In - from), Step.At(part.Out - from));

    // A part as a sound of its own; how late it begins.
    private static async Task<MediaTime> CutAsync(string pcm, SittingRange part, SittingRange extent, CancellationToken cancel)
    {
        var first = (part.In - extent.In).ToSamplesFloor(SilenceSegmenter.SampleRate);
        await PcmFile.WritePartAsync(pcm, first, (part.Out - extent.In).ToSamplesFloor(SilenceSegmenter.SampleRate), PartOf(pcm), cancel);
        return MediaTime.FromSamples(first, SilenceSegmenter.SampleRate);
    }

    // Names and terms of the production that may come up; nobody has to type the names of its people again.
    private IReadOnlyList<string> Terms(Sitting sitting) =>
        [.. terms.Of(sitting.ProductionId).Concat(desk.People(sitting.ProductionId).Keys).Distinct()];

    private async Task<WordList> RecogniseAsync(
        Job job,
        Transcription transcription,
        Sitting sitting,
        MediaTime whole,
        string pcm,
        Progress progress,
        CancellationToken cancel
    )
    {
        var done = jobs.Pieces(job.Id).ToDictionary(p => p.Piece, p => WordsJson.Read(p.Words));
        var speed = new Speed();
        MediaTime heard = MediaTime.Zero,
            fresh = MediaTime.Zero;
        return await transcription.RunAsync(
            pcm,
            sitting.Title,
            done,
            piece =>
            {
                heard += piece.Piece.Length;
                if (!done.ContainsKey(piece.Piece))
                {
                    fresh += piece.Piece.Length;
                    jobs.KeepPiece(job.Id, piece.Piece, WordsJson.Write(piece.Heard));
                }
                if (fresh > MediaTime.Zero)
                {
                    Stage.Words.Tell(progress, heard, whole, speed.Words(fresh, whole - heard + fresh));
                }
                return Task.CompletedTask;
            },
            cancel
        );
    }
}
