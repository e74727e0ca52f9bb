namespace EmberLane.Core.Voices;

/// <content>What of a voice reaches the mics of others: how much, who speaks for all that, and what is only cloth.</content>
public static partial class MicDiarisation
{
    // How much of each person's power at the own mic reaches each worn mic: by the middle of all steps in which that person leads and the
    // other mic is not switched off.
    private static double[][] Bleed(double[][] levels, double[] floors, Dictionary<int, List<int>> leads, List<int> worn) =>
        [
            .. worn.Select(from =>
                worn.Select(to =>
                        from == to
                            ? 1
                            : Math.Min(
                                0.5,
                                Median(
                                    leads[from]
                                        .Where(i => levels[from][i] > 0 && Decibel(levels[to][i]) > Silent)
                                        .Select(i => Math.Max(0, levels[to][i] - floors[to]) / levels[from][i])
                                )
                            )
                    )
                    .ToArray()
            ),
        ];

    // The power at the mouth of one whose mic has dropped out, when all other mics tell of about the same.
    private static double? Bled(int without, double[] heard, double[] near, double[][] bleed)
    {
        double least = double.PositiveInfinity,
            most = 0;
        for (var o = 0; o < heard.Length; o++)
        {
            if (o != without && bleed[without][o] > 0)
            {
                var power = heard[o] / bleed[without][o];
                (least, most) = (Math.Min(least, power), Math.Max(most, power));
            }
        }
        return
            most > 0
            && Decibel(most) - Decibel(least) <= SameBleed
            && Decibel(least / near[without]) is var level
            && level > -2 * Softest
            && level <= Louder
            ? least
            : null;
    }

    // What each mic hears is its own person and the bleed of the others; solved by going round, since bleed is small.
    private static void Unmix(double[] heard, double[] mouths, double[][] bleed)
    {
        for (var round = 0; round < Rounds; round++)
        {
            for (var w = 0; w < mouths.Length; w++)
            {
                double others = 0;
                for (var o = 0; o < mouths.Length; o++)
                {
                    others += o == w ? 0 : bleed[o][w] * mouths[o];
                }
                mouths[w] = Math.Max(0, heard[w] - others);
            }
        }
    }

    private static bool Rubbed(int w, double[] heard, bool[] off, double[] mouths, double[] floors, List<int> worn, double[][] bleed)
    {
        var told = false;
        for (var o = 0; o < heard.Length; o++)
        {
            var expected = bleed[w][o] * mouths[w];
            // Only a mic that is on and would have to hear it well above its own floor can tell.
            if (o == w || off[o] || expected < 4 * floors[worn[o]])
            {
                continue;
            }
            if (Decibel(expected / Math.Max(heard[o], floors[worn[o]] / 10)) < RubbedFrom)
            {
                return false;
            }
            told = true;
        }
        return told;
    }
}
