using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>Gives recognised words a voice by the mic that is near, where there are several and the recogniser gave no voices.</summary>
public static class NearVoices
{
    /// <summary>
    /// Voices are <c>mic 1</c>, <c>mic 2</c> … in the order of <paramref name="energies"/> (10 ms steps from the words' zero), and <c>room</c>. Words that have a voice, or come from one mic, stay as they are.
    /// </summary>
    public static IReadOnlyList<RecognisedWord> Assign(IReadOnlyList<float[]> energies, IReadOnlyList<RecognisedWord> words)
    {
        if (energies.Count < 2 || words.Any(w => w.Voice is not null))
        {
            return words;
        }
        var near = NearMic.Assign(energies, [.. words.Select(w => ((int)w.Range.In.FromZero.ToSamplesFloor(100), (int)w.Range.Out.FromZero.ToSamplesFloor(100)))]);
        return [.. words.Select((w, i) => w with { Voice = near[i] < 0 ? "room" : FormattableString.Invariant($"mic {near[i] + 1}") })];
    }
}
