namespace EmberLane.Core.Transcripts;

/// <summary>Says what a change of a transcript was, for a person.</summary>
public static class EditWords
{
    private const int Named = 3;

    /// <summary>One sentence without its stop, and the first word it touched, or null. Words are quoted as the record has them.</summary>
    public static (string Said, int? Word) Of(TranscriptEdit edit, Transcript transcript) => edit switch
    {
        Retype retype => (retype.Text is null ? $"“{Word(transcript, retype.Word)}” as recognised again" : $"“{Word(transcript, retype.Word)}” is “{retype.Text}”", retype.Word),
        GiveWord give => ($"“{Word(transcript, give.Word)}” given to {(give.Voice is { } voice ? transcript.NameOf(voice) : "the voice it was heard in")}", give.Word),
        HideWord hide => ($"“{Word(transcript, hide.Word)}” {(hide.Hidden ? "out of the text" : "back in the text")}", hide.Word),
        JoinWord join => ($"“{Word(transcript, join.Word - 1)}” and “{Word(transcript, join.Word)}” {(join.Joined ? "are one word" : "are two words")}", join.Word - 1),
        NameVoice name => (name.Name is null or "" ? "a voice lost its name" : $"a voice is {name.Name}", null),
        Together { Edits: [var one] } => Of(one, transcript),
        Together together => (string.Join("; ", together.Edits.Take(Named).Select(e => Of(e, transcript).Said)) + (together.Edits.Count > Named ? FormattableString.Invariant($"; and {together.Edits.Count - Named} more") : ""),
            together.Edits.Select(e => Of(e, transcript).Word).FirstOrDefault(w => w is not null)),
        _ => ("a change", null),
    };

    private static string Word(Transcript transcript, int number) => number >= 0 && number < transcript.Words.Count ? transcript.Words[number].Text : "?";
}
