using System.Globalization;
using EmberLane.Application.Gathering;
using EmberLane.Core.Media;
using EmberLane.Core.Mics;
using EmberLane.Core.Speech;
using EmberLane.Engines;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Work;

/// <summary>Listens to every channel of a sitting's sources once, for what kind of mic it is.</summary>
internal sealed class MicsWork(Footage footage, Mics mics, SittingMics sittingMics, SourceFiles files, Upkeep upkeep) : IWork
{
    public string Kind => WorkKinds.Mics;

    public async Task<string> DoAsync(Job job, Progress progress, CancellationToken cancel)
    {
        var sitting = footage.Sitting(job.SubjectId) ?? throw new InvalidOperationException("The sitting is no longer in the production.");
        var sources = footage.SourcesOf(sitting.Id).Where(s => s.Facts.Channels > 0).ToList();
        foreach (var (source, i) in sources.Select((s, i) => (s, i)).Where(s => !mics.IsHeard(s.s.Id)))
        {
            progress(PerMille.Of(i, sources.Count), source.Name);
            mics.Heard(source.Id, ChannelLevels.Of(await EnergiesAsync(files.Open(source), source.Facts, cancel)));
        }
        var found = sittingMics.Of(sitting);
        upkeep.Ask(job.ProductionId);
        return string.Create(
            CultureInfo.InvariantCulture,
            $"{found.All.Count} {(found.All.Count == 1 ? "channel" : "channels")}, {found.All.Count(m => m.Heard)} heard"
        );
    }

    private static async Task<IReadOnlyList<float[]>> EnergiesAsync(string path, SourceFacts facts, CancellationToken cancel)
    {
        var energies = new List<float[]>();
        foreach (var track in facts.Sound)
        {
            await using var decoded = DecodedChannels.Open(
                path,
                track,
                [.. Enumerable.Range(0, track.Channels)],
                SilenceSegmenter.SampleRate,
                cancel
            );
            var heard = new ChannelEnergies(track.Channels);
            var block = new short[SilenceSegmenter.SampleRate * track.Channels];
            int got;
            while ((got = await decoded.ReadAsync(block, cancel)) >= track.Channels)
            {
                heard.Add(block.AsSpan(0, got - (got % track.Channels)));
            }
            energies.AddRange(heard.Rows);
        }
        return energies;
    }
}
