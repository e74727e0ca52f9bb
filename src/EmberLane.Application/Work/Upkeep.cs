using System.Collections.Concurrent;
using System.Threading.Channels;
using EmberLane.Application.Gathering;
using EmberLane.Application.Rooms;
using EmberLane.Core.People;
using EmberLane.Core.Voices;
using EmberLane.Store;
using Microsoft.Extensions.Hosting;
using Microsoft.Extensions.Logging;

namespace EmberLane.Application.Work;

/// <summary>
/// Queues the making of what pages show and what is not there as it should be: playing copies and thumbnails (the cache may be deleted),
/// the sound of sittings, the sound of voices. It is asked for by what made it necessary, never by a page that is looked at, and looks by
/// itself now and then.
/// </summary>
public sealed partial class Upkeep(
    Footage footage,
    Jobs jobs,
    SittingMics sittingMics,
    MediaCache cache,
    SourceFiles files,
    SyncSounds sounds,
    Likeness likeness,
    Texts texts,
    Arrival arrival,
    Store.Transcripts transcripts,
    VoicePrints prints,
    Shots shots,
    Admissions admissions,
    ShownMedia shown,
    News news,
    TimeProvider time,
    ILogger<Upkeep> log
) : BackgroundService
{
    private static readonly TimeSpan Between = TimeSpan.FromMinutes(1),
        Pause = TimeSpan.FromMilliseconds(200);

    private readonly Channel<long> asked = Channel.CreateUnbounded<long>();
    private readonly ConcurrentDictionary<long, bool> waiting = new();
    private int open;

    /// <summary>Whether all that was asked for has been looked at.</summary>
    public bool IsIdle => Volatile.Read(ref open) == 0;

    /// <summary>Has a production looked at soon; once for all who ask before that.</summary>
    public void Ask(long productionId)
    {
        if (waiting.TryAdd(productionId, true))
        {
            Interlocked.Increment(ref open);
            asked.Writer.TryWrite(productionId);
        }
    }

    /// <summary>As <see cref="Ask"/>, for all productions.</summary>
    public void AskAll()
    {
        foreach (var production in footage.Productions())
        {
            Ask(production.Id);
        }
    }

    /// <inheritdoc/>
    protected override async Task ExecuteAsync(CancellationToken stoppingToken)
    {
        await Task.Yield();
        Safely(AskAll);
        using var timer = time.CreateTimer(_ => Safely(AskAll), null, Between, Between);
        await foreach (var production in asked.Reader.ReadAllAsync(stoppingToken))
        {
            // Several changes in a row are one.
            await Task.Delay(Pause, stoppingToken);
            waiting.TryRemove(production, out _);
            Safely(() => LookAt(production));
            Interlocked.Decrement(ref open);
        }
    }

    private void Safely(Action look)
    {
        try
        {
            look();
        }
        catch (Exception e)
        {
            // A disk or database that fails is looked at again the next time.
            NotLooked(e.Message);
        }
    }

    private void LookAt(long production)
    {
        var queued = false;
        var measured = shots.Measured(production, LookWork.Version);
        foreach (var source in footage.Sources(production).Where(s => s.State == FileState.Here))
        {
            bool isToCopy = !cache.IsComplete(source),
                isToLook = LookWork.IsWanted(source, measured, cache);
            if ((!isToCopy && !isToLook) || files.Find(source) is null)
            {
                continue;
            }
            queued |= isToCopy && Queue(production, WorkKinds.Pictures, source.Id, $"Playing copy of {source.Name}");
            queued |= isToLook && Queue(production, WorkKinds.Look, source.Id, $"Picture of {source.Name} measured");
        }
        var sittings = footage.Sittings(production);
        foreach (var sitting in sittings)
        {
            var mics = sittingMics.Of(sitting);
            queued |= Transcription(sitting, mics);
            if (
                mics.Placed.Count == 0
                || !IsNotMadeOtherwise(WorkKinds.Mics, sitting.Id)
                || !IsNotMadeOtherwise(WorkKinds.Sync, sitting.Id)
                || mics.Sources.Any(s => files.Find(s) is null)
            )
            {
                continue;
            }
            queued |=
                !cache.IsWhole(cache.SittingSound(mics.Key)) && Queue(production, WorkKinds.Sound, sitting.Id, $"Sound of {sitting.Title}");
            queued |=
                sitting.TranscriptId is not null
                && !new[] { cache.Talk(mics.Key), cache.Seams(mics.Key), cache.MicLevels(mics.Key) }.All(cache.IsWhole)
                && IsNotMadeOtherwise(WorkKinds.Transcribe, sitting.Id)
                && Queue(production, WorkKinds.Talk, sitting.Id, $"Pauses of {sitting.Title}");
        }
        queued |= Shown(production, sittings);
        queued |= Voices(production, sittings);
        queued |=
            AlikeWork.IsWanted(footage, likeness, sounds, production)
            && Queue(production, WorkKinds.Alike, production, "Loose footage compared by sound");
        if (queued)
        {
            news.Tell();
        }
    }

    // What is off the record is taken out of what links play, as soon as one plays it.
    private bool Shown(long production, IReadOnlyList<Sitting> sittings)
    {
        var scopes = admissions
            .OpenOf(production)
            .Where(a => a.Kind == AdmissionKind.Link && a.Rights.HasFlag(Rights.Listen))
            .Select(a => a.Shows)
            .ToList();
        var queued = false;
        foreach (var sitting in sittings.Where(s => scopes.Any(scope => scope.Holds(LinkScope.OfSitting(s.Id)))))
        {
            queued |=
                shown.Missing(sitting).Count > 0
                && Queue(production, WorkKinds.Shown, sitting.Id, $"{sitting.Title} without what is off the record");
        }
        return queued;
    }

    // Where the production has it so, a new sitting is transcribed once its mics are known and its sources placed.
    private bool Transcription(Sitting sitting, MicsOfSitting mics)
    {
        if (
            mics.Placed.Count == 0
            || arrival.OrderFor(sitting) is not { } order
            || jobs.Newest(WorkKinds.Transcribe, sitting.Id) is not null
            || texts.Of(sitting.Id).Count > 0
            || jobs.Newest(WorkKinds.Mics, sitting.Id) is null or { IsOpen: true }
            || !IsNotMadeOtherwise(WorkKinds.Sync, sitting.Id)
        )
        {
            return false;
        }
        jobs.Add(sitting.ProductionId, WorkKinds.Transcribe, sitting.Id, $"Transcript of {sitting.Title}", order.ToString());
        return true;
    }

    // While its mics are heard and its sources placed, a sitting's sound is about to be another one.
    private bool IsNotMadeOtherwise(string kind, long sitting) => jobs.Newest(kind, sitting) is not { IsOpen: true };

    // An unnamed voice may be somebody of another sitting: both have to have been heard for that.
    private bool Voices(long production, IReadOnlyList<Sitting> sittings)
    {
        var texts = sittings
            .Where(s => s is { TranscriptId: not null, SoundSourceId: not null })
            .Select(s =>
                (
                    Sitting: s,
                    Speaking: transcripts.Speaking(s.TranscriptId!.Value),
                    Named: transcripts.VoiceNames(s.TranscriptId.Value).Keys.ToHashSet()
                )
            )
            .ToList();
        var queued = false;
        foreach (var (sitting, speaking, named) in texts)
        {
            var isAsked = speaking.Any(v => !named.Contains(v)) && texts.Any(t => t.Sitting != sitting && t.Named.Count > 0);
            var isTold = named.Count > 0 && texts.Any(t => t.Sitting != sitting && t.Speaking.Any(v => !t.Named.Contains(v)));
            if (!isAsked && !isTold)
            {
                continue;
            }
            var heard = prints.Of(sitting.TranscriptId!.Value);
            queued |=
                speaking.Any(v => !heard.ContainsKey(v)) && Queue(production, WorkKinds.Voices, sitting.Id, $"Voices of {sitting.Title}");
        }
        return queued;
    }

    // What failed or was cancelled the last time waits for a person.
    private bool Queue(long production, string kind, long subject, string title)
    {
        if (jobs.Newest(kind, subject) is { State: "failed" or "cancelled" } or { IsOpen: true })
        {
            return false;
        }
        jobs.Add(production, kind, subject, title);
        return true;
    }

    [LoggerMessage(LogLevel.Warning, "What is made from the footage could not be looked over: {Reason}")]
    private partial void NotLooked(string reason);
}
