using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Parts;
using EmberLane.Core.Tidy;

namespace EmberLane.Bench;

/// <summary>
/// Made sittings of joined topics: how far the borders that are proposed lie from the true ones, beside as many evenly spaced ones and the
/// plain published method (blocks of words compared; Hearst, 1997). WindowDiff (Pevzner and Hearst, 2002) and Pk (Beeferman and others,
/// 1999): shares of places that are told wrongly, less is better. One half is for tuning.
/// </summary>
internal static class PartsBench
{
    private const int Sittings = 60,
        Shared = 400,
        Own = 70,
        Topics = 40;

    public static void Run()
    {
        Show("the half that is tuned on", 0);
        Show("the half that is reported", 1_000);
    }

    private static void Show(string what, int seed)
    {
        double[] ours = [0, 0],
            even = [0, 0],
            plain = [0, 0],
            told = [0, 0];
        int parts = 0,
            found = 0;
        for (var n = 0; n < Sittings; n++)
        {
            var (talk, truth) = Made(seed + n);
            var units = TalkUnits.Of(talk, "en");
            var begins = truth.Select(t => units.Units.Index().First(u => u.Item.First >= t).Index).ToList();
            var proposed = LikelyParts.Of(units);
            parts += begins.Count;
            found += proposed.Count;
            Add(ours, begins, proposed, units.Units.Count);
            Add(even, begins, [.. Enumerable.Range(0, begins.Count).Select(i => i * units.Units.Count / begins.Count)], units.Units.Count);
            Add(plain, begins, Blocks(units, null), units.Units.Count);
            Add(told, begins, Blocks(units, begins.Count), units.Units.Count);
        }
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"parts, {what}: {parts} in {Sittings} sittings, {found} proposed; WindowDiff and Pk {ours[0] / Sittings:0.0%} and "
                    + $"{ours[1] / Sittings:0.0%}; evenly spaced {even[0] / Sittings:0.0%} and {even[1] / Sittings:0.0%}; blocks of words "
                    + $"compared {plain[0] / Sittings:0.0%} and {plain[1] / Sittings:0.0%}, told how many parts there are "
                    + $"{told[0] / Sittings:0.0%} and {told[1] / Sittings:0.0%}"
            )
        );
    }

    private static void Add(double[] to, List<int> truth, IReadOnlyList<int> proposed, int units)
    {
        var k = Math.Max(2, units / truth.Count / 2);
        bool[] real = Marked(truth, units),
            told = Marked(proposed, units);
        int wrongWindows = 0,
            wrongPairs = 0;
        for (var i = 0; i + k < units; i++)
        {
            int inReal = real.AsSpan(i + 1, k).Count(true),
                inTold = told.AsSpan(i + 1, k).Count(true);
            wrongWindows += inReal != inTold ? 1 : 0;
            wrongPairs += inReal > 0 != inTold > 0 ? 1 : 0;
        }
        to[0] += (double)wrongWindows / (units - k);
        to[1] += (double)wrongPairs / (units - k);
    }

    private static bool[] Marked(IEnumerable<int> begins, int units)
    {
        var marked = new bool[units];
        foreach (var begin in begins.Where(b => b > 0))
        {
            marked[begin] = true;
        }
        return marked;
    }

    // The plain method: the words of so many units before a gap and behind it compared by the angle between their counts; borders are where
    // the valley is deeper than its mean less half a deviation.
    private static List<int> Blocks(TalkUnits talk, int? parts)
    {
        const int block = 10;
        var units = talk.Units;
        var scores = new double[units.Count];
        for (var gap = 1; gap < units.Count; gap++)
        {
            var before = Counts(Math.Max(0, gap - block), gap);
            var behind = Counts(gap, Math.Min(units.Count, gap + block));
            var product = before.Sum(b => (double)b.Value * behind.GetValueOrDefault(b.Key));
            var lengths = Math.Sqrt(before.Values.Sum(v => (double)v * v) * behind.Values.Sum(v => (double)v * v));
            scores[gap] = lengths == 0 ? 0 : product / lengths;
        }
        scores[0] = units.Count > 1 ? scores[1] : 0;
        var smooth = scores.Select((_, i) => scores[Math.Max(0, i - 1)..Math.Min(scores.Length, i + 2)].Average()).ToArray();
        var depths = smooth.Select((s, i) => Peak(smooth, i, -1) + Peak(smooth, i, 1) - (2 * s)).ToArray();
        var mean = depths.Average();
        var cut = mean - (Math.Sqrt(depths.Average(d => (d - mean) * (d - mean))) / 2);
        var valleys = Enumerable
            .Range(1, Math.Max(0, units.Count - 2))
            .Where(gap => smooth[gap] <= smooth[gap - 1] && smooth[gap] < smooth[gap + 1]);
        return
        [
            0,
            .. parts is { } known
                ? valleys.OrderByDescending(gap => depths[gap]).Take(known - 1).Order()
                : valleys.Where(gap => depths[gap] > cut),
        ];

        Dictionary<int, int> Counts(int from, int to) =>
            Enumerable.Range(from, to - from).SelectMany(u => units[u].Terms).CountBy(t => t).ToDictionary();

        static double Peak(double[] of, int at, int step)
        {
            var peak = of[at];
            for (var i = at + step; i >= 0 && i < of.Length && of[i] >= peak; i += step)
            {
                peak = of[i];
            }
            return peak;
        }
    }

    // Talk of some topics one behind the other: a third of its words are the topic's own, some are of any, one of twelve is misheard.
    private static (Talk Talk, List<int> Begins) Made(int seed)
    {
        var random = new Random(seed);
        var words = FindBench.MadeWords(new Random(7), Shared + (Own * Topics));
        var talk = new List<TalkWord>();
        var begins = new List<int>();
        var clock = 0L;
        foreach (var topic in Enumerable.Range(0, Topics).OrderBy(_ => random.Next()).Take(random.Next(4, 11)))
        {
            begins.Add(talk.Count);
            var own = words.AsSpan(Shared + (topic * Own), Own).ToArray();
            clock += random.Next(3) == 0 ? random.Next(1_000, 4_000) : 0;
            if (random.Next(10) < 7)
            {
                Say(1, own, "?");
            }
            var sentences = random.Next(12, 60);
            for (var s = 0; s < sentences; s++)
            {
                if (random.Next(9) == 0)
                {
                    Say(1, own, random.Next(3) == 0 ? "." : "?");
                }
                clock += random.Next(14) == 0 ? random.Next(1_000, 3_000) : random.Next(80, 400);
                Say(0, own, ".");
            }
        }
        return (new Talk(talk), begins);

        void Say(int voice, string[] own, string stop)
        {
            var length = random.Next(5, 15);
            for (var w = 0; w < length; w++)
            {
                var word =
                    random.Next(12) == 0 ? words[random.Next(words.Length)]
                    : random.Next(6) == 0 ? Skewed(own)
                    : random.Next(2) == 0 ? Skewed(words[..Shared])
                    : Plain[random.Next(Plain.Length)];
                talk.Add(new TalkWord(word + (w == length - 1 ? stop : ""), At(clock), At(clock + 300), voice));
                clock += 340;
            }
        }

        string Skewed(string[] of) => of[(int)(of.Length * random.NextDouble() * random.NextDouble())];

        static MediaTime At(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);
    }

    private static readonly string[] Plain = "the and a of in it was to they we had but with for on that there".Split(' ');
}
