using EmberLane.Core.Mics;

namespace EmberLane.Core.Cameras;

/// <summary>Which mics are open when, from who is to be heard.</summary>
public static class SpeakerMics
{
    private static readonly MicKind[] Preferred = [MicKind.Lav, MicKind.Boom, MicKind.Mix, MicKind.Camera];

    /// <summary>
    /// Who speaks is heard by the mics that are theirs; who has none by the boom, else a mix, else a camera, else by everybody's. Each mic
    /// by its place in the list, with when it is open, in order. Empty where there is no mic of use. Grows with openings times mics.
    /// </summary>
    public static IReadOnlyList<(int Mic, PlanRange Range)> Open(IReadOnlyList<OpenMic> plan, IReadOnlyList<Mic> mics)
    {
        var ofWhom = plan.Select(p => p.Who).Distinct(StringComparer.Ordinal).ToDictionary(who => who, who => Of(who, mics));
        return
        [
            .. plan.SelectMany(p => ofWhom[p.Who].Select(mic => (Mic: mic, p.Range)))
                .GroupBy(p => p.Mic)
                .SelectMany(own => PlanRange.Joined(own.Select(o => o.Range)).Select(r => (own.Key, r)))
                .OrderBy(o => o.r.In)
                .ThenBy(o => o.Key),
        ];
    }

    // A copy of a channel that is heard already would add the same voice twice: of a person's mics those of the best kind, of one file.
    private static List<int> Of(string who, IReadOnlyList<Mic> mics)
    {
        var own = Enumerable
            .Range(0, mics.Count)
            .Where(i => mics[i].Kind != MicKind.Unused && mics[i].Person.Equals(who, StringComparison.OrdinalIgnoreCase))
            .OrderBy(i => Array.IndexOf(Preferred, mics[i].Kind))
            .Take(1)
            .ToList();
        if (own.Count > 0)
        {
            return own;
        }
        var shared = Preferred
            .Skip(1)
            .Select(kind => Enumerable.Range(0, mics.Count).Where(i => mics[i].Kind == kind && mics[i].Person.Length == 0).Take(1).ToList())
            .FirstOrDefault(found => found.Count > 0);
        return shared ?? [.. Enumerable.Range(0, mics.Count).Where(i => mics[i].Kind == MicKind.Lav)];
    }
}
