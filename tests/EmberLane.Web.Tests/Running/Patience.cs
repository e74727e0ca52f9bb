using System.Diagnostics;
using System.Globalization;

namespace EmberLane.Running;

/// <summary>
/// How long a test waits for something before it takes it for lost: one measure for all, stretched on a machine that is slow or busy.
/// <c>EMBER_TEST_PATIENCE</c> stretches it further (a factor).
/// </summary>
public static class Patience
{
    /// <summary>What the measured work takes on an idle machine of the kind that this was written on, in seconds.</summary>
    private const double Expected = 0.12;

    private const double LeastFactor = 2,
        MostFactor = 12;

    private static readonly double Factor = Math.Clamp(Measured() / Expected * 2, LeastFactor, MostFactor) * Asked();

    /// <summary>So many seconds on an idle machine, stretched for this one.</summary>
    public static TimeSpan Of(double seconds) => TimeSpan.FromSeconds(seconds * Factor);

    private static double Asked() =>
        double.TryParse(
            Environment.GetEnvironmentVariable("EMBER_TEST_PATIENCE"),
            NumberStyles.AllowDecimalPoint,
            CultureInfo.InvariantCulture,
            out var factor
        )
        && factor > 0
            ? factor
            : 1;

    // As many threads as cores do sums, and the slowest counts: what else runs on the machine shows in it.
    private static double Measured()
    {
        var watch = Stopwatch.StartNew();
        Parallel.For(
            0,
            Environment.ProcessorCount,
            _ =>
            {
                var sum = 0.0;
                for (var i = 1; i < 30_000_000; i++)
                {
                    sum += 1.0 / i;
                }
                GC.KeepAlive(sum);
            }
        );
        return watch.Elapsed.TotalSeconds;
    }
}
