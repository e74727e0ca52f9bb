using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Voices;

/// <summary>
/// Names of voices from one text of a sitting to another one of it: a voice that speaks when a named one of the other text does is that
/// person.
/// </summary>
public static class CarriedNames
{
    /// <summary>So large a share of a voice's words, of a hundred, must a named voice of the other text say.</summary>
    private const int Share = 60;

    /// <summary>
    /// The names that <paramref name="names"/> has already, and those of <paramref name="from"/> for the voices of <paramref name="words"/>
    /// that have none; nobody gets two voices, the one with more words is first. Words of both are in order of their starts. Linear in the
    /// words, times the logarithm of the other text's.
    /// </summary>
    public static IReadOnlyDictionary<int, string> Of(
        Transcript from,
        IReadOnlyList<RecordWord> words,
        IReadOnlyDictionary<int, string> names
    )
    {
        var known = new Dictionary<int, string>(names);
        var starts = from.Words.Select(w => w.Range.In).ToArray();
        var unnamed = words
            .Where(w => starts.Length > 0 && !names.ContainsKey(w.Voice))
            .GroupBy(w => w.Voice)
            .OrderByDescending(g => g.Count());
        foreach (var voice in unnamed)
        {
            var said = voice.GroupBy(w => NameAt(w.Range.In + new MediaTime(w.Range.Length.Units / 2))).MaxBy(g => g.Count())!;
            if (said.Key is { } name && said.Count() * 100 >= Share * voice.Count() && !known.ContainsValue(name))
            {
                known[voice.Key] = name;
            }
        }
        return known;

        // Of the last word that began by then.
        string? NameAt(SittingTime moment)
        {
            var at = Array.BinarySearch(starts, moment);
            var word = from.Words[Math.Max(0, at >= 0 ? at : ~at - 1)];
            return from.Layers.VoiceNames.GetValueOrDefault(from.VoiceOf(word));
        }
    }
}
