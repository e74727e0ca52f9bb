namespace EmberLane.Core.Tidy;

/// <summary>A first bite around a moment: so long before and behind it, fitted to whole sentences.</summary>
public static class AroundMoment
{
    /// <summary>So much is taken before and behind the moment at first, and a sentence may go so much farther.</summary>
    private static readonly MediaTime Reach = MediaTime.FromMilliseconds(15_000),
        Farther = MediaTime.FromMilliseconds(5_000);

    /// <summary>
    /// The places of the first and last word; null where nothing is said near the moment. Linear in the words around it.
    /// </summary>
    public static (int First, int Last)? Of(Talk talk, MediaTime at)
    {
        var within = Enumerable
            .Range(0, talk.Words.Count)
            .Where(i => talk.Words[i].Out > at - Reach && talk.Words[i].In < at + Reach)
            .ToList();
        if (within.Count == 0)
        {
            return null;
        }
        int first = within[0],
            last = within[^1];
        // To where a sentence begins: a little farther back, else the next one.
        var begins = Back(first);
        begins ??= Enumerable.Range(first, last - first + 1).Select(i => (int?)i).FirstOrDefault(i => Begins(talk, i!.Value));
        var ends = On(last);
        ends ??= Enumerable.Range(first, last - first + 1).Reverse().Select(i => (int?)i).FirstOrDefault(i => Ends(talk, i!.Value));
        return (begins ?? first, Math.Max(begins ?? first, ends ?? last));

        int? Back(int from)
        {
            for (var i = from; i >= 0 && talk.Words[from].In - talk.Words[i].In <= Farther; i--)
            {
                if (Begins(talk, i))
                {
                    return i;
                }
            }
            return null;
        }

        int? On(int from)
        {
            for (var i = from; i < talk.Words.Count && talk.Words[i].Out - talk.Words[from].Out <= Farther; i++)
            {
                if (Ends(talk, i))
                {
                    return i;
                }
            }
            return null;
        }
    }

    private static bool Begins(Talk talk, int place) => place == 0 || Ends(talk, place - 1) || talk.Begins(place);

    private static bool Ends(Talk talk, int place) =>
        place == talk.Words.Count - 1 || talk.Words[place].EndsSentence || talk.Words[place + 1].Voice != talk.Words[place].Voice;
}
