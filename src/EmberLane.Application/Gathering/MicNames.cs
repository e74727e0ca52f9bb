using EmberLane.Core.Transcripts;
using EmberLane.Store;

namespace EmberLane.Application.Gathering;

/// <summary>A name that a person gives to a mic is the name of the voice that was heard near it, too.</summary>
public sealed class MicNames(Store.Transcripts transcripts)
{
    /// <summary>
    /// Names the voice of the sitting's text that was heard near a mic whose name was <paramref name="before"/>; whether it did. A voice
    /// that a person has named otherwise keeps its name, and a name that another voice has already is not given twice.
    /// </summary>
    public bool Follow(Sitting sitting, MicOfFile mic, string before, string name, string who)
    {
        if (sitting.TranscriptId is not { } id || transcripts.VoiceNear(id, mic) is not { } voice || !Is(transcripts.Get(id)))
        {
            return false;
        }
        transcripts.Apply(id, text => Is(text) ? new NameVoice(voice, name.Length == 0 ? null : name) : null, who);
        return true;

        bool Is(Transcript text)
        {
            var now = text.Layers.VoiceNames.GetValueOrDefault(voice, "");
            return text.Voices().Contains(voice)
                && now != name
                && (now.Length == 0 || now == before)
                && (name.Length == 0 || VoiceEdits.VoiceNamed(text, name) is null);
        }
    }
}
