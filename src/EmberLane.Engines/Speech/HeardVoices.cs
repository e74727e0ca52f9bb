using System.Runtime.InteropServices;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Engines.Speech;

/// <summary>
/// Words with their voices, whether there may be another number of voices, and where each speaks, understood or not (voices by their places
/// in the labels).
/// </summary>
public sealed record GivenVoices(
    IReadOnlyList<RecognisedWord> Words,
    VoiceDoubt? Doubt,
    IReadOnlyList<string> Labels,
    IReadOnlyList<Spoken> Said
);

/// <summary>
/// Who speaks when in a sitting's sound: by the mic that is near where mics are worn, else by how voices sound in the one mix.
/// </summary>
public static class HeardVoices
{
    /// <summary>
    /// The words with their voices and how sure those are, and whether there may be another number of voices.
    /// <paramref name="energies"/> are the mics' and <paramref name="pcmPath"/> the mix of the same sound at 16 kHz
    /// (<see cref="SittingSound.MakeAsync"/>), which the words count from. With a number of <paramref name="voices"/> given that the mics
    /// do not tell, the mix decides. Words that came with voices keep them.
    /// </summary>
    public static GivenVoices Give(IReadOnlyList<RecognisedWord> words, IReadOnlyList<float[]> energies, string pcmPath, int? voices)
    {
        if (words.Count == 0 || words.Any(w => w.Voice is not null) || In(energies, pcmPath, voices) is not { Rows.Count: > 0 } chances)
        {
            return new GivenVoices(words, null, [], []);
        }
        var given = WordVoices.Give(
            chances,
            [.. words.Select(w => new StepRange(Step.At(w.Range.In.FromZero), Step.At(w.Range.Out.FromZero)))]
        );
        return new GivenVoices(
            [.. words.Select((w, i) => w with { Voice = chances.Labels[given[i].Voice], VoiceSure = given[i].Sure })],
            chances.Doubt,
            chances.Labels,
            chances.Spoken()
        );
    }

    /// <summary>
    /// Who speaks by the mics, laid out so that each turn is recognised from the mic of who speaks, within a stretch of the steps or
    /// everywhere; null where the mics do not tell, or do not tell of so many voices.
    /// </summary>
    public static SpokenLayout? Layout(IReadOnlyList<float[]> energies, string pcmPath, int? voices, StepRange? within)
    {
        if (NearMics(energies, voices) is not { } near)
        {
            return null;
        }
        var mix = PcmFile.Energy(pcmPath);
        return SpokenLayout.Of(near, mix, energies, within ?? StepRange.Of(0, mix.Length));
    }

    private static VoiceChances In(IReadOnlyList<float[]> energies, string pcmPath, int? voices) =>
        NearMics(energies, voices) ?? OfMix(pcmPath, voices);

    private static VoiceChances? NearMics(IReadOnlyList<float[]> energies, int? voices) =>
        MicDiarisation.Of(energies) is { } near && (voices is null || voices == near.Rows.Count) ? near : null;

    private static VoiceChances OfMix(string pcmPath, int? voices)
    {
        // Both take about as long, and each but one core.
        (Mfcc Sounds, PitchTracker Pitch)? heard = null;
        IReadOnlyList<StepRange> speaking = [];
        var clear = true;
        Parallel.Invoke(() => heard = Heard(pcmPath), () => (speaking, clear) = Speaking(pcmPath));
        return SpeakerClustering.Of(heard!.Value.Sounds.Frames, heard.Value.Pitch.Steps, speaking, voices, clear);
    }

    /// <summary>
    /// What each voice sounds like in the stretches that it says, in steps of the sound at <paramref name="pcmPath"/> (16 kHz); one
    /// without steps where that is too little to tell.
    /// </summary>
    public static IReadOnlyDictionary<int, VoicePrint> Prints(string pcmPath, IReadOnlyDictionary<int, IReadOnlyList<StepRange>> said)
    {
        var (sounds, pitch) = Heard(pcmPath);
        return said.ToDictionary(s => s.Key, s => VoicePrint.Of(sounds.Frames, pitch.Steps, s.Value) ?? VoicePrint.None);
    }

    private static (IReadOnlyList<StepRange> Speech, bool Clear) Speaking(string pcmPath)
    {
        var energy = PcmFile.Energy(pcmPath);
        var speech = VoiceActivity.Speech(SpeechNetwork.Chances(pcmPath, energy), energy);
        return (speech, VoiceActivity.StandsClear(speech, energy));
    }

    private static (Mfcc Sounds, PitchTracker Pitch) Heard(string pcmPath)
    {
        var sounds = new Mfcc();
        var pitch = new PitchTracker();
        Hear(
            pcmPath,
            samples =>
            {
                sounds.Add(samples);
                pitch.Add(samples);
            }
        );
        return (sounds, pitch);
    }

    private delegate void Listener(ReadOnlySpan<short> samples);

    private static void Hear(string pcmPath, Listener listener)
    {
        using var file = File.OpenRead(pcmPath);
        var buffer = new byte[SilenceSegmenter.SampleRate * 20];
        int got;
        while ((got = file.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false)) > 1)
        {
            listener(MemoryMarshal.Cast<byte, short>(buffer.AsSpan(0, got)));
        }
    }
}
