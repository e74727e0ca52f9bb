using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>
/// Whether taking some words out would clip a neighbour: told by the sound, which falls between two words that part cleanly, or without it
/// by the words' times, which leave no room between them.
/// </summary>
public static class ClippedEdges
{
    /// <summary>Words with less than this between them run into each other, as far as their times tell.</summary>
    private static readonly MediaTime Room = MediaTime.FromMilliseconds(20);

    /// <summary>In steps of 10 ms: how far from an edge the sound may fall, and how far the neighbour is listened to.</summary>
    private const int Near = 5,
        Neighbour = 20;

    /// <summary>The sound falls when it is this share of the neighbour's loud: 12 dB.</summary>
    private const double Falls = 0.063;

    /// <summary>By the words alone: whether another word lies close before the first or behind the last of them.</summary>
    public static bool Of(Talk talk, int first, int last) =>
        (first > 0 && talk.Between(first - 1, first) < Room) || (last + 1 < talk.Words.Count && talk.Between(last, last + 1) < Room);

    /// <summary>
    /// By the energies of the sound's steps (<see cref="SilenceSegmenter.Energy"/>), whose first step is <paramref name="from"/> on the
    /// words' clock; by the words alone where it does not reach them.
    /// </summary>
    public static bool Of(Talk talk, int first, int last, ReadOnlySpan<float> energy, MediaTime from)
    {
        int begins = Step.At(talk.Words[first].In - from).Value,
            ends = Step.At(talk.Words[last].Out - from).Value;
        if (begins < 0 || ends > energy.Length)
        {
            return Of(talk, first, last);
        }
        return (first > 0 && !Parts(energy, begins, -Neighbour, talk.Between(first - 1, first)))
            || (last + 1 < talk.Words.Count && !Parts(energy, ends, Neighbour, talk.Between(last, last + 1)));
    }

    // Whether the sound falls near an edge, below the loud of what lies on the neighbour's side; far from a neighbour it need not.
    private static bool Parts(ReadOnlySpan<float> energy, int edge, int towards, MediaTime room)
    {
        if (room > MediaTime.FromMilliseconds(10 * Neighbour))
        {
            return true;
        }
        var loud = Most(Within(energy, Math.Min(edge, edge + towards), Math.Max(edge, edge + towards)));
        var quiet = Least(Within(energy, edge - Near, edge + Near));
        return loud <= 0 || quiet <= Falls * loud;
    }

    private static ReadOnlySpan<float> Within(ReadOnlySpan<float> energy, int first, int end)
    {
        first = Math.Clamp(first, 0, energy.Length);
        return energy[first..Math.Clamp(end, first, energy.Length)];
    }

    private static float Most(ReadOnlySpan<float> energy)
    {
        float most = 0;
        foreach (var e in energy)
        {
            most = Math.Max(most, e);
        }
        return most;
    }

    private static float Least(ReadOnlySpan<float> energy)
    {
        var least = float.MaxValue;
        foreach (var e in energy)
        {
            least = Math.Min(least, e);
        }
        return energy.IsEmpty ? 0 : least;
    }
}
