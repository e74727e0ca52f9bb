namespace EmberLane.Core.Transcripts;

/// <summary>
/// A word that a person added to what was heard: the second half of a word that was split, or one that the recogniser missed. It is read
/// after the record's word <see cref="After"/>, in order of time. One that was withdrawn keeps its number for ever,
/// so that no other word gets it.
/// </summary>
public sealed record AddedWord(WordNumber After, string Text, SittingRange Range, int Voice, bool IsWithdrawn = false);

/// <summary>
/// Adds a word to the text under a number that no word has had: <see cref="Transcript.FreshNumber"/>. The record stays as it is.
/// </summary>
public sealed record AddWord(WordNumber Number, WordNumber After, string Text, SittingRange Range, int Voice) : TranscriptEdit
{
    private static readonly WordNumber Most = new(2_000_000);

    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"text {Number}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        var added = transcript.Layers.Added;
        if (After < WordNumber.BeforeFirst || After.Value >= transcript.Record.Count || Voice is < 0 or > GiveWord.MostVoices)
        {
            throw new EditRefusedException("The word that this one shall stand beside is not in this transcript.");
        }
        if (Number.Value < transcript.Record.Count || Number > Most || added.GetValueOrDefault(Number) is { IsWithdrawn: false })
        {
            throw new EditRefusedException("There is a word under this number already. Load the page again and repeat it.");
        }
        var word = new AddedWord(After, Retype.Fit(Text), Range, Voice);
        return (transcript.Layers with { Added = added.SetItem(Number, word) }, new WithdrawWord(Number));
    }
}

/// <summary>Takes an added word away again, with its number kept.</summary>
public sealed record WithdrawWord(WordNumber Number) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"text {Number}")];

    /// <inheritdoc/>
    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        if (transcript.Layers.Added.GetValueOrDefault(Number) is not { IsWithdrawn: false } word)
        {
            throw new EditRefusedException("That word is no longer in the text.");
        }
        return (
            transcript.Layers with
            {
                Added = transcript.Layers.Added.SetItem(Number, word with { IsWithdrawn = true }),
            },
            new AddWord(Number, word.After, word.Text, word.Range, word.Voice)
        );
    }
}
