namespace EmberLane.Core.Tidy;

/// <summary>What was said that no line of the script has.</summary>
public static class UnscriptedTalk
{
    /// <summary>Fewer words than this are a “yes”, or a slip.</summary>
    private const int Least = 4;

    /// <summary>
    /// The stretches of a talk, from the first take of any line to the last one, that lie in no take, each of one voice: the places of the
    /// first and last word. Linear in the words and the takes.
    /// </summary>
    public static IReadOnlyList<(int First, int Last)> Of(Talk talk, IReadOnlyList<MatchedLine> lines)
    {
        var taken = new bool[talk.Words.Count];
        int first = talk.Words.Count,
            last = -1;
        foreach (var take in lines.SelectMany(l => l.Takes))
        {
            Array.Fill(taken, true, take.First, take.Last - take.First + 1);
            (first, last) = (Math.Min(first, take.First), Math.Max(last, take.Last));
        }
        var extra = new List<(int First, int Last)>();
        for (var i = first; i <= last; i++)
        {
            if (taken[i])
            {
                continue;
            }
            var from = i;
            while (i + 1 <= last && !taken[i + 1] && talk.Words[i + 1].Voice == talk.Words[from].Voice)
            {
                i++;
            }
            if (i - from + 1 >= Least)
            {
                extra.Add((from, i));
            }
        }
        return extra;
    }
}
