namespace EmberLane.Core.Voices;

/// <summary>
/// Gives each word to the mic that is near: among the mics that are worn, the one that is loudest against its own usual loudness. A worn mic is known by its
/// wide spread: its person is near and all others are far. A word that no worn mic hears as near belongs to the room, where an interviewer without a mic sits.
/// </summary>
/// <remarks>Thin on purpose: bleed and unequal levels are evened out, overlap and a mic that drops out are not.</remarks>
public static class NearMic
{
    /// <summary>
    /// Loudness of 10 ms steps for each mic (mean square, one row a mic) and words as ranges of steps, end exclusive. Returns the mic of each word, or −1 for the room.
    /// With fewer than two mics, or none that is worn, there is nothing to compare: every word gets 0.
    /// </summary>
    public static IReadOnlyList<int> Assign(IReadOnlyList<float[]> mics, IReadOnlyList<(int First, int End)> words)
    {
        if (mics.Count < 2)
        {
            return [.. words.Select(_ => 0)];
        }
        var loudness = mics.Select(mic => words.Select(w => Decibel(mic, w.First, w.End)).ToArray()).ToArray();
        var usual = loudness.Select(l => Share(l, 90)).ToArray();
        var worn = Enumerable.Range(0, mics.Count).Where(m => usual[m] - Share(loudness[m], 10) >= WornFrom).ToList();
        if (worn.Count == 0)
        {
            return [.. words.Select(_ => 0)];
        }
        var given = new int[words.Count];
        for (var w = 0; w < given.Length; w++)
        {
            var best = worn.MaxBy(m => loudness[m][w] - usual[m]);
            given[w] = loudness[best][w] - usual[best] > -NearWithin ? best : -1;
        }
        return Settle(given);
    }

    /// <summary>How far below a mic's usual near loudness a word may lie and still be near, in dB: half of the bleed distance that is common on location.</summary>
    private const double NearWithin = 11;

    /// <summary>Between the loudest and the softest tenth of words, in dB, from which a mic counts as worn: talk itself varies by about 12, bleed adds 15 and more.</summary>
    private const double WornFrom = 20;

    // The value that this many of a hundred words stay below.
    private static double Share(double[] loudness, int percent)
    {
        var sorted = loudness.Order().ToArray();
        return sorted.Length == 0 ? 0 : sorted[sorted.Length * percent / 100];
    }

    private static double Decibel(float[] energy, int first, int end)
    {
        double sum = 0;
        int from = Math.Clamp(first, 0, energy.Length), to = Math.Clamp(Math.Max(end, first + 1), from, energy.Length);
        for (var i = from; i < to; i++)
        {
            sum += energy[i];
        }
        return 10 * Math.Log10((sum / Math.Max(1, to - from)) + 1e-3);
    }

    // A single word between two of another mic is almost always the same person on a quiet syllable.
    private static int[] Settle(int[] given)
    {
        var settled = (int[])given.Clone();
        for (var i = 1; i + 1 < given.Length; i++)
        {
            if (given[i - 1] == given[i + 1])
            {
                settled[i] = given[i - 1];
            }
        }
        return settled;
    }
}
