using System.Globalization;
using EmberLane.Core.Sync;
using EmberLane.Store;
using EmberLane.Web.Gathering;

namespace EmberLane.Web.Work;

/// <summary>Places the sources of a sitting on one clock by their sound.</summary>
internal sealed class SyncWork(Footage footage, SyncSounds sounds) : IWork
{
    public string Kind => WorkKinds.Sync;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var sources = footage.SourcesOf(sitting.Id);
        if (sources.FirstOrDefault(s => s.Id == sitting.SoundSourceId) is not { } reference)
        {
            return "no sound to go by";
        }
        using var heard = await sounds.OpenAsync(reference, cancel);
        var others = sources.Where(s => s.Id != reference.Id).ToList();
        int matched = 0, kept = 0;
        foreach (var (source, i) in others.Select((s, i) => (s, i)))
        {
            progress(1000 * i / others.Count, source.Name);
            if (source.PlacedByHand)
            {
                kept++;
                continue;
            }
            if (source.Facts.Channels == 0)
            {
                footage.Place(source.Id, null, "no sound to go by; not placed");
                continue;
            }
            using var sound = await sounds.OpenAsync(source, cancel);
            var found = SoundMatch.Find(heard, sound);
            matched += found.Matched ? 1 : 0;
            footage.Place(source.Id, found.Matched ? new ClockMap(found.Start, found.DriftPerBillion) : null, found.Matched ? found.Words : found.Words + "; not placed");
        }
        return string.Create(CultureInfo.InvariantCulture, $"{matched} of {others.Count} placed by sound{(kept > 0 ? $", {kept} left as placed by hand" : "")}");
    }
}
