using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Application.Syncing;
using EmberLane.Core.Media;
using EmberLane.Core.Sync;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// Places the sources of a sitting on one clock: each by its sound against the reference, then what does not meet the reference against
/// those that do, then what has no sound by timecode where that can be trusted.
/// </summary>
internal sealed class SyncWork(Footage footage, SyncSounds sounds, Upkeep upkeep) : IWork
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
        // A file that is away for now keeps its place, as one does that a person placed.
        var away = sources.Count(s => s.Id != reference.Id && !s.Placement.ByHand && s.Facts.Channels > 0 && !sounds.CanOpen(s));
        var others = sources
            .Where(s => s.Id != reference.Id && !s.Placement.ByHand && (s.Facts.Channels == 0 || sounds.CanOpen(s)))
            .ToList();
        var kept = sources.Count - 1 - others.Count - away;
        var found = await SoundRounds.PlaceAsync(
            reference,
            [.. others.Where(s => s.Facts.Channels > 0)],
            s => s.Facts.Duration,
            (one, other) => CompareAsync(one, other, cancel),
            (seen, source) => progress(PerMille.Of(seen, others.Count + 1), source.Name)
        );
        var placed = found.Placed.Select(p => (Source: p.What, p.Place)).Prepend((Source: reference, Place: default)).ToList();
        var words = found.Placed.ToDictionary(
            p => p.What.Id,
            p => p.Found.Words + (p.ByWayOf is { } bridge ? $", by way of {bridge.Name}" : "")
        );
        // Timecodes are counted from the reference's; where it has none, from the first one's that sound placed.
        var ruler = placed.FirstOrDefault(p => p.Source.Facts.Start != StartOfFile.Unknown, placed[0]);
        MediaTime? ByCount(Source source) =>
            source.Id == ruler.Source.Id || DayTime.Offset(ruler.Source.Facts, source.Facts) is not { } offset
                ? null
                : ruler.Place.Start.FromZero + offset;
        var counted = placed
            .Skip(1)
            .Select(p => new Counted(p.Source.Name, p.Place.Start.FromZero, ByCount(p.Source), Frame(p.Source)))
            .ToList();
        for (var i = 0; i < counted.Count; i++)
        {
            footage.Place(
                placed[i + 1].Source.Id,
                Placement.BySound(placed[i + 1].Place, words[placed[i + 1].Source.Id] + CountCheck.Words(counted[i])),
                sitting.Id
            );
        }
        foreach (var (source, nothing) in found.Left)
        {
            // What a person has seen placed stays there: a sound that can not be found this time may be this time's fault.
            footage.Place(source.Id, source.Placement.NotFound(nothing.Words), sitting.Id);
        }
        var fills = placed.Select(p => p.Place.Fill(p.Source.Facts.Duration)).ToList();
        var extent = new SittingRange(fills.Min(f => f.In), fills.Max(f => f.Out));
        var byCount = 0;
        foreach (var silent in others.Where(s => s.Facts.Channels == 0))
        {
            var place = CountCheck.Silent(ByCount(silent), silent.Facts, extent, counted, silent.Placement);
            footage.Place(silent.Id, place, sitting.Id);
            byCount += place.Basis == PlaceBasis.Timecode ? 1 : 0;
        }
        upkeep.Ask(job.ProductionId);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{placed.Count - 1} of {sources.Count - 1} placed by sound{(byCount > 0 ? $", {byCount} by timecode" : "")}"
                + $"{(kept > 0 ? $", {kept} left as placed by hand" : "")}{(away > 0 ? $", {away} missing and left as they were" : "")}"
        );
    }

    private async Task<SoundOffset> CompareAsync(Source reference, Source source, CancellationToken cancel)
    {
        using var heard = await sounds.OpenAsync(reference, cancel);
        using var sound = await sounds.OpenAsync(source, cancel);
        return SoundMatch.Find(heard, sound);
    }

    private static MediaTime Frame(Source source) => (source.Facts.Picture?.Rate ?? FrameRate.R25).TimeOf(1);
}
