using MathNet.Numerics.Statistics;

namespace EmberLane.Core.Signal;

/// <summary>The values that so many of a hundred lie at or below.</summary>
public static class Percentile
{
    /// <summary>
    /// The least of the values that at least <paramref name="percent"/> of a hundred (0–100) do not pass; <paramref name="whenEmpty"/> of
    /// none. Linear in their number.
    /// </summary>
    public static double Of(IEnumerable<double> values, int percent, double whenEmpty = 0)
    {
        var all = values.ToArray();
        return all.Length == 0 ? whenEmpty : ArrayStatistics.QuantileCustomInplace(all, percent / 100.0, QuantileDefinition.R1);
    }
}
