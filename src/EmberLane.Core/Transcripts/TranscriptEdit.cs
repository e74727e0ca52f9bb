using System.Text.Json.Serialization;
using EmberLane.Core.Edits;
using EmberLane.Core.Marks;

namespace EmberLane.Core.Transcripts;

/// <summary>A change to the layers of a transcript, as a value. Applying it gives the new layers and the edit that takes it back.</summary>
[JsonDerivedType(typeof(Retype), "retype")]
[JsonDerivedType(typeof(NameVoice), "name-voice")]
[JsonDerivedType(typeof(GiveWord), "give-word")]
[JsonDerivedType(typeof(HideWord), "hide-word")]
[JsonDerivedType(typeof(JoinWord), "join-word")]
[JsonDerivedType(typeof(AddWord), "add-word")]
[JsonDerivedType(typeof(WithdrawWord), "withdraw-word")]
[JsonDerivedType(typeof(PutMark), "put-mark")]
[JsonDerivedType(typeof(TakeMark), "take-mark")]
[JsonDerivedType(typeof(ReleaseMark), "release-mark")]
[JsonDerivedType(typeof(SwitchLayer), "switch-layer")]
[JsonDerivedType(typeof(Together), "together")]
public abstract record TranscriptEdit : IEdit<Transcript, TranscriptEdit>
{
    /// <summary>Throws <see cref="EditRefusedException"/> with the reason when the edit does not fit the transcript.</summary>
    public abstract (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript);

    (Transcript State, TranscriptEdit Inverse) IEdit<Transcript, TranscriptEdit>.Apply(Transcript state)
    {
        var (layers, inverse) = Apply(state);
        return (state with { Layers = layers }, inverse);
    }

    /// <summary>Which words or voices it touches, and what of them.</summary>
    internal abstract IEnumerable<string> Touched();

    /// <inheritdoc/>
    public static IEnumerable<string> Touches(TranscriptEdit edit, TranscriptEdit inverse) => edit.Touched().Concat(inverse.Touched());

    /// <summary>The word with this number. Throws <see cref="EditRefusedException"/> when it is not in the text.</summary>
    protected static RecordWord WordOf(Transcript transcript, WordNumber number) =>
        transcript.PlaceOf(number) is { } place
            ? transcript.At(place)
            : throw new EditRefusedException("That word is not in this transcript.");
}

/// <summary>Gives a word another text; its time stays. Null gives back what the record says.</summary>
public sealed record Retype(WordNumber Word, string? Text) : TranscriptEdit
{
    /// <summary>The longest text of one word, in characters.</summary>
    public const int LongestText = 200;

    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"text {Word}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        var word = WordOf(transcript, Word);
        var text = Text is null ? null : Fit(Text);
        var layers = transcript.Layers;
        var inverse = new Retype(Word, layers.Retyped.GetValueOrDefault(Word));
        var asRecorded = text is null || text == word.Text;
        return (layers with { Retyped = asRecorded ? layers.Retyped.Remove(Word) : layers.Retyped.SetItem(Word, text!) }, inverse);
    }

    /// <summary>
    /// What was typed for a word, fit to be kept. Throws <see cref="EditRefusedException"/> when nothing is left, or it is too long.
    /// </summary>
    internal static string Fit(string typed) =>
        TypedText.OneLine(typed) switch
        {
            { Length: 0 } => throw new EditRefusedException("A word can not be empty. Type what is said here."),
            { Length: > LongestText } text => throw new EditRefusedException(
                $"That is {text.Length} characters; one word takes at most {LongestText}."
            ),
            var text => text,
        };
}

/// <summary>
/// Gives a word to a voice, which then says it for sure; also the one that it was heard in. Null gives it back to the record.
/// </summary>
public sealed record GiveWord(WordNumber Word, int? Voice) : TranscriptEdit
{
    internal const int MostVoices = 500;

    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"voice of {Word}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        WordOf(transcript, Word);
        if (Voice is < 0 or > MostVoices)
        {
            throw new EditRefusedException("That voice is not in this transcript.");
        }
        var given = transcript.Layers.Given;
        var inverse = new GiveWord(Word, given.TryGetValue(Word, out var before) ? before : null);
        return (transcript.Layers with { Given = Voice is { } voice ? given.SetItem(Word, voice) : given.Remove(Word) }, inverse);
    }
}

/// <summary>Takes a word out of the text, or brings it back. Its sound and its time stay.</summary>
public sealed record HideWord(WordNumber Word, bool Hidden) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"hidden {Word}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        WordOf(transcript, Word);
        var hidden = transcript.Layers.Hidden;
        return (
            transcript.Layers with
            {
                Hidden = Hidden ? hidden.Add(Word) : hidden.Remove(Word),
            },
            new HideWord(Word, hidden.Contains(Word))
        );
    }
}

/// <summary>Makes a word one word with the one before it, or two again. Both keep their times and their places in the record.</summary>
public sealed record JoinWord(WordNumber Word, bool Joined) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"joined {Word}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (transcript.PlaceOf(Word) is not { } place || place == TextPlace.First)
        {
            throw new EditRefusedException("There is no word before this one to join it with.");
        }
        if (Joined && transcript.VoiceOf(transcript.At(place)) != transcript.VoiceOf(transcript.At(place - 1)))
        {
            throw new EditRefusedException("Two people say these words; one word has one voice.");
        }
        var joined = transcript.Layers.Joined;
        return (
            transcript.Layers with
            {
                Joined = Joined ? joined.Add(Word) : joined.Remove(Word),
            },
            new JoinWord(Word, joined.Contains(Word))
        );
    }
}

/// <summary>Several edits as one: all or none, taken back as one.</summary>
public sealed record Together(IReadOnlyList<TranscriptEdit> Edits) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => Edits.SelectMany(e => e.Touched());

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (Edits.Count == 0)
        {
            throw new EditRefusedException("There is nothing to change.");
        }
        var back = new List<TranscriptEdit>();
        var now = transcript;
        foreach (var edit in Edits)
        {
            var (layers, inverse) = edit.Apply(now);
            now = now with { Layers = layers };
            back.Add(inverse);
        }
        back.Reverse();
        return (now.Layers, new Together(back));
    }
}

/// <summary>Names a voice everywhere in the transcript. Null or blank takes the name away.</summary>
public sealed record NameVoice(int Voice, string? Name) : TranscriptEdit
{
    /// <summary>The longest name, in characters.</summary>
    public const int LongestName = 80;

    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"name of {Voice}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (!transcript.Words.Any(w => transcript.VoiceOf(w) == Voice))
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
