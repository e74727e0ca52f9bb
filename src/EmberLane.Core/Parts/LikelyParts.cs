namespace EmberLane.Core.Parts;

/// <summary>
/// The parts into which a talk most likely falls: each is told by words of its own, and so is the dearer the more its words differ (the
/// statistical model of Utiyama and Isahara, 2001, of which the cheapest path is found); a border costs less behind a pause and where
/// somebody asks. There is no number of parts to be chosen.
/// </summary>
public static class LikelyParts
{
    /// <summary>What a border costs, in logarithms of the number of all words said; and the share of it that a question, and a pause of a
    /// second or more, take away. Chosen on the first half of `./ember bench parts`.</summary>
    private const double Border = 3.0,
        ForQuestion = 0.35,
        ForPause = 0.25;

    /// <summary>From so many seconds on a pause counts fully.</summary>
    private const int LongPause = 2;

    /// <summary>A part has at least so many units, and at most so many.</summary>
    private const int Fewest = 4,
        Most = 800;

    /// <summary>
    /// The units with which parts begin, the first of all among them; none where there are no units. Cost is the product of the units and
    /// the longest part that is looked at.
    /// </summary>
    public static IReadOnlyList<int> Of(TalkUnits talk)
    {
        var units = talk.Units;
        if (units.Count == 0)
        {
            return [];
        }
        var all = units.Sum(u => u.Terms.Count);
        var border = Border * Math.Log(Math.Max(2, all));
        var cost = new double[units.Count + 1];
        var from = new int[units.Count + 1];
        Array.Fill(cost, double.PositiveInfinity);
        cost[0] = 0;
        var counts = new int[talk.Terms.Count];
        for (var begin = 0; begin < units.Count; begin++)
        {
            if (double.IsPositiveInfinity(cost[begin]))
            {
                continue;
            }
            var before = cost[begin] + (begin == 0 ? 0 : border * (1 - Eased(units, begin)));
            var said = 0;
            var own = 0.0;
            var last = Math.Min(units.Count, begin + Most);
            for (var end = begin; end < last; end++)
            {
                foreach (var term in units[end].Terms)
                {
                    var times = counts[term]++;
                    own += ((times + 1) * Math.Log(times + 2)) - (times * Math.Log(times + 1));
                    said++;
                }
                var length = end + 1 - begin;
                if ((length < Fewest && end + 1 < units.Count) || (units.Count - end - 1 is > 0 and < Fewest))
                {
                    continue;
                }
                var here = before + (said * Math.Log(said + talk.Terms.Count)) - own;
                if (here < cost[end + 1])
                {
                    (cost[end + 1], from[end + 1]) = (here, begin);
                }
            }
            for (var end = begin; end < last; end++)
            {
                foreach (var term in units[end].Terms)
                {
                    counts[term] = 0;
                }
            }
        }
        var begins = new List<int>();
        for (var at = units.Count; at > 0; at = from[at])
        {
            begins.Add(from[at]);
        }
        begins.Reverse();
        return begins;
    }

    // How much of a border's cost the talk itself takes away: somebody asks there who did not speak before, or nobody speaks.
    private static double Eased(IReadOnlyList<TalkUnit> units, int begin)
    {
        var unit = units[begin];
        var asks =
            unit.Voice != units[begin - 1].Voice
            && (unit.Asks || (begin + 1 < units.Count && units[begin + 1].Asks && units[begin + 1].Voice == unit.Voice));
        var pause = Math.Min(1.0, (double)unit.PauseBefore.Units / (LongPause * MediaTime.UnitsPerSecond));
        return (asks ? ForQuestion : 0) + (ForPause * pause);
    }
}
