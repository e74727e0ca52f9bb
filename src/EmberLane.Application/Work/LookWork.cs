using EmberLane.Application.Gathering;
using EmberLane.Application.Hands;
using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Engines;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>
/// Measures a source's picture: its shots, how bright and lively each is, its colours, the faces; and makes a picture of each shot. Loose
/// footage is looked at whole, an angle of a sitting in some places: it is one take.
/// </summary>
internal sealed class LookWork(Footage footage, Shots shots, MediaCache cache, SourceFiles files, IHands hands) : IWork
{
    /// <summary>The way of measuring; what was measured in an older one is measured again.</summary>
    public const int Version = 1;

    private const int Places = 12;

    public string Kind => WorkKinds.Look;

    /// <summary>Whether a source is yet to be measured, or its first picture has to be made again.</summary>
    public static bool IsWanted(Source source, IReadOnlySet<long> measured, MediaCache cache) =>
        source.Facts.Picture is not null && (!measured.Contains(source.Id) || !cache.IsWhole(cache.ShotPicture(source, 1)));

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var source = footage.Source(job.SubjectId) ?? throw new InvalidOperationException("The file is no longer in the production.");
        var real = files.Open(source);
        if (!shots.Measured(source.ProductionId, Version).Contains(source.Id))
        {
            await MeasureAsync(source, real, progress, cancel);
        }
        var found = shots.OfSource(source.Id);
        foreach (var shot in found.Where(s => !cache.IsWhole(cache.ShotPicture(source, s.Name.Number))))
        {
            var middle = shot.Facts.Range.In.FromZero + new MediaTime(shot.Facts.Length.Units / 2);
            await cache.MakeAsync(
                cache.ShotPicture(source, shot.Name.Number),
                output => hands.DoAsync(CopyErrand.Picture(source.Name, real, middle, output), (_, _) => { }, cancel)
            );
        }
        return found.Count == 1 ? "" : FormattableString.Invariant($"{found.Count} shots");
    }

    private async Task MeasureAsync(Source source, string real, Progress progress, CancellationToken cancel)
    {
        var length = source.Facts.Duration;
        var errand = FacesErrand.Of(source.Name, real, length, source.SittingId is null ? null : Places);
        var answer = await hands.DoAsync(errand, (at, waits) => progress(Speed.Done(at, length), waits), cancel);
        var measured = FacesErrand.Read(errand, answer);
        if (measured.Count == 0)
        {
            throw new ToolException($"No picture of {source.Name} could be read. Play the file, and bring it in anew where it is damaged.");
        }
        shots.Save(source.Id, Version, [.. measured.Select(m => (m.Facts, m.People))]);
    }
}
