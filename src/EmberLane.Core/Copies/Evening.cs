namespace EmberLane.Core.Copies;

/// <summary>How much louder or softer each person becomes, so that all are about as loud.</summary>
public static class Evening
{
    /// <summary>Nobody is changed by more than so many decibels: their room would come up with them.</summary>
    public const double Most = 9;

    /// <summary>
    /// In decibels for each person of whom it is known how loud they are (LUFS) and how long they speak; the loudness that all get is the
    /// mean, weighted by how long. Who is not in the result stays as they are.
    /// </summary>
    public static IReadOnlyDictionary<string, double> Of(IReadOnlyDictionary<string, (double Loudness, MediaTime Speaks)> people)
    {
        var known = people.Where(p => double.IsFinite(p.Value.Loudness) && p.Value.Speaks > MediaTime.Zero).ToList();
        if (known.Count < 2)
        {
            return new Dictionary<string, double>();
        }
        var all = known.Sum(p => p.Value.Speaks.ToSecondsInexact());
        var mean = known.Sum(p => p.Value.Loudness * p.Value.Speaks.ToSecondsInexact()) / all;
        return known.ToDictionary(p => p.Key, p => Math.Clamp(mean - p.Value.Loudness, -Most, Most));
    }
}
