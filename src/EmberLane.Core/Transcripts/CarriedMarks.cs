namespace EmberLane.Core.Transcripts;

/// <summary>What was set aside and flagged in one text of a sitting, in another text of it: marks keep their time and find their words by it.</summary>
public static class CarriedMarks
{
    /// <summary>
    /// The edit that adds the marks of <paramref name="from"/> to <paramref name="to"/>; null when it has them already. A word is set aside when its middle lies in a stretch that is aside in the other text; a flag stands before the word that is
    /// said at its moment, or the first one after it. A flag that stands there is left. Words of both are in order of their starts. Cost grows with the words times the stretches.
    /// </summary>
    public static TranscriptEdit? Of(Transcript from, Transcript to)
    {
        var edits = new List<TranscriptEdit>();
        foreach (var stretch in Stretches(from))
        {
            edits.AddRange(to.Words.Where(w => stretch.Holds(w.Range.In + new MediaTime(w.Range.Length.Units / 2)) && !to.IsAside(w)).Select(w => new SetWordAside(w.Number, true)));
        }
        var flagged = to.Layers.Flags.Keys.ToHashSet();
        foreach (var (number, flag) in from.Layers.Flags)
        {
            if (from.PlaceOf(number) is { } place && At(to, from.Words[place].Range.In) is { } word && flagged.Add(word.Number))
            {
                edits.Add(new SetFlag(word.Number, flag));
            }
        }
        return edits.Count == 0 ? null : new Together(edits);
    }

    /// <summary>Runs of words that are aside, each from its first word's start to its last one's end. Linear in the words.</summary>
    public static IReadOnlyList<SittingRange> Stretches(Transcript transcript)
    {
        var stretches = new List<SittingRange>();
        var open = false;
        foreach (var word in transcript.Words)
        {
            var aside = transcript.IsAside(word);
            if (aside && open)
            {
                stretches[^1] = new SittingRange(stretches[^1].In, word.Range.Out > stretches[^1].Out ? word.Range.Out : stretches[^1].Out);
            }
            else if (aside)
            {
                stretches.Add(word.Range);
            }
            open = aside;
        }
        return stretches;
    }

    private static RecordWord? At(Transcript transcript, SittingTime moment) => transcript.Words.FirstOrDefault(w => w.Range.Out > moment) ?? (transcript.Words.Count > 0 ? transcript.Words[^1] : null);
}
