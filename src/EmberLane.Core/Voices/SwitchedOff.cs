using EmberLane.Core.Signal;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Voices;

/// <summary>
/// Where a mic gives nothing, or nothing but the hiss of its recorder: it was switched off, or its line was dead. A live mic is never so
/// quiet, since between words it still hears its room.
/// </summary>
public static class SwitchedOff
{
    /// <summary>In steps: what is listened to at once, and the shortest that counts.</summary>
    private const int Window = 100,
        Shortest = 50;

    /// <summary>In seconds: the least that is off, before hiss is taken for it.</summary>
    private const int LeastOff = 5;

    /// <summary>
    /// In dB: how far apart the loudness of live and dead seconds lies at least, how far the live mic's own quiet lies above the hiss, how
    /// loud that is at most (70 below full scale), how far a step may pass it, and below what there is no signal at all.
    /// </summary>
    private const double Apart = 10,
        AboveHiss = 8,
        Loudest = 20,
        Wavers = 6,
        NoSignal = -10;

    /// <summary>So many of a hundred steps of live seconds lie between words, and are the live mic's own quiet.</summary>
    private const int BetweenWords = 2;

    /// <summary>
    /// Mean squares of 10 ms steps of one mic (<see cref="SilenceSegmenter.Energy"/>), zero where it is off; the same row where it never
    /// is. Linear in the steps but for the sorting of seconds.
    /// </summary>
    public static float[] Silenced(float[] mic)
    {
        var off = Of(mic);
        if (off.Count == 0)
        {
            return mic;
        }
        var silenced = mic.ToArray();
        foreach (var run in off)
        {
            silenced.AsSpan(run.First.Value, run.Count).Clear();
        }
        return silenced;
    }

    /// <summary>The stretches in which the mic is off, in order and apart.</summary>
    public static IReadOnlyList<StepRange> Of(float[] mic)
    {
        var most = Hiss(mic) is { } hiss ? hiss + Wavers : NoSignal;
        return StepRuns.Of(mic.Length, i => Decibel(mic[i]) <= most).AtLeast(Shortest).Runs;
    }

    // The loudness of the hiss, in dB, where whole seconds stand apart from all others by being so quiet.
    private static double? Hiss(float[] mic)
    {
        var seconds = Enumerable
            .Range(0, mic.Length / Window)
            .Select(w => (Window: w, Loud: Percentile.Of(Steps(mic, w), 90)))
            .OrderBy(w => w.Loud)
            .ToArray();
        if (seconds.Length <= LeastOff)
        {
            return null;
        }
        var (widest, dead) = Enumerable
            .Range(LeastOff, seconds.Length - LeastOff)
            .Select(n => (Gap: seconds[n].Loud - seconds[n - 1].Loud, Dead: n))
            .MaxBy(g => g.Gap);
        if (widest < Apart)
        {
            return null;
        }
        var hiss = Percentile.Of(seconds[..dead].Select(s => s.Loud), 50);
        var quiet = Percentile.Of(seconds[dead..].SelectMany(s => Steps(mic, s.Window)), BetweenWords);
        return hiss <= Loudest && quiet - hiss >= AboveHiss ? hiss : null;
    }

    private static IEnumerable<double> Steps(float[] mic, int window) =>
        Enumerable.Range(window * Window, Window).Select(i => Decibel(mic[i]));

    private static double Decibel(float power) => 10 * Math.Log10(power + 0.01);
}
