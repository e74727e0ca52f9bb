using EmberLane.Core.Signal;

namespace EmberLane.Core.Speech;

/// <summary>
/// Finds what is said in one go: the stretches of speech between pauses. A recogniser that is given one at a time can take the sound of
/// exactly this voice, in this room, as its measure.
/// </summary>
public static class VoiceActivity
{
    /// <summary>
    /// All in 10 ms steps: a pause that parts two utterances, room left before and after, the shortest that stands alone, how far it may be
    /// from its neighbour to join it, and the longest.
    /// </summary>
    private const int Pause = 20,
        Margin = 12,
        Short = 100,
        Beside = 60,
        Longest = 1_000;

    /// <summary>
    /// From so likely on speech begins, and down to so likely it goes on: in noisy rooms more would miss speech than fewer invent it.
    /// </summary>
    private const float Begins = 0.2f,
        GoesOn = 0.1f;

    /// <summary>
    /// In steps: a pause that belongs to speech, how late the network is at begins and ends, how far an edge is looked for.
    /// </summary>
    private const int Closure = 10,
        Early = 2,
        Late = 6,
        Near = 12;

    /// <summary>
    /// So many dB must speech stand above the room's quiet for its edges to be taken by loudness, and this share of the way up they lie.
    /// </summary>
    private const double Clear = 30,
        EdgeShare = 0.3;

    /// <summary>Speech is what passes this share of the way from the quiet (10th percentile) to the loud (95th) in decibels.</summary>
    private const double Share = 0.35;

    /// <summary>
    /// Talk stands clear of what else sounds when its middle loudness passes that of all other steps by so many dB; told where there are so
    /// many others, or in so short a sound that nothing needs to be between words.
    /// </summary>
    private const double StandsOut = 8;

    private const int LeastOthers = 100,
        ShortSound = 6_000;

    /// <summary>
    /// Speech may be this much softer than the loudest, in decibels, also where there is hardly any pause to tell the quiet by.
    /// </summary>
    private const double Softest = 15;

    /// <summary>
    /// What is said in one go, from where somebody speaks (in order and apart) and the energies of the same steps
    /// (<see cref="SilenceSegmenter.Energy"/>): stretches with a little room around them, in order, apart, none longer than 10 s. Longer
    /// ones are cut where they are quiet.
    /// </summary>
    public static IReadOnlyList<StepRange> Utterances(IReadOnlyList<StepRange> speech, ReadOnlySpan<float> energy)
    {
        var spoken = new List<StepRange>();
        foreach (var stretch in Join(new StepRuns(speech).Joined(Pause - 1).Runs, energy.Length))
        {
            var part = energy[stretch.Within];
            spoken.AddRange(
                SilenceSegmenter
                    .Plan(part, Longest / 2, Longest)
                    .Select(p => new StepRange(stretch.First + p.First.Value, stretch.First + p.End.Value))
            );
        }
        return spoken;
    }

    /// <summary>
    /// Where somebody speaks, from how likely that is in each step (<c>SpeechNetwork</c>) and the steps' energies, both of one length; in
    /// order and apart. What is likely decides that there is speech; where it stands clear of the room's quiet, loudness says to the step
    /// where it begins and ends. Pauses of at most 0.1 s belong to it. Linear in the steps.
    /// </summary>
    public static IReadOnlyList<StepRange> Speech(ReadOnlySpan<float> chances, ReadOnlySpan<float> energy)
    {
        var loud = Loudness(energy);
        var runs = new List<StepRange>();
        var speaking = false;
        for (var i = 0; i < chances.Length; i++)
        {
            speaking = chances[i] >= (speaking ? GoesOn : Begins);
            if (speaking && runs is [.., var last] && i - last.End.Value <= Closure)
            {
                runs[^1] = last with { End = new Step(i + 1) };
            }
            else if (speaking)
            {
                runs.Add(StepRange.Of(i, i + 1));
            }
        }
        var clear = ClearOf(loud, runs);
        return Apart([.. runs.Select(r => Edged(r, loud, clear)).Where(r => r.Count > 0)]);
    }

    /// <summary>
    /// Whether the talk stands clear of music, a machine or a crowd that sounds all the while, from where somebody speaks and the energies
    /// of the steps: voices are hard to tell apart where it does not.
    /// </summary>
    public static bool StandsClear(IReadOnlyList<StepRange> speech, ReadOnlySpan<float> energy)
    {
        var loud = Loudness(energy);
        var spoken = new bool[loud.Length];
        foreach (var step in speech.SelectMany(s => s.Steps).Where(s => s < spoken.Length))
        {
            spoken[step] = true;
        }
        var others = loud.Where((_, i) => !spoken[i]).ToList();
        return others.Count < LeastOthers
            ? loud.Length < ShortSound
            : Percentile.Of(loud.Where((_, i) => spoken[i]), 50) - Percentile.Of(others, 50) >= StandsOut;
    }

    // The loudness that speech passes wherever it is, when the room is so much quieter that it tells; null when it does not.
    private static double? ClearOf(double[] loud, List<StepRange> runs)
    {
        if (runs.Count == 0)
        {
            return null;
        }
        double speech = Percentile.Of(runs.SelectMany(r => r.Steps).Select(i => loud[i]), 80),
            quiet = Percentile.Of(loud, 10);
        return speech - quiet >= Clear ? quiet + (EdgeShare * (speech - quiet)) : null;
    }

    // The network hears a word's begin late by 20 ms and its end late by 60; loudness moves both to where it is crossed near there.
    private static StepRange Edged(StepRange run, double[] loud, double? clear)
    {
        int first = Math.Max(0, run.First.Value - Early),
            end = Math.Max(first, run.End.Value - Late);
        if (clear is not { } least)
        {
            return StepRange.Of(first, end);
        }
        int from = Math.Max(0, first - Near),
            to = Math.Min(loud.Length, end + Near);
        while (from < first + Near && from < end && loud[from] < least)
        {
            from++;
        }
        while (to > end - Near && to > from && loud[to - 1] < least)
        {
            to--;
        }
        return StepRange.Of(from, to);
    }

    private static List<StepRange> Apart(List<StepRange> runs)
    {
        var apart = new List<StepRange>();
        foreach (var run in runs)
        {
            if (apart is [.., var last] && run.First <= last.End)
            {
                apart[^1] = last with { End = run.End > last.End ? run.End : last.End };
            }
            else
            {
                apart.Add(run);
            }
        }
        return apart;
    }

    private static double[] Loudness(ReadOnlySpan<float> energy)
    {
        var loud = new double[energy.Length];
        for (var i = 0; i < energy.Length; i++)
        {
            loud[i] = 10 * Math.Log10(1 + energy[i]);
        }
        return loud;
    }

    /// <summary>Where somebody speaks by loudness alone, step by step; in order and apart.</summary>
    public static IReadOnlyList<StepRange> SpeechByLoudness(ReadOnlySpan<float> energy)
    {
        var loud = Loudness(energy);
        if (loud.Length == 0)
        {
            return [];
        }
        var threshold = Threshold(loud);
        return StepRuns.Of(loud.Length, i => loud[i] >= threshold).Runs;
    }

    /// <summary>From which loudness on a step is speech, by the loudness of all steps in decibels; at least one step.</summary>
    internal static double Threshold(double[] loud)
    {
        double quiet = Percentile.Of(loud, 10),
            most = Percentile.Of(loud, 95);
        // Where loud and quiet are the same, all of it may be speech; where there is nothing but zeros, nothing is.
        return Math.Max(Math.Min(quiet + (Share * (most - quiet)), most - Softest), 0.5);
    }

    private static List<StepRange> Join(IReadOnlyList<StepRange> speech, int length)
    {
        var joined = new List<StepRange>();
        foreach (var (first, end) in speech)
        {
            var next = StepRange.Of(Math.Max(0, first.Value - Margin), Math.Min(length, end.Value + Margin));
            if (
                joined is [.., var last]
                && (next.First <= last.End || (next.First - last.End < Beside && Math.Min(next.Count, last.Count) < Short))
            )
            {
                joined[^1] = last with { End = next.End };
            }
            else
            {
                joined.Add(next);
            }
        }
        return joined;
    }
}
