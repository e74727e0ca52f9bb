using EmberLane.Core.Media;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>Gives recognised words a voice by the mic that is near, where a file has several channels and the recogniser gave no voices.</summary>
public static class NearVoices
{
    /// <summary>
    /// Voices are <c>mic 1</c>, <c>mic 2</c> … by channel, and <c>room</c>. Words that have a voice, or come from one channel, stay as they are. Channels are decoded one after another into
    /// <paramref name="workFile"/>, which is removed again.
    /// </summary>
    public static async Task<IReadOnlyList<RecognisedWord>> AssignAsync(string path, SourceFacts facts, IReadOnlyList<RecognisedWord> words, string workFile, CancellationToken cancel)
    {
        var channels = facts.Sound[0].Channels;
        if (channels < 2 || words.Any(w => w.Voice is not null))
        {
            return words;
        }
        var energies = new List<float[]>();
        for (var channel = 0; channel < channels; channel++)
        {
            try
            {
                await Ffmpeg.DecodeMonoAsync(path, facts, [channel], QuietCut.SampleRate, workFile, cancel);
                energies.Add(PcmFile.Energy(workFile));
            }
            finally
            {
                File.Delete(workFile);
            }
        }
        var steps = words.Select(w => ((int)w.Range.In.FromZero.ToSamplesFloor(100), (int)w.Range.Out.FromZero.ToSamplesFloor(100))).ToList();
        var near = NearMic.Assign(energies, steps);
        return [.. words.Select((w, i) => w with { Voice = near[i] < 0 ? "room" : FormattableString.Invariant($"mic {near[i] + 1}") })];
    }
}
