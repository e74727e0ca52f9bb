namespace EmberLane.Core.Tidy;

/// <summary>What a spoken cue speaks of: the words before it or behind it, by place, both included.</summary>
public static class CueReach
{
    /// <summary>A cue speaks of so much at most, in whole sentences where one ends within it.</summary>
    private static readonly MediaTime Most = MediaTime.FromMilliseconds(30_000);

    /// <summary>So many words before a cue may lead to it.</summary>
    private const int Leading = 4;

    /// <summary>
    /// The words that the cue acts on; null where there are none. Before it: what was said last, back to where that voice began, and so
    /// long at most. Behind it: what the next voice says, as far. A part goes on to the next cue that begins one, or to the end.
    /// </summary>
    public static (int First, int Last)? Of(Talk talk, SaidCue cue, IReadOnlyList<SaidCue> all) =>
        cue.Cue.Use switch
        {
            CueUse.KeepsAfter => After(talk, cue),
            CueUse.BeginsPart => (
                cue.First,
                all.Where(c => c.Cue.Use == CueUse.BeginsPart && c.First > cue.First)
                    .Select(c => c.First - 1)
                    .DefaultIfEmpty(talk.Words.Count - 1)
                    .Min()
            ),
            _ => Before(talk, cue),
        };

    private static (int First, int Last)? Before(Talk talk, SaidCue cue)
    {
        var last = LeadingFrom(talk, cue) - 1;
        if (last < 0)
        {
            return null;
        }
        var voice = talk.Words[last].Voice;
        int first = last,
            sentence = last;
        while (first > 0 && talk.Words[first - 1].Voice == voice && talk.Words[last].Out - talk.Words[first - 1].In <= Most)
        {
            first--;
            sentence = first == 0 || Begins(talk, first) ? first : sentence;
        }
        return (first == 0 || talk.Words[first - 1].Voice != voice || sentence == last ? first : sentence, last);
    }

    // What leads to the cue belongs to it: “we can leave that out”.
    private static int LeadingFrom(Talk talk, SaidCue cue)
    {
        var first = cue.First;
        while (first > 0 && talk.Words[first - 1].Voice == talk.Words[cue.First].Voice && !Begins(talk, first))
        {
            first--;
        }
        return cue.First - first <= Leading ? first : cue.First;
    }

    private static (int First, int Last)? After(Talk talk, SaidCue cue)
    {
        var first = cue.Last + 1;
        if (first >= talk.Words.Count)
        {
            return null;
        }
        var voice = talk.Words[first].Voice;
        int last = first,
            sentence = first;
        while (
            last + 1 < talk.Words.Count && talk.Words[last + 1].Voice == voice && talk.Words[last + 1].Out - talk.Words[first].In <= Most
        )
        {
            last++;
            sentence = talk.Words[last].EndsSentence ? last : sentence;
        }
        return (first, last + 1 == talk.Words.Count || talk.Words[last + 1].Voice != voice || sentence == first ? last : sentence);
    }

    private static bool Begins(Talk talk, int place) => talk.Words[place - 1].EndsSentence || talk.Begins(place);
}
