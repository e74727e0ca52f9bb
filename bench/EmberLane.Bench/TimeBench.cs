using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Time;

namespace EmberLane.Bench;

/// <summary>Every frame of 24 hours to its label and back, at every way of counting.</summary>
internal static class TimeBench
{
    public static void Run()
    {
        Console.WriteLine("time: frame to label and back over 24 hours");
        foreach (var count in TimecodeCount.Supported)
        {
            var watch = Stopwatch.StartNew();
            long wrong = 0;
            for (long frame = 0; frame < count.FramesInDay; frame++)
            {
                wrong += count.LabelOf(frame).Frame == frame ? 0 : 1;
            }
            Console.WriteLine(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"  {count,-18} {count.FramesInDay,8} frames  {wrong} wrong  {watch.ElapsedMilliseconds} ms"
                )
            );
        }
    }
}
