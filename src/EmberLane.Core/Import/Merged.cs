using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>A text of which a part was recognised again.</summary>
public static class Merged
{
    /// <summary>What a person wrote or found right is doubtful no more.</summary>
    private static readonly PerMille Certain = PerMille.All;

    /// <summary>
    /// The text as it is read, with its words in the stretch (by their middles) replaced by the new ones; and its voices' names. A new word
    /// is said by the voice that the old text hears at that moment or nearest to it, since the voices of a part can not be told from those
    /// of the whole. Words taken out of the old text do not come along.
    /// </summary>
    public static (List<RecordWord> Words, IReadOnlyDictionary<int, string> Names) Of(
        Transcript before,
        IReadOnlyList<RecordWord> part,
        SittingRange stretch
    )
    {
        var old = new List<RecordWord>();
        foreach (var word in before.Words.Where(w => !before.IsHidden(w)))
        {
            // Joined words come along as the one word that they are.
            if (old is [.., var last] && before.IsJoined(word))
            {
                old[^1] = last with { Text = last.Text + before.TextOf(word), Range = new SittingRange(last.Range.In, word.Range.Out) };
            }
            else
            {
                old.Add(
                    word with
                    {
                        Text = before.TextOf(word),
                        Confidence = word.Confidence < Transcript.DoubtBelow && !before.IsDoubtful(word) ? Certain : word.Confidence,
                        Voice = before.VoiceOf(word),
                        VoiceSure = before.SureOf(word),
                    }
                );
            }
        }
        var kept = old.Where(w => w.Middle < stretch.In || w.Middle >= stretch.Out);
        var words = kept.Concat(part.Select(w => w with { Voice = VoiceAt(old, w.Middle) ?? w.Voice }))
            .OrderBy(w => w.Range.In)
            .Select((w, i) => w with { Number = new WordNumber(i) })
            .ToList();
        return (words, before.Layers.VoiceNames);
    }

    private static int? VoiceAt(List<RecordWord> words, SittingTime at) =>
        words.Count == 0 ? null : words.MinBy(w => Math.Abs((w.Middle - at).Units))!.Voice;
}
