namespace EmberLane.Core.Voices;

/// <summary>
/// The error of who speaks when, in 10 ms steps of speech: the usual sum of missed, false and confused time over the time of speech. Speech
/// of two people at once counts twice.
/// </summary>
public sealed record DiarisationError(long Speech, long Missed, long False, long Confused)
{
    private const int MostVoices = 14;

    /// <summary>Wrong time over the time of speech: 0 when all is right, may pass 1.</summary>
    public double Rate => Speech == 0 ? 0 : (double)(Missed + False + Confused) / Speech;

    /// <summary>
    /// Compares found stretches with the true ones. Steps within <paramref name="collar"/> of a true stretch's start or end do not count.
    /// Found voices are matched with true ones so that most time agrees, each with at most one. At most 14 true voices; cost grows with
    /// steps and with two to the true voices.
    /// </summary>
    public static DiarisationError Between(IReadOnlyList<Spoken> truth, IReadOnlyList<Spoken> found, int collar)
    {
        var steps = truth.Concat(found).Select(s => s.End.Value).DefaultIfEmpty(0).Max();
        bool[][] real = Rows(truth, steps),
            heard = Rows(found, steps);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(real.Length, MostVoices, nameof(truth));
        var counted = new bool[steps];
        Array.Fill(counted, true);
        foreach (var edge in truth.SelectMany(s => new[] { s.First.Value, s.End.Value }))
        {
            int from = Math.Clamp(edge - collar, 0, steps),
                to = Math.Clamp(edge + collar, 0, steps);
            counted.AsSpan(from, to - from).Clear();
        }
        var common = heard
            .Select(h => real.Select(r => (long)Enumerable.Range(0, steps).Count(i => counted[i] && h[i] && r[i])).ToArray())
            .ToArray();
        long speech = 0,
            missed = 0,
            invented = 0,
            both = 0;
        for (var i = 0; i < steps; i++)
        {
            if (counted[i])
            {
                int n = real.Count(r => r[i]),
                    m = heard.Count(h => h[i]);
                (speech, missed, invented, both) = (
                    speech + n,
                    missed + Math.Max(0, n - m),
                    invented + Math.Max(0, m - n),
                    both + Math.Min(n, m)
                );
            }
        }
        return new DiarisationError(speech, missed, invented, both - BestMatch(common, real.Length));
    }

    // The most time that agrees, over all ways to give each found voice at most one true voice; by sets of true voices that are taken.
    private static long BestMatch(long[][] common, int real)
    {
        var best = new long[1 << real];
        foreach (var row in common)
        {
            for (var taken = best.Length - 1; taken >= 0; taken--)
            {
                for (var r = 0; r < real; r++)
                {
                    if ((taken & (1 << r)) != 0)
                    {
                        best[taken] = Math.Max(best[taken], best[taken & ~(1 << r)] + row[r]);
                    }
                }
            }
        }
        return best.Max();
    }

    private static bool[][] Rows(IReadOnlyList<Spoken> stretches, int steps) =>
        [
            .. stretches
                .GroupBy(s => s.Voice)
                .OrderBy(g => g.Key)
                .Select(g =>
                {
                    var row = new bool[steps];
                    foreach (var s in g)
                    {
                        row.AsSpan(s.First.Value, s.End - s.First).Fill(true);
                    }
                    return row;
                }),
        ];
}
