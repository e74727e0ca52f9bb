using EmberLane.Core.Voices;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Queues what has to be done anew when a sitting has other files.</summary>
public sealed class SittingChanges(Footage footage, Jobs jobs, MediaCache cache, WorkNews news)
{
    /// <summary>Sync of its sources, where there are several, and a first look at its mics.</summary>
    public void Made(long sittingId)
    {
        if (footage.Sitting(sittingId) is not { } sitting)
        {
            return;
        }
        if (footage.SourcesOf(sittingId).Count > 1)
        {
            jobs.Add(sitting.ProductionId, WorkKinds.Sync, sittingId, $"Sync of {sitting.Title}");
        }
        if (sitting.SoundSourceId is not null)
        {
            jobs.Add(sitting.ProductionId, WorkKinds.Mics, sittingId, $"Mics of {sitting.Title}");
        }
        news.Tell();
    }

    /// <summary>Queues the making of the sitting's sound, unless it is there as it should be now, or could not be made the last time.</summary>
    public void NeedSound(Sitting sitting, MicsOfSitting now)
    {
        if (now.Placed.Count > 0 && !File.Exists(cache.SittingSound(now.Key)) && jobs.Newest(WorkKinds.Sound, sitting.Id) is not { State: "failed" or "cancelled" })
        {
            jobs.Add(sitting.ProductionId, WorkKinds.Sound, sitting.Id, $"Sound of {sitting.Title}");
            news.Tell();
        }
    }

    /// <summary>Queues a hearing of the voices of the sitting's text where one that speaks was not heard yet, unless that failed the last time.</summary>
    public void NeedVoices(Sitting sitting, IEnumerable<int> voices, IReadOnlyDictionary<int, VoicePrint> heard)
    {
        if (sitting.SoundSourceId is not null && voices.Any(v => !heard.ContainsKey(v)) && jobs.Newest(WorkKinds.Voices, sitting.Id) is not { State: "failed" or "cancelled" })
        {
            jobs.Add(sitting.ProductionId, WorkKinds.Voices, sitting.Id, $"Voices of {sitting.Title}");
            news.Tell();
        }
    }
}
