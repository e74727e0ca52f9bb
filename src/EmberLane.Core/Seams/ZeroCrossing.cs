namespace EmberLane.Core.Seams;

/// <summary>Where a sound passes through nothing: cut there, it does not click.</summary>
public static class ZeroCrossing
{
    /// <summary>No further than this (2 ms at 16 kHz) is looked, to either side.</summary>
    public const int Reach = 32;

    /// <summary>
    /// The sample nearest to <paramref name="at"/> of which the sign is not that of the one before, or that is nothing;
    /// <paramref name="at"/> itself where none is near.
    /// </summary>
    public static int Near(ReadOnlySpan<short> samples, int at)
    {
        for (var away = 0; away <= Reach; away++)
        {
            foreach (var place in new[] { at - away, at + away })
            {
                if (place > 0 && place < samples.Length && (samples[place] == 0 || (samples[place] > 0) != (samples[place - 1] > 0)))
                {
                    return place;
                }
            }
        }
        return at;
    }
}
