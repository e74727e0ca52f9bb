using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>Gives every word of a typed text its time, by the recogniser's words and their times.</summary>
public static class AlignedText
{
    /// <summary>Below this percentage of words heard it is the text of something else.</summary>
    public const int FitsFrom = 30;

    /// <summary>So many words in a row without a counterpart are a place that does not fit.</summary>
    private const int MisfitFrom = 6,
        ByChance = 4;

    private static readonly PerMille Same = new(950),
        Alike = new(800),
        Between = new(500),
        NotHeard = new(200);

    /// <summary>
    /// Words that were heard the same or alike take their times. What lies between is shared out by letters over what was heard there
    /// instead; where nothing was, over what somebody says there without being understood (<paramref name="said"/>, in order of their
    /// starts), or over the pause where that is not known or nobody does. Heard words are in order of their starts. Cost as
    /// <see cref="WordAlignment.Of"/>.
    /// </summary>
    public static LaidText Lay(IReadOnlyList<TypedWord> typed, IReadOnlyList<RecordWord> heard, IReadOnlyList<SaidStretch>? said = null)
    {
        var beside = WordAlignment.Of([.. typed.Select(w => w.Text)], [.. heard.Select(w => w.Text)]);
        var laid = new LaidWord[typed.Count];
        var misfits = new List<Misfit>();
        int last = -1,
            lastHeard = -1;
        for (var i = 0; i <= typed.Count; i++)
        {
            if (i < typed.Count && beside[i] < 0)
            {
                continue;
            }
            var next = i < typed.Count ? beside[i] : heard.Count;
            Fill(typed, heard, said ?? [], laid, last + 1, i, lastHeard + 1, next, misfits);
            if (i < typed.Count)
            {
                laid[i] = new LaidWord(
                    typed[i],
                    heard[next].Range,
                    SoundsLike.Of(typed[i].Text, heard[next].Text) >= 1 ? Same : Alike,
                    next
                );
                (last, lastHeard) = (i, next);
            }
        }
        return new LaidText(laid, Joined(misfits, typed, heard));
    }

    private static void Fill(
        IReadOnlyList<TypedWord> typed,
        IReadOnlyList<RecordWord> heard,
        IReadOnlyList<SaidStretch> said,
        LaidWord[] laid,
        int first,
        int end,
        int from,
        int to,
        List<Misfit> misfits
    )
    {
        if (to - from >= MisfitFrom && end - first < (to - from) / 3)
        {
            misfits.Add(
                new Misfit(
                    false,
                    from,
                    to - 1,
                    new SittingRange(heard[from].Range.In, heard[to - 1].Range.Out),
                    string.Join(' ', heard.Skip(from).Take(to - from).Select(w => w.Text))
                )
            );
        }
        if (first == end)
        {
            return;
        }
        IReadOnlyList<SaidStretch> over =
            to > from ? [new(null, new SittingRange(heard[from].Range.In, Latest(heard[to - 1].Range.Out, heard[from].Range.In)))]
            : UnheardTalk.Between(said, from > 0 ? heard[from - 1].Range.Out : null, from < heard.Count ? heard[from].Range.In : null)
                is { Count: > 0 } talk
                ? talk
            : [new(null, Pause(heard, from))];
        if (end - first >= MisfitFrom && to - from < (end - first) / 3)
        {
            misfits.Add(
                new Misfit(
                    true,
                    first,
                    end - 1,
                    new SittingRange(over[0].Range.In, over[^1].Range.Out),
                    string.Join(' ', typed.Skip(first).Take(end - first).Select(w => w.Text))
                )
            );
        }
        var shares = UnheardTalk.Share([.. Enumerable.Range(first, end - first).Select(i => typed[i].Text.Length)], over);
        var hasRoom = to > from || UnheardTalk.HasRoom([.. Enumerable.Range(first, end - first).Select(i => typed[i].Text.Length)], over);
        for (var i = first; i < end; i++)
        {
            var (range, voice) = shares[i - first];
            laid[i] = new LaidWord(typed[i], range, to > from ? Between : NotHeard, -1, voice, hasRoom);
        }
    }

    // A few words that are alike by chance do not part a passage.
    private static List<Misfit> Joined(List<Misfit> misfits, IReadOnlyList<TypedWord> typed, IReadOnlyList<RecordWord> heard)
    {
        var joined = new List<Misfit>();
        foreach (var next in misfits)
        {
            if (joined is [.., var last] && last.Typed == next.Typed && next.First - last.Last - 1 <= ByChance)
            {
                joined[^1] = last with
                {
                    Last = next.Last,
                    Range = new SittingRange(last.Range.In, Latest(last.Range.Out, next.Range.Out)),
                    Said = string.Join(
                        ' ',
                        Enumerable.Range(last.First, next.Last - last.First + 1).Select(i => next.Typed ? typed[i].Text : heard[i].Text)
                    ),
                };
            }
            else
            {
                joined.Add(next);
            }
        }
        return joined;
    }

    // From the end of the word before to the start of the word after; nothing when they touch.
    private static SittingRange Pause(IReadOnlyList<RecordWord> heard, int next)
    {
        var start =
            next > 0 ? heard[next - 1].Range.Out
            : next < heard.Count ? heard[next].Range.In
            : default;
        return new SittingRange(start, next < heard.Count && next > 0 ? Latest(heard[next].Range.In, start) : start);
    }

    private static SittingTime Latest(SittingTime one, SittingTime other) => one > other ? one : other;
}
