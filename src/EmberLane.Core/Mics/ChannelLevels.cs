namespace EmberLane.Core.Mics;

/// <summary>
/// Listens to the channels of one file for what tells a worn mic from a hung one. Cost grows with length times channels; energies in, no
/// sound kept.
/// </summary>
public static class ChannelLevels
{
    /// <summary>Levels are taken over this many 10 ms steps, about a syllable.</summary>
    private const int Syllable = 20;

    private const decimal Silence = -120;

    /// <summary>Two channels whose levels stay this close, in dB, hold the same sound.</summary>
    private const double SameWithin = 0.75;

    /// <summary>
    /// The level of full scale in the unit of <see cref="Speech.SilenceSegmenter.Energy"/>: the mean square of 16-bit samples.
    /// </summary>
    private static readonly double FullScale = 20 * Math.Log10(32768);

    /// <summary>
    /// What each channel sounds like, from the mean square of its 10 ms steps; all rows of one length. Speech is taken to be where the
    /// loudest channel, each against its own floor, stands out by 10 dB or more.
    /// </summary>
    public static IReadOnlyList<ChannelSound> Of(IReadOnlyList<float[]> channels)
    {
        var levels = channels.Select(Levels).ToList();
        var count = levels.Count == 0 ? 0 : levels.Min(l => l.Length);
        var floors = levels.Select(l => Share([.. l], 10)).ToArray();
        var spoken = Enumerable.Range(0, count).Where(i => levels.Select((l, c) => l[i] - floors[c]).Max() >= 10).ToList();
        var found = new List<ChannelSound>();
        for (var c = 0; c < levels.Count; c++)
        {
            var all = spoken.Select(i => levels[c][i]).ToArray();
            if (levels[c].Length == 0)
            {
                found.Add(new ChannelSound(Silence, 0, null));
                continue;
            }
            double loud = all.Length == 0 ? Share([.. levels[c]], 90) : Share(all, 90),
                soft = all.Length == 0 ? loud : Share(all, 15);
            int? same = Enumerable.Range(0, c).Where(o => Alike(levels[o], levels[c], count)).Select(o => (int?)o).FirstOrDefault();
            found.Add(new ChannelSound(Tenths(Math.Max(loud - FullScale, (double)Silence)), Tenths(loud - soft), same));
        }
        return found;
    }

    private static double[] Levels(float[] energy)
    {
        var levels = new double[(energy.Length + Syllable - 1) / Syllable];
        for (var i = 0; i < levels.Length; i++)
        {
            var part = energy.AsSpan(i * Syllable, Math.Min(Syllable, energy.Length - (i * Syllable)));
            double sum = 0;
            foreach (var e in part)
            {
                sum += e;
            }
            levels[i] = 10 * Math.Log10((sum / part.Length) + 1e-3);
        }
        return levels;
    }

    private static bool Alike(double[] one, double[] other, int count)
    {
        var apart = new double[count];
        for (var i = 0; i < count; i++)
        {
            apart[i] = Math.Abs(one[i] - other[i]);
        }
        return count > 0 && Share(apart, 95) < SameWithin;
    }

    private static double Share(double[] values, int percent)
    {
        Array.Sort(values);
        return values.Length == 0 ? 0 : values[Math.Min(values.Length - 1, values.Length * percent / 100)];
    }

    private static decimal Tenths(double decibel) => Math.Round((decimal)decibel, 1);
}
