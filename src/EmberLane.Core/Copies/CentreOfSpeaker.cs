namespace EmberLane.Core.Copies;

/// <summary>Around whom a picture is cut that is filmed wider than it shall be seen, where several people are in it.</summary>
public static class CentreOfSpeaker
{
    /// <summary>Who speaks for less (1 s) is not turned to.</summary>
    private static readonly MediaTime Short = MediaTime.FromMilliseconds(1_000);

    /// <summary>
    /// Parts of what is seen, in order and without holes, each with the middle of what is seen, in thousandths of the width, by where
    /// people are in the picture (<paramref name="places"/>, at least one): who speaks; the one before where nobody speaks who is in it.
    /// Linear.
    /// </summary>
    public static IReadOnlyList<(FrameSpan Frames, int Centre)> Of(
        FrameSpan seen,
        IReadOnlyList<SpeakerRun> speakers,
        IReadOnlyDictionary<string, int> places,
        FrameRate rate
    )
    {
        var turns = new List<(long First, int Centre)>();
        foreach (var (run, i) in speakers.Select((r, i) => (r, i)).Where(r => places.ContainsKey(r.r.Who)))
        {
            var first = Math.Max(seen.First, rate.NearestFrame(run.From));
            var end = i + 1 < speakers.Count ? rate.NearestFrame(speakers[i + 1].From) : seen.End;
            // A short word in between turns nobody; the first who is seen is turned to all the same.
            if (first < Math.Min(end, seen.End) && (turns.Count == 0 || rate.TimeOf(end - rate.NearestFrame(run.From)) >= Short))
            {
                turns.Add((first, places[run.Who]));
            }
        }
        if (turns.Count == 0)
        {
            return [(seen, places.OrderBy(p => p.Key, StringComparer.Ordinal).First().Value)];
        }
        turns[0] = turns[0] with { First = seen.First };
        var parts = new List<(FrameSpan, int)>();
        for (var i = 0; i < turns.Count; i++)
        {
            var next = i;
            while (next + 1 < turns.Count && turns[next + 1].Centre == turns[i].Centre)
            {
                next++;
            }
            var end = next + 1 < turns.Count ? turns[next + 1].First : seen.End;
            parts.Add((new FrameSpan(turns[i].First, end - turns[i].First), turns[i].Centre));
            i = next;
        }
        return parts;
    }
}
