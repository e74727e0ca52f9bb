using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Queues what has to be done anew when a sitting has other files.</summary>
public sealed class SittingChanges(Footage footage, Jobs jobs, News news)
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
}
