namespace EmberLane.Core.Transcripts;

/// <summary>Says that a word is right as it stands, so that it is doubtful no more; or takes that back.</summary>
public sealed record SettleWord(int Word, bool Right) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"settled {Word}")];

    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        WordOf(transcript, Word);
        var settled = transcript.Layers.Settled;
        return (transcript.Layers with { Settled = Right ? settled.Add(Word) : settled.Remove(Word) }, new SettleWord(Word, settled.Contains(Word)));
    }

    /// <summary>All doubtful words from one place to another, both included; null when none is.</summary>
    public static TranscriptEdit? All(Transcript transcript, int first, int last)
    {
        List<TranscriptEdit> edits = [.. transcript.Words.Skip(first).Take(last - first + 1).Where(transcript.IsDoubtful).Select(w => new SettleWord(w.Number, true))];
        return edits.Count == 0 ? null : new Together(edits);
    }
}
