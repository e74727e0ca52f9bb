namespace EmberLane.Core.Transcripts;

/// <summary>Says what a change of a transcript was, for a person.</summary>
public static class EditWords
{
    private const int Named = 3;

    /// <summary>One sentence without its stop, and the first word it touched, or null. Words are quoted as the record has them; the word is named by its number.</summary>
    public static (string Said, int? Word) Of(TranscriptEdit edit, Transcript transcript) => edit switch
    {
        Retype retype => (retype.Text is null ? $"“{Word(transcript, retype.Word)}” as recognised again" : $"“{Word(transcript, retype.Word)}” is “{retype.Text}”", retype.Word),
        GiveWord give => ($"“{Word(transcript, give.Word)}” given to {(give.Voice is { } voice ? transcript.NameOf(voice) : "the voice it was heard in")}", give.Word),
        HideWord hide => ($"“{Word(transcript, hide.Word)}” {(hide.Hidden ? "out of the text" : "back in the text")}", hide.Word),
        SetWordAside aside => ($"“{Word(transcript, aside.Word)}” {(aside.Aside ? "set aside" : "brought back")}", aside.Word),
        SettleWord settle => ($"“{Word(transcript, settle.Word)}” {(settle.Right ? "is right" : "is doubtful again")}", settle.Word),
        SetFlag { Flag: { } flag } put => ($"a flag “{Of(flag.Kind)}” before “{Word(transcript, put.Word)}”{(flag.Note.Length > 0 ? ": " + flag.Note : "")}", put.Word),
        SetFlag gone => ($"no flag before “{Word(transcript, gone.Word)}”", gone.Word),
        JoinWord join => ($"“{(transcript.PlaceOf(join.Word) is > 0 and var at ? Word(transcript, transcript.Words[at - 1].Number) : "?")}” and “{Word(transcript, join.Word)}” {(join.Joined ? "are one word" : "are two words")}", join.Word),
        AddWord add => ($"“{add.Text}” added{(Before(transcript, add) is { } before ? $" after “{before}”" : " at the beginning")}", add.Number),
        WithdrawWord withdraw => ($"“{Word(transcript, withdraw.Number)}” taken away again", null),
        NameVoice name => (name.Name is null or "" ? "a voice lost its name" : $"a voice is {name.Name}", null),
        Together { Edits: [var one] } => Of(one, transcript),
        Together together => (string.Join("; ", together.Edits.Take(Named).Select(e => Of(e, transcript).Said)) + (together.Edits.Count > Named ? FormattableString.Invariant($"; and {together.Edits.Count - Named} more") : ""),
            together.Edits.Select(e => Of(e, transcript).Word).FirstOrDefault(w => w is not null)),
        _ => ("a change", null),
    };

    /// <summary>A kind of flag, as a person reads it.</summary>
    public static string Of(FlagKind kind) => kind switch { FlagKind.LookAgain => "look again", FlagKind.UseThis => "use this", FlagKind.LeaveOut => "leave out", _ => "ask about it" };

    private static string Word(Transcript transcript, int number) =>
        number >= 0 && number < transcript.Record.Count ? transcript.Record[number].Text : transcript.Layers.Added.TryGetValue(number, out var added) ? added.Text : "?";

    // The word that it was put behind, which may itself have been added.
    private static string? Before(Transcript transcript, AddWord add) => transcript.PlaceOf(add.Number) is > 0 and var place ? Word(transcript, transcript.Words[place - 1].Number) : add.After >= 0 ? Word(transcript, add.After) : null;
}
