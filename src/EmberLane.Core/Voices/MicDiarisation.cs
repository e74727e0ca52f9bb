using EmberLane.Core.Signal;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// Who speaks, from the loudness of several mics of which some are worn. A voice reaches its own mic near and all others as bleed, so the
/// powers at the mics are unmixed into powers at the mouths; a mic that is rubbed is loud where nobody else hears anything; whoever is
/// heard by no worn mic as near is the room's.
/// </summary>
public static partial class MicDiarisation
{
    /// <summary>
    /// A mic counts as worn when its level over a syllable spreads by so many dB while anybody speaks: talk itself spreads by about 12,
    /// bleed adds 15 and more. Less is enough for the mic of somebody who speaks most of the time, when it lies now far above and now far
    /// below another worn one: that takes two people with a mic each. Measured on the demonstration: lavs 26 to 34, booms 10 to 13.
    /// </summary>
    private const double WornFrom = 20,
        WornBeside = 14,
        ApartFrom = 30;

    /// <summary>Levels are smoothed over this many steps to both sides, and for spreads over a syllable.</summary>
    private const int Around = 4,
        Syllable = 15;

    /// <summary>
    /// In dB: how far above its floor a mic hears talk; how far below its usual near loudness a person may speak; how far the near voice
    /// must pass what bleeds in.
    /// </summary>
    private const double AboveFloor = 9,
        Softest = 17,
        AboveBleed = 4;

    /// <summary>A voice that bleeds into no other mic by this many dB less than usual is no voice but a hand on the cloth.</summary>
    private const double RubbedFrom = 9;

    /// <summary>
    /// A mic without signal, in dB, has dropped out. Whoever speaks then is its person when all other mics hear it as they do that person,
    /// within so many dB, at most so much louder than usual; and that is never quite sure.
    /// </summary>
    private const double Silent = -10,
        SameBleed = 9,
        Louder = 9,
        SureWithout = 0.8;

    private const int Rounds = 8,
        LeastLead = 100,
        LeastRoom = 150;

    /// <summary>
    /// Mean squares of 10 ms steps, a row a mic, all of one length (<see cref="Speech.SilenceSegmenter.Energy"/>). Rows of the answer are
    /// <c>mic N</c> for each worn mic by its place, from 1, and <c>room</c> when somebody is heard that no worn mic is near to. Null when
    /// no mic stands out as worn: then loudness does not tell. Cost grows with steps times the square of the mics.
    /// </summary>
    public static VoiceChances? Of(IReadOnlyList<float[]> mics)
    {
        var steps = mics.Count == 0 ? 0 : mics.Min(m => m.Length);
        if (mics.Count < 2 || steps == 0)
        {
            return null;
        }
        mics = [.. mics.Select(SwitchedOff.Silenced)];
        var levels = mics.Select(m => Smoothed(m, steps, Around)).ToArray();
        var floors = levels.Select(Floor).ToArray();
        var talk = Enumerable
            .Range(0, steps)
            .Where(i => Enumerable.Range(0, mics.Count).Any(m => Above(levels[m][i], floors[m]) >= AboveFloor))
            .ToArray();
        var worn = Worn(mics, steps, talk);
        if (worn.Count == 0 || talk.Length < LeastLead)
        {
            return null;
        }
        var bars = Bars(levels, talk, worn);
        var leads = Leads(levels, talk, bars);
        worn = [.. worn.Where(m => leads[m].Count >= LeastLead)];
        if (worn.Count == 0)
        {
            return null;
        }
        var near = worn.Select(m => Median(leads[m].Select(i => levels[m][i]))).ToArray();
        var bleed = Bleed(levels, floors, leads, worn);
        var hung = worn.Select(m => bars[m].Where(b => !worn.Contains(b.Other)).ToList()).ToList();
        var rows = Chances(levels, floors, worn, near, bleed, hung, steps);
        var room = Room(levels, floors, rows, steps);
        var labels = worn.Select(VoiceChances.NearMic).ToList();
        return room.Count(c => c >= 0.5f) >= LeastRoom
            ? new VoiceChances([.. labels, "room"], [.. rows, room])
            : new VoiceChances(labels, rows);
    }

    private static List<int> Worn(IReadOnlyList<float[]> mics, int steps, int[] talk)
    {
        var levels = mics.Select(m => Smoothed(m, steps, Syllable))
            .Select(level => talk.Select(i => Decibel(level[i])).ToArray())
            .ToArray();
        var spreads = levels.Select(l => Range(l.Where(Heard), 10, 95)).ToArray();
        var worn = Enumerable.Range(0, mics.Count).Where(m => spreads[m] >= WornFrom).ToList();
        return
        [
            .. Enumerable
                .Range(0, mics.Count)
                .Where(m =>
                    worn.Contains(m)
                    || (
                        spreads[m] >= WornBeside
                        && worn.Any(o =>
                            Range(
                                levels[m].Zip(levels[o]).Where(p => Heard(p.First) && Heard(p.Second)).Select(p => p.First - p.Second),
                                3,
                                97
                            ) >= ApartFrom
                        )
                    )
                ),
        ];

        static bool Heard(double decibel) => decibel > Silent;
    }

    // From the value that so many of a hundred stay below to the one that so many do.
    private static double Range(IEnumerable<double> values, int low, int high)
    {
        var all = values.ToArray();
        return Percentile.Of(all, high) - Percentile.Of(all, low);
    }

    // For each worn mic, how far it must lie above every other mic for its person to be the one who speaks: the middle of how far the two
    // ever lie apart.
    private static Dictionary<int, List<(int Other, double Bar)>> Bars(double[][] levels, int[] talk, List<int> worn) =>
        worn.ToDictionary(
            m => m,
            m =>
                Enumerable
                    .Range(0, levels.Length)
                    .Where(o => o != m)
                    .Select(o =>
                    {
                        var apart = talk.Where(i => levels[m][i] > 0 && levels[o][i] > 0)
                            .Select(i => Decibel(levels[m][i] / levels[o][i]))
                            .ToArray();
                        const double never = double.NegativeInfinity;
                        return (o, (Percentile.Of(apart, 2, never) + Percentile.Of(apart, 98, never)) / 2);
                    })
                    .ToList()
        );

    private static Dictionary<int, List<int>> Leads(double[][] levels, int[] talk, Dictionary<int, List<(int Other, double Bar)>> bars) =>
        bars.ToDictionary(
            m => m.Key,
            m => talk.Where(i => m.Value.All(b => Decibel(levels[m.Key][i] / Math.Max(levels[b.Other][i], 1e-9)) > b.Bar)).ToList()
        );

    private static List<float[]> Chances(
        double[][] levels,
        double[] floors,
        List<int> worn,
        double[] near,
        double[][] bleed,
        List<List<(int Other, double Bar)>> hung,
        int steps
    )
    {
        var rows = worn.Select(_ => new float[steps]).ToList();
        double[] heard = new double[worn.Count],
            mouths = new double[worn.Count];
        var off = new bool[worn.Count];
        for (var i = 0; i < steps; i++)
        {
            var without = -1;
            for (var w = 0; w < heard.Length; w++)
            {
                var level = levels[worn[w]][i];
                heard[w] = mouths[w] = Math.Max(0, level - floors[worn[w]]);
                off[w] = Decibel(level) <= Silent;
                without = off[w] ? w : without;
            }
            if (without >= 0 && Bled(without, heard, near, bleed) is { } power)
            {
                rows[without][i] = (float)(SureWithout * Soft(power / near[without]));
                continue;
            }
            Unmix(heard, mouths, bleed);
            for (var w = 0; w < heard.Length; w++)
            {
                double from = heard[w] - mouths[w],
                    clear = Decibel(heard[w] / Math.Max(from, floors[worn[w]] / 4));
                var chance = Soft(mouths[w] / near[w]) * Sigmoid((clear - AboveBleed) / 1.5);
                // A hung mic hears everybody alike; whoever wears one passes it.
                foreach (var (other, bar) in hung[w])
                {
                    chance *= Sigmoid((Decibel(levels[worn[w]][i] / Math.Max(levels[other][i], 1e-9)) - bar) / 1.5);
                }
                rows[w][i] = (float)(Rubbed(w, heard, off, mouths, floors, worn, bleed) ? chance / 10 : chance);
            }
        }
        return rows;
    }

    private static double Soft(double share) => Sigmoid((Decibel(share) + Softest) / 2);

    // Somebody speaks, since the mics stand above their floors, and it is nobody who wears one.
    private static float[] Room(double[][] levels, double[] floors, List<float[]> rows, int steps)
    {
        var room = new float[steps];
        for (var i = 0; i < steps; i++)
        {
            var loudest = Enumerable.Range(0, levels.Length).Max(m => Above(levels[m][i], floors[m]));
            var others = rows.Max(r => r[i]);
            room[i] = (float)(Sigmoid((loudest - AboveFloor) / 1.5) * (1 - others));
        }
        // Short remains at the edges of the others' words are echo.
        foreach (var echo in StepRuns.Of(steps, i => room[i] >= 0.5f).Joined(10).Runs.Where(r => r.Count < 40))
        {
            foreach (var i in echo.Steps)
            {
                room[i] *= 0.5f;
            }
        }
        return room;
    }

    private static double[] Smoothed(float[] energy, int steps, int around)
    {
        var smooth = new double[steps];
        double sum = 0;
        for (var i = 0; i < steps + around; i++)
        {
            sum += i < steps ? energy[i] : 0;
            sum -= i > 2 * around ? energy[i - (2 * around) - 1] : 0;
            if (i >= around)
            {
                smooth[i - around] = Math.Max(0, sum / ((2 * around) + 1));
            }
        }
        return smooth;
    }

    // A mic that is switched off for a while has no floor there.
    private static double Floor(double[] level) => Percentile.Of(level.Where(l => l >= 0.5), 10, whenEmpty: 1);

    private static double Above(double level, double floor) => Decibel(level / floor);

    private static double Decibel(double power) => 10 * Math.Log10(power + 1e-12);

    private static double Sigmoid(double x) => 1 / (1 + Math.Exp(-x));

    private static double Median(IEnumerable<double> values) => Percentile.Of(values, 50);
}
