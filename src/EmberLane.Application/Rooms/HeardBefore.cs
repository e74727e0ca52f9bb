using EmberLane.Core.Transcripts;
using EmberLane.Core.Voices;
using EmberLane.Store;

namespace EmberLane.Application.Rooms;

/// <summary>Whom the unnamed voices of a sitting may be, by how named voices of the production's other sittings sound.</summary>
public sealed class HeardBefore(Footage footage, Store.Transcripts transcripts, VoicePrints prints)
{
    /// <summary>
    /// A guess for each unnamed voice for which there is one. People who have a voice here already are not guessed again.
    /// </summary>
    public IReadOnlyDictionary<int, VoiceGuess> Guess(Sitting sitting, long text, Transcript transcript)
    {
        var others = footage.Sittings(sitting.ProductionId).Where(s => s.Id != sitting.Id && s.TranscriptId is not null).ToList();
        var unnamed = transcript.Voices().Where(v => !transcript.Layers.VoiceNames.ContainsKey(v)).ToList();
        if (unnamed.Count == 0 || others.Count == 0)
        {
            return new Dictionary<int, VoiceGuess>();
        }
        var here = transcript
            .Voices()
            .Where(v => !unnamed.Contains(v))
            .Select(transcript.NameOf)
            .ToHashSet(StringComparer.OrdinalIgnoreCase);
        var heard = prints.Of(text);
        var known = others.SelectMany(o => Named(o)).Where(k => !here.Contains(k.Name)).ToList();
        return unnamed
            .Where(heard.ContainsKey)
            .Select(v => (Voice: v, Guess: KnownVoices.Guess(heard[v], known)))
            .Where(g => g.Guess is not null)
            .ToDictionary(g => g.Voice, g => g.Guess!);
    }

    private IEnumerable<KnownVoice> Named(Sitting sitting)
    {
        var names = transcripts.VoiceNames(sitting.TranscriptId!.Value);
        var heard = prints.Of(sitting.TranscriptId.Value);
        return names.Where(n => heard.ContainsKey(n.Key)).Select(n => new KnownVoice(n.Value, sitting.Title, heard[n.Key]));
    }
}
