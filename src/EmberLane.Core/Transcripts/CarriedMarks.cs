namespace EmberLane.Core.Transcripts;

/// <summary>What was set aside and flagged in one text of a sitting, in another text of it: marks keep their time and find their words by it.</summary>
public static class CarriedMarks
{
    /// <summary>
    /// The edit that adds the marks of <paramref name="from"/> to <paramref name="to"/>; null when it has them already. A word is set aside when its middle lies in a stretch that is aside in the other text; a flag stands before the word that is
    /// said at its moment, or the first one after it, or the last of all. A flag that stands there is left. Marks that came from there before do not go back, since the words of two texts do not begin and end together: a stretch would grow and
    /// a flag be there twice. Words of both are in order of their starts. Cost grows with the words times the stretches.
    /// </summary>
    public static TranscriptEdit? Of(Transcript from, Transcript to)
    {
        var edits = new List<TranscriptEdit>();
        var own = Stretches(to);
        foreach (var stretch in Stretches(from, w => from.IsAside(w) && !own.Any(s => s.Holds(Middle(w)))))
        {
            edits.AddRange(to.Words.Where(w => stretch.Holds(Middle(w)) && !to.IsAside(w)).Select(w => new SetWordAside(w.Number, true)));
        }
        var brought = Flags(to, from).ToHashSet();
        var flagged = to.Layers.Flags.Keys.ToHashSet();
        foreach (var (number, flag) in Flags(from, to, f => !brought.Contains((f.Key, f.Value))).Where(f => flagged.Add(f.Number)))
        {
            edits.Add(new SetFlag(number, flag));
        }
        return edits.Count == 0 ? null : new Together(edits);
    }

    /// <summary>Runs of words that are aside, each from its first word's start to its last one's end. Linear in the words.</summary>
    public static IReadOnlyList<SittingRange> Stretches(Transcript transcript) => Stretches(transcript, transcript.IsAside);

    private static List<SittingRange> Stretches(Transcript transcript, Func<RecordWord, bool> isIn)
    {
        var stretches = new List<SittingRange>();
        var open = false;
        foreach (var word in transcript.Words)
        {
            var aside = isIn(word);
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

    // The flags of one text, each with the number of the other text's word that it stands before there.
    private static IEnumerable<(int Number, Flag Flag)> Flags(Transcript from, Transcript to, Func<KeyValuePair<int, Flag>, bool>? wanted = null) =>
        from flag in @from.Layers.Flags
        where wanted is null || wanted(flag)
        let place = @from.PlaceOf(flag.Key)
        where place is not null
        let word = At(to, @from.Words[place.Value].Range.In)
        where word is not null
        select (word.Number, flag.Value);

    private static SittingTime Middle(RecordWord word) => word.Range.In + new MediaTime(word.Range.Length.Units / 2);

    private static RecordWord? At(Transcript transcript, SittingTime moment) => transcript.Words.FirstOrDefault(w => w.Range.Out > moment) ?? (transcript.Words.Count > 0 ? transcript.Words[^1] : null);
}
