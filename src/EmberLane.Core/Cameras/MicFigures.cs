namespace EmberLane.Core.Cameras;

/// <summary>How loud the mics of a sitting are: for each the mean square of its steps of 10 ms, from a moment of the sitting on.</summary>
public sealed record MicLevels(SittingTime From, IReadOnlyList<float[]> Rows)
{
    /// <summary>How long a step is.</summary>
    public static readonly MediaTime Step = MediaTime.FromMilliseconds(10);

    /// <summary>The step in which a moment lies; below zero before the first.</summary>
    public int StepOf(MediaTime at) => (int)Exact.FloorDivide((at - From.FromZero).Units, Step.Units);
}

/// <summary>
/// What opening mics by a plan does. <see cref="All"/> is how much softer than a voice all other people's mics hear it, in tenths of a
/// decibel (below zero), <see cref="Lower"/> by how much less of it is left with the mics that are open, both in the middle of
/// <see cref="Voices"/> turns of people with a mic of their own; <see cref="Late"/> of <see cref="Openings"/> begin after their voice.
/// </summary>
public sealed record MicFigures(int Voices, int All, int Lower, int Openings, int Late)
{
    /// <summary>What is lowered by more than this (60 dB) is gone.</summary>
    public const int Gone = 600;

    /// <summary>A turn is judged by as many steps in which nobody else speaks.</summary>
    private const int Least = 20;

    /// <summary>So many steps before an opening are looked at.</summary>
    private const int Before = 5;

    /// <summary>A voice is heard there from this under its own level on (20 dB), and this over the mic's floor (10 dB).</summary>
    private const double UnderVoice = 100,
        OverFloor = 10;

    /// <summary>
    /// Of mics whose people are named (the room's are empty), who speaks when, and which mics are open, all on the sitting's clock; null
    /// where no two people have mics of their own, or none of them speaks alone. Linear in steps times mics.
    /// </summary>
    public static MicFigures? Of(
        MicLevels levels,
        IReadOnlyList<string> people,
        IReadOnlyList<PlanTurn> speech,
        IReadOnlyList<OpenMic> open
    )
    {
        var own = people
            .Index()
            .Where(p => p.Item.Length > 0)
            .GroupBy(p => p.Item, StringComparer.OrdinalIgnoreCase)
            .ToDictionary(g => g.Key, g => g.First().Index, StringComparer.OrdinalIgnoreCase);
        if (own.Count < 2 || levels.Rows.Count == 0)
        {
            return null;
        }
        var measured = new Measured(levels, [.. own.Values], speech, own);
        var opened = open.Where(o => own.ContainsKey(o.Who)).ToLookup(o => own[o.Who], o => o.Range);
        var isOpen = own.Values.ToDictionary(mic => mic, mic => measured.Steps(opened[mic]));
        var turns = speech
            .Where(t => own.ContainsKey(t.Who))
            .Select(t => measured.Leaking(own[t.Who], t.Range, isOpen))
            .OfType<(int All, int Lower)>()
            .ToList();
        var late = own
            .Values.SelectMany(mic => PlanRange.Joined(opened[mic]).Skip(1).Select(r => measured.IsLate(mic, levels.StepOf(r.In))))
            .ToList();
        return turns.Count == 0
            ? null
            : new MicFigures(
                turns.Count,
                Middle(turns.Select(t => t.All)),
                Middle(turns.Select(t => t.Lower)),
                late.Count,
                late.Count(l => l)
            );
    }

    private static int Middle(IEnumerable<int> some) => some.Order().ToList() is var all ? all[all.Count / 2] : 0;

    private static int Tenths(double share) => (int)Math.Round(100 * Math.Log10(share));

    private sealed class Measured
    {
        private const int Nobody = -1,
            Several = -2;

        private readonly MicLevels levels;
        private readonly IReadOnlyList<int> mics;
        private readonly int count;

        // Of each step whose mic it is that speaks in it.
        private readonly int[] alone;
        private readonly Dictionary<int, (double Floor, double Voice)> known;

        public Measured(MicLevels levels, IReadOnlyList<int> mics, IReadOnlyList<PlanTurn> speech, Dictionary<string, int> own)
        {
            (this.levels, this.mics, count) = (levels, mics, levels.Rows.Min(r => r.Length));
            alone = new int[count];
            Array.Fill(alone, Nobody);
            // Who has no mic of their own is somebody else all the same.
            foreach (var turn in speech)
            {
                var mic = own.GetValueOrDefault(turn.Who, Several);
                var (first, end) = Within(turn.Range);
                for (var i = first; i < end; i++)
                {
                    alone[i] = alone[i] == Nobody || alone[i] == mic ? mic : Several;
                }
            }
            known = mics.ToDictionary(m => m, m => (Floor(levels.Rows[m]), Voice(m)));
        }

        public bool[] Steps(IEnumerable<PlanRange> ranges)
        {
            var steps = new bool[count];
            foreach (var (first, end) in ranges.Select(Within))
            {
                Array.Fill(steps, true, first, end - first);
            }
            return steps;
        }

        // How much of a voice other mics add to it, all of them, and how much less those that are open.
        public (int All, int Lower)? Leaking(int mic, PlanRange range, Dictionary<int, bool[]> isOpen)
        {
            var (first, end) = Within(range);
            double voice = 0,
                all = 0,
                left = 0;
            var steps = 0;
            for (var i = first; i < end; i++)
            {
                if (alone[i] != mic)
                {
                    continue;
                }
                steps++;
                voice += levels.Rows[mic][i];
                foreach (var other in mics)
                {
                    if (other != mic)
                    {
                        all += levels.Rows[other][i];
                        left += isOpen[other][i] ? levels.Rows[other][i] : 0;
                    }
                }
            }
            return steps < Least || voice <= 0 || all <= 0
                ? null
                : (Tenths(all / voice), left <= 0 ? Gone : Math.Min(Gone, Tenths(all / left)));
        }

        // Whether a voice is there already before its mic opens: loud in it, louder than in the others.
        public bool IsLate(int mic, int opens)
        {
            var (floor, voice) = known[mic];
            for (var i = Math.Max(0, opens - Before); i < Math.Min(opens, count); i++)
            {
                var heard = levels.Rows[mic][i];
                if (heard > voice / UnderVoice && heard > floor * OverFloor && mics.All(m => m == mic || levels.Rows[m][i] < heard))
                {
                    return true;
                }
            }
            return false;
        }

        private (int First, int End) Within(PlanRange range)
        {
            var first = Math.Clamp(levels.StepOf(range.In), 0, count);
            return (first, Math.Clamp(levels.StepOf(range.Out), first, count));
        }

        // What its softest fifth stays under, in steps of a decibel.
        private static double Floor(float[] row)
        {
            var counts = new int[128];
            foreach (var value in row)
            {
                counts[(int)Math.Clamp(10 * Math.Log10(value + 1), 0, counts.Length - 1)]++;
            }
            int level = 0,
                seen = counts[0];
            while (level < counts.Length - 1 && seen < row.Length / 5)
            {
                seen += counts[++level];
            }
            return Math.Pow(10, (level + 1) / 10.0);
        }

        private double Voice(int mic)
        {
            double sum = 0;
            var steps = 0;
            for (var i = 0; i < count; i++)
            {
                if (alone[i] == mic)
                {
                    sum += levels.Rows[mic][i];
                    steps++;
                }
            }
            return steps == 0 ? double.MaxValue : sum / steps;
        }
    }
}
