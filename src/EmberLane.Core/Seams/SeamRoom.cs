namespace EmberLane.Core.Seams;

/// <summary>
/// The quiet between two words at a cut: from the end of the sound of the one to the begin of the sound of the other. In a dip the room
/// still sounds of the first.
/// </summary>
public readonly record struct SeamRoom(MediaTime From, MediaTime To, bool IsDip)
{
    /// <summary>A shorter quiet (25 ms) is the closing of a consonant, or none; more than so much (0.2 s) is no better.</summary>
    private const int Shortest = 5,
        LongEnough = 40;

    /// <summary>In steps of 5 ms: how far the quiet of the room, the talk, and what stands beside a quiet are listened for.</summary>
    private const int AroundFloor = 1_000,
        AroundTalk = 100,
        Beside = 40;

    /// <summary>In decibels: how far above the quiet of the room something is sound, as a part of what the talk stands above it.</summary>
    private const double Part = 0.22,
        AtLeast = 4,
        AtMost = 10;

    /// <summary>
    /// Between two words the room may still sound of the first: what is less than this part of the way from the softest there to the talk
    /// is a dip. It lies so many decibels at least below what stands at both its sides, is longer than the closing of a consonant, and
    /// near.
    /// </summary>
    private const double PartOfDip = 0.35,
        DepthOfDip = 20,
        DeepEnough = 30;

    private const int ShortestDip = 13,
        DipOutwards = 36,
        DipInwards = 5;

    /// <summary>
    /// What a step is worth that a quiet lies away from the cut: recognisers tell words next to a quiet too short rather than too long, so
    /// that it is looked for outside the piece first.
    /// </summary>
    private const double Outwards = 0.8,
        Inwards = 2;

    /// <summary>How long it is.</summary>
    public MediaTime Length => To - From;

    /// <summary>
    /// The room for a cut at <paramref name="cut"/>, looked for between the middles of the two words that it lies between; null where the
    /// sound does not fall there. A long and deep quiet is preferred, and a near one. <paramref name="isEnd"/> tells whether the piece lies
    /// before the cut.
    /// </summary>
    public static SeamRoom? Find(SeamSound sound, MediaTime cut, MediaTime from, MediaTime to, bool isEnd)
    {
        int first = SeamSound.StepAt(from),
            end = Math.Min(SeamSound.StepAt(to) + 1, sound.Count),
            at = SeamSound.StepAt(cut);
        var (quiet, dip) = Limits(sound, first, end, at);
        return Best(sound, first, end, at, quiet, isEnd, isDip: false) ?? Best(sound, first, end, at, dip, isEnd, isDip: true);
    }

    /// <summary>Below which loudness a sound is quiet around a moment, in decibels.</summary>
    public static double QuietBelow(SeamSound sound, MediaTime at) =>
        SeamSound.StepAt(at) is var step ? Limits(sound, step, step + 1, step).Quiet : 0;

    private static SeamRoom? Best(SeamSound sound, int first, int end, int at, double limit, bool isEnd, bool isDip)
    {
        SeamRoom? best = null;
        var most = double.MinValue;
        for (var step = first; step < end; step++)
        {
            if (sound.At(step) >= limit)
            {
                continue;
            }
            var begin = step;
            while (step < end && IsQuiet(sound, step, limit))
            {
                step++;
            }
            var (outwards, inwards) = isEnd ? Away(begin, step, at) : Turned(Away(begin, step, at));
            if (
                step - begin < (isDip ? ShortestDip : Shortest)
                || (isDip && (Depth(sound, begin, step) < DepthOfDip || outwards > DipOutwards || inwards > DipInwards))
            )
            {
                continue;
            }
            var worth =
                Math.Min(step - begin, LongEnough)
                + Math.Min(Depth(sound, begin, step), DeepEnough)
                - (Outwards * outwards)
                - (Inwards * inwards);
            if (worth > most)
            {
                (most, best) = (worth, new SeamRoom(SeamSound.TimeOf(begin), SeamSound.TimeOf(step), isDip));
            }
        }
        return best;
    }

    private static (int, int) Turned((int One, int Other) two) => (two.Other, two.One);

    // How many steps a quiet begins behind a cut, or ends before it.
    private static (int Before, int Behind) Away(int begin, int end, int at) => (Math.Max(0, begin - at), Math.Max(0, at - end));

    // One step that stands out is a click in the quiet, no word.
    private static bool IsQuiet(SeamSound sound, int step, double limit) =>
        sound.At(step) < limit || (sound.At(step) < limit + 3 && sound.At(step + 1) < limit && sound.At(step - 1) < limit);

    // How far the softest of a quiet lies below the loudest at that of its sides which is softer.
    private static double Depth(SeamSound sound, int begin, int end)
    {
        double softest = double.MaxValue,
            left = 0,
            right = 0;
        for (var step = begin; step < end; step++)
        {
            softest = Math.Min(softest, sound.At(step));
        }
        for (var away = 1; away <= Beside; away++)
        {
            left = Math.Max(left, sound.At(begin - away));
            right = Math.Max(right, sound.At(end - 1 + away));
        }
        // A long quiet at one side is all that there is.
        return end - begin >= LongEnough ? Math.Max(left, right) - softest : Math.Min(left, right) - softest;
    }

    // From which loudness on something is sound around a cut, and from which on it is no dip.
    private static (double Quiet, double Dip) Limits(SeamSound sound, int first, int end, int at)
    {
        double floor = sound.Share(at - AroundFloor, at + AroundFloor, 5),
            talk = sound.Share(Math.Min(first, at - AroundTalk), Math.Max(end, at + AroundTalk), 90),
            softest = talk;
        for (var step = first; step < end; step++)
        {
            softest = Math.Min(softest, (sound.At(step - 1) + sound.At(step) + sound.At(step + 1)) / 3);
        }
        var quiet = floor + Math.Clamp(Part * (talk - floor), AtLeast, AtMost);
        return (quiet, Math.Max(quiet, softest + (PartOfDip * (talk - softest))));
    }
}
