using System.Diagnostics;
using System.Globalization;

namespace EmberLane.Application.Work;

/// <summary>How fast work gets through media since it was begun, and how long it will take.</summary>
public sealed class Speed
{
    private readonly Stopwatch watch = Stopwatch.StartNew();

    /// <summary>How much of the whole is done.</summary>
    public static PerMille Done(MediaTime at, MediaTime whole) => PerMille.Of(at.Units, whole.Units);

    /// <summary>For a person: <c>4.2× real time, 0:31.0 left</c>; empty while there is nothing to go by.</summary>
    public string Words(MediaTime done, MediaTime whole)
    {
        var pace = done.ToSecondsInexact() / Math.Max(1e-3, watch.Elapsed.TotalSeconds);
        return pace <= 0
            ? ""
            : string.Create(
                CultureInfo.InvariantCulture,
                $"{pace:0.0}× real time, "
                    + $"{MediaTime.FromMilliseconds((long)(Math.Max(0, (whole - done).ToSecondsInexact()) / pace * 1000))} left"
            );
    }
}
