using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>Writes one place of a text as another text of the sitting has it.</summary>
public static class TakenOver
{
    /// <summary>
    /// What is said differently is written over our words, which keep their times; what only the other text has is added with its times
    /// there, by the voice of the same name, else by that of the word before; what only ours has leaves the text. The place comes from
    /// <see cref="TextDifference.Between"/> of the same two.
    /// </summary>
    public static TranscriptEdit Edit(Transcript ours, Transcript theirs, Differing place)
    {
        var old = place.Ours.Select(n => ours.PlaceOf(n)!.Value).ToList();
        var said = place.TheirsSaid;
        if (
            old.Count > 0
            && place.Theirs.Count > 0
            && !place.IsPassage
            && said.Length <= Retype.LongestText
            && old[^1] - old[0] == old.Count - 1
        )
        {
            return Respell.Over(ours, old[0], old[^1], said) ?? throw new EditRefusedException("This place reads so already.");
        }
        var edits = new List<TranscriptEdit>(old.Select(p => new HideWord(ours.At(p).Number, true)));
        var before =
            old.Count > 0 ? old[0] - 1
            : place.After is { } number ? ours.PlaceOf(number)!.Value
            : TextPlace.BeforeFirst;
        var last = old.Count > 0 ? old[^1] : before;
        var fresh = ours.FreshNumber();
        foreach (
            var word in place.Theirs.Count == 0
                ? []
                : theirs.Units(theirs.PlaceOf(place.Theirs[0])!.Value, theirs.PlaceOf(place.Theirs[^1])!.Value)
        )
        {
            var range = Within(ours, before, last, new SittingRange(word[0].Range.In, word[^1].Range.Out));
            edits.Add(
                new AddWord(
                    fresh,
                    RecordBefore(ours, Behind(ours, before, last, range.In)),
                    theirs.Said(word),
                    range,
                    Voice(ours, theirs, word[0], before)
                )
            );
            fresh = fresh.Next;
        }
        return new Together(edits);
    }

    // Between the start of the word before the place and that of the one behind it, so that words stay in order of their starts.
    private static SittingRange Within(Transcript ours, TextPlace before, TextPlace last, SittingRange range)
    {
        SittingTime? first = ours.Has(before) ? ours.At(before).Range.In : null,
            end = last < ours.Last ? ours.At(last + 1).Range.In : null;
        SittingTime Clamp(SittingTime at) =>
            end < at ? end.Value
            : first > at ? first.Value
            : at;
        return new SittingRange(Clamp(range.In), Clamp(range.Out));
    }

    // The last word of the place, or the one before it, that begins by then.
    private static TextPlace Behind(Transcript ours, TextPlace before, TextPlace last, SittingTime moment)
    {
        while (last > before && ours.At(last).Range.In > moment)
        {
            last--;
        }
        return last;
    }

    // Added words stand behind a word of the record.
    private static WordNumber RecordBefore(Transcript ours, TextPlace place)
    {
        while (ours.Has(place) && ours.At(place).Number.Value >= ours.Record.Count)
        {
            place--;
        }
        return ours.Has(place) ? ours.At(place).Number : WordNumber.BeforeFirst;
    }

    private static int Voice(Transcript ours, Transcript theirs, RecordWord word, TextPlace after)
    {
        if (
            theirs.Layers.VoiceNames.TryGetValue(theirs.VoiceOf(word), out var name)
            && ours
                .Layers.VoiceNames.Where(v => v.Value.Equals(name, StringComparison.OrdinalIgnoreCase))
                .Select(v => (int?)v.Key)
                .FirstOrDefault()
                is { } same
        )
        {
            return same;
        }
        return ours.Words.Count == 0 ? 0 : ours.VoiceOf(ours.At(ours.Has(after) ? after : TextPlace.First));
    }
}
