namespace EmberLane.Core.Transcripts;

/// <summary>Changes of voices that touch many words.</summary>
public static class VoiceEdits
{
    /// <summary>
    /// Gives the words from one place to another, both included, to a voice; a voice that did not speak before may be
    /// <see cref="Transcript.FreshVoice"/>, named at once when a name is given.
    /// </summary>
    public static TranscriptEdit Give(Transcript transcript, TextPlace first, TextPlace last, int voice, string? name)
    {
        if (!transcript.Has(first) || !transcript.Has(last) || last < first)
        {
            throw new EditRefusedException("Select the words first.");
        }
        var edits = transcript
            .Between(first, last)
            .Where(w => transcript.VoiceOf(w) != voice || transcript.SureOf(w) < PerMille.All)
            .Select(w => (TranscriptEdit)new GiveWord(w.Number, voice))
            .ToList();
        if (edits.Count == 0)
        {
            throw new EditRefusedException("These words are that voice's already.");
        }
        return new Together(string.IsNullOrWhiteSpace(name) ? edits : [.. edits, new NameVoice(voice, name)]);
    }

    /// <summary>
    /// Says that the words from one place to another, both included, are those of the voices that they stand with; null when nobody doubts
    /// it.
    /// </summary>
    public static TranscriptEdit? Confirm(Transcript transcript, TextPlace first, TextPlace last)
    {
        List<TranscriptEdit> edits =
        [
            .. transcript
                .Between(first, last)
                .Where(w => transcript.SureOf(w) < PerMille.All)
                .Select(w => new GiveWord(w.Number, transcript.VoiceOf(w))),
        ];
        return edits.Count == 0 ? null : new Together(edits);
    }

    /// <summary>
    /// Names a voice; a name that another voice here has already makes the two one, since one person is one voice. Null or blank takes the
    /// name away.
    /// </summary>
    public static TranscriptEdit Name(Transcript transcript, int voice, string? name) =>
        VoiceNamed(transcript, name) is { } same && same != voice ? Join(transcript, voice, same) : new NameVoice(voice, name);

    /// <summary>The voice that speaks here under a name, in any case; null when none does.</summary>
    public static int? VoiceNamed(Transcript transcript, string? name)
    {
        var asked = TypedText.OneLine(name ?? "");
        return transcript
            .Voices()
            .Where(v =>
                transcript.Layers.VoiceNames.TryGetValue(v, out var known) && known.Equals(asked, StringComparison.OrdinalIgnoreCase)
            )
            .Select(v => (int?)v)
            .FirstOrDefault();
    }

    /// <summary>
    /// Makes two voices one: all words of <paramref name="from"/> go to <paramref name="into"/>, which keeps its name, or gets the other's
    /// when it has none.
    /// </summary>
    public static TranscriptEdit Join(Transcript transcript, int from, int into)
    {
        var words = transcript.Words.Where(w => transcript.VoiceOf(w) == from).ToList();
        if (from == into || words.Count == 0 || transcript.Words.All(w => transcript.VoiceOf(w) != into))
        {
            throw new EditRefusedException("Choose two voices that speak here.");
        }
        var names = transcript.Layers.VoiceNames;
        return new Together([
            .. words.Select(w => new GiveWord(w.Number, into)),
            .. names.TryGetValue(from, out var name) && !names.ContainsKey(into)
                ? [new NameVoice(into, name)]
                : Array.Empty<TranscriptEdit>(),
        ]);
    }
}
