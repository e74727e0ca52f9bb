using System.Globalization;
using System.Security.Cryptography;
using System.Text;
using EmberLane.Core.Mics;
using EmberLane.Engines.Speech;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>
/// The mics of a sitting, all of them and those that its sound is made of, which are placed, with the channel of each; <see cref="Key"/>
/// changes whenever that sound would.
/// </summary>
public sealed record MicsOfSitting(
    IReadOnlyList<Mic> All,
    IReadOnlyList<PlacedMic> Placed,
    IReadOnlyList<MicOfFile> Channels,
    IReadOnlyList<Source> Sources,
    string Key
);

/// <summary>Puts together what is known and decided about the mics of a sitting.</summary>
public sealed class SittingMics(Footage footage, Mics mics, Store.Transcripts transcripts)
{
    /// <summary>
    /// The mix is of the mics that are heard and lie on the clock. A sitting that has none of those yet is heard by all channels of its
    /// reference. Mics besides a camera's that are not heard are measured, since they tell who speaks. Empty lists for a sitting without
    /// sound.
    /// </summary>
    public MicsOfSitting Of(Sitting sitting)
    {
        var sources = footage.SourcesOf(sitting.Id);
        var byId = sources.ToDictionary(s => s.Id);
        var all = MicGuess.Of(mics.Channels(sources), People(sitting.ProductionId));
        var placed = all.Where(m => byId[m.SourceId].Place is not null).ToList();
        if (!placed.Any(m => m.Heard))
        {
            placed = [.. placed.Where(m => m.SourceId == sitting.SoundSourceId).Select(m => m with { Heard = true })];
        }
        placed = [.. placed.Where(m => m.Heard || m.Kind is not (MicKind.Unused or MicKind.Camera))];
        var mixed = placed
            .Select(m => new PlacedMic(byId[m.SourceId].Path, byId[m.SourceId].Facts, byId[m.SourceId].Place!.Value, m.Channel, m.Heard))
            .ToList();
        return new MicsOfSitting(
            all,
            mixed,
            [.. placed.Select(m => new MicOfFile(m.SourceId, m.Channel))],
            [.. placed.Select(m => byId[m.SourceId]).Distinct()],
            Key(placed, byId)
        );
    }

    /// <summary>The names of people that are known in a production, by its transcripts.</summary>
    public IReadOnlyCollection<string> People(long productionId) =>
        [.. transcripts.NamesOf(productionId).Distinct(StringComparer.OrdinalIgnoreCase)];

    private static string Key(List<Mic> placed, Dictionary<long, Source> sources)
    {
        var text = string.Join(
            '\n',
            placed
                .Where(m => m.Heard)
                .Select(m => (m, s: sources[m.SourceId]))
                .Select(p =>
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"{p.s.Fingerprint} {p.m.Channel} {p.s.Place!.Value.Start.FromZero.Units} {p.s.Place.Value.DriftPerBillion}"
                    )
                )
        );
        return Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)));
    }
}
