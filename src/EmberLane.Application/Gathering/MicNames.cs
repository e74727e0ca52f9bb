using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>
/// A name that a person gives to a mic is the name of the voice that was heard near it, too. A voice that a person has named otherwise
/// keeps its name, and a name that another voice has already is not given twice.
/// </summary>
public sealed class MicNames(Store.Transcripts transcripts)
{
    /// <summary>Whether a voice of the sitting's text follows when a mic's name changes.</summary>
    public bool Follows(Sitting sitting, MicOfFile mic, string before, string name) =>
        sitting.TranscriptId is { } id
        && transcripts.VoiceNear(id, mic) is { } voice
        && EditOf(transcripts.Get(id), voice, before, name) is not null;

    /// <summary>Names the voice; nothing where none follows by now.</summary>
    public void Follow(Sitting sitting, MicOfFile mic, string before, string name, string who)
    {
        if (sitting.TranscriptId is { } id && transcripts.VoiceNear(id, mic) is { } voice)
        {
            transcripts.Apply(id, text => EditOf(text, voice, before, name), who);
        }
    }

    private static NameVoice? EditOf(Transcript text, int voice, string before, string name)
    {
        var now = text.Layers.VoiceNames.GetValueOrDefault(voice, "");
        return
            text.Voices().Contains(voice)
            && now != name
            && (now.Length == 0 || now == before)
            && (name.Length == 0 || VoiceEdits.VoiceNamed(text, name) is null)
            ? new NameVoice(voice, name.Length == 0 ? null : name)
            : null;
    }
}
