namespace EmberLane.Core.Transcripts;

/// <summary>Sets a word aside, or brings it back. It stays in the record with its time and its sound.</summary>
public sealed record SetWordAside(int Word, bool Aside) : TranscriptEdit
{
    internal override IEnumerable<string> Touched() => [FormattableString.Invariant($"aside {Word}")];

    public override (Layers Layers, TranscriptEdit Inverse) Apply(Transcript transcript)
    {
        WordOf(transcript, Word);
        var aside = transcript.Layers.Aside;
        return (transcript.Layers with { Aside = Aside ? aside.Add(Word) : aside.Remove(Word) }, new SetWordAside(Word, aside.Contains(Word)));
    }
}
