namespace EmberLane.Core.Transcripts;

/// <summary>What a flag stands for; never told apart by colour.</summary>
public enum FlagKind
{
    LookAgain,
    UseThis,
    LeaveOut,
    AskAbout,
}

/// <summary>A mark at a moment of the talk, to be found again: its kind and what somebody said of it, which may be empty.</summary>
public sealed record Flag(FlagKind Kind, string Note)
{
    public const int LongestNote = 200;
}

/// <summary>Puts a flag before a word, in place of one that stands there; null takes it away.</summary>
public sealed record SetFlag(int Word, Flag? Flag) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"flag {Word}")];

    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        WordOf(transcript, Word);
        var flags = transcript.Layers.Flags;
        var inverse = new SetFlag(Word, flags.GetValueOrDefault(Word));
        return (transcript.Layers with { Flags = Flag is null ? flags.Remove(Word) : flags.SetItem(Word, Fit(Flag)) }, inverse);
    }

    private static Flag Fit(Flag flag)
    {
        var note = TypedText.OneLine(flag.Note);
        return !Enum.IsDefined(flag.Kind) ? throw new EditRefusedException("There is no such kind of flag.")
            : note.Length > Flag.LongestNote ? throw new EditRefusedException($"A flag's note takes at most {Flag.LongestNote} characters.")
            : flag with { Note = note };
    }
}
