using System.Text.Json.Serialization;

namespace EmberLane.Core.Transcripts;

/// <summary>A change to the layers of a transcript, as a value. Applying it gives the new layers and the edit that takes it back.</summary>
[JsonDerivedType(typeof(Retype), "retype")]
[JsonDerivedType(typeof(NameVoice), "name-voice")]
public abstract record TranscriptEdit
{
    /// <summary>Throws <see cref="EditRefusedException"/> with the reason when the edit does not fit the transcript.</summary>
    public abstract (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript);
}

/// <summary>Gives a word another text; its time stays. Null gives back what the record says.</summary>
public sealed record Retype(int Word, string? Text) : TranscriptEdit
{
    public const int LongestText = 200;

    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (Word < 0 || Word >= transcript.Words.Count)
        {
            throw new EditRefusedException("That word is not in this transcript.");
        }
        var text = Text is null ? null : TypedText.OneLine(Text);
        if (text is { Length: 0 })
        {
            throw new EditRefusedException("A word can not be empty. Type what is said here.");
        }
        if (text is { Length: > LongestText })
        {
            throw new EditRefusedException($"That is {text.Length} characters; one word takes at most {LongestText}.");
        }
        var layers = transcript.Layers;
        var inverse = new Retype(Word, layers.Retyped.GetValueOrDefault(Word));
        var asRecorded = text is null || text == transcript.Words[Word].Text;
        return (layers with { Retyped = asRecorded ? layers.Retyped.Remove(Word) : layers.Retyped.SetItem(Word, text!) }, inverse);
    }
}

/// <summary>Names a voice everywhere in the transcript. Null or blank takes the name away.</summary>
public sealed record NameVoice(int Voice, string? Name) : TranscriptEdit
{
    public const int LongestName = 80;

    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (!transcript.Words.Any(w => w.Voice == Voice))
        {
            throw new EditRefusedException("That voice does not speak in this transcript.");
        }
        var name = TypedText.OneLine(Name ?? "");
        if (name.Length > LongestName)
        {
            throw new EditRefusedException($"A name takes at most {LongestName} characters.");
        }
        var names = transcript.Layers.VoiceNames;
        var inverse = new NameVoice(Voice, names.GetValueOrDefault(Voice));
        return (transcript.Layers with { VoiceNames = name.Length == 0 ? names.Remove(Voice) : names.SetItem(Voice, name) }, inverse);
    }
}
