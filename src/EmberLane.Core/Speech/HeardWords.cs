namespace EmberLane.Core.Speech;

/// <summary>Lays words that a speech model gave onto the sound that it heard.</summary>
public static class HeardWords
{
    private static readonly MediaTime Shortest = MediaTime.FromSamples(1, Step.PerSecond);

    /// <summary>
    /// The words within the sound of these energies (<see cref="SilenceSegmenter.Energy"/>), in order, each beginning no earlier than the
    /// one before and ending no later than the next begins. One that reaches into a pause ends where the speech ends; one that begins
    /// behind the sound was not heard, and is left out.
    /// </summary>
    public static IReadOnlyList<RecognisedWord> Within(IReadOnlyList<RecognisedWord> words, ReadOnlySpan<float> energy)
    {
        var end = new SourceTime(new Step(energy.Length).FromStart);
        var speech = VoiceActivity.SpeechByLoudness(energy);
        var laid = new List<RecognisedWord>();
        foreach (var word in words.OrderBy(w => w.Range.In))
        {
            var begins = word.Range.In;
            if (laid is [.., var before])
            {
                begins = Later(begins, before.Range.In + Shortest);
                laid[^1] = before with { Range = new SourceRange(before.Range.In, before.Range.Out < begins ? before.Range.Out : begins) };
            }
            if (begins + Shortest <= end)
            {
                var latest = word.Range.Out < end ? word.Range.Out : end;
                laid.Add(word with { Range = new SourceRange(begins, Spoken(begins, latest, speech)) });
            }
        }
        return laid;
    }

    // The end of the last speech in the word; where none is heard the word keeps its own.
    private static SourceTime Spoken(SourceTime begins, SourceTime ends, IReadOnlyList<StepRange> speech)
    {
        var last = speech
            .Select(s => (From: new SourceTime(s.First.FromStart), To: new SourceTime(s.End.FromStart)))
            .LastOrDefault(s => s.From < ends && s.To > begins);
        var until = last.To > begins && last.To < ends ? last.To : ends;
        return Later(until, begins + Shortest);
    }

    private static SourceTime Later(SourceTime a, SourceTime b) => a > b ? a : b;
}
