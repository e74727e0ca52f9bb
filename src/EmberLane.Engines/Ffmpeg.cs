using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>What is made from media files with ffmpeg. Everything is written beside its place and moved there when it is whole.</summary>
public static partial class Ffmpeg
{
    private static readonly TimeSpan Long = TimeSpan.FromHours(6),
        Short = TimeSpan.FromMinutes(2);

    private static Task WholeAsync(
        string output,
        Func<string, IReadOnlyList<string>> arguments,
        Action<MediaTime>? progress,
        CancellationToken cancel,
        TimeSpan? limit = null
    ) =>
        WholeFile.MakeAsync(
            output,
            part =>
                Tool.RunAsync(
                    "ffmpeg",
                    ["-v", "error", "-nostdin", "-y", "-progress", "pipe:1", .. arguments(part)],
                    limit ?? Long,
                    line => Report(line, progress),
                    cancel
                )
        );

    private static void Report(string line, Action<MediaTime>? progress)
    {
        const string key = "out_time_us=";
        if (
            progress is not null
            && line.StartsWith(key, StringComparison.Ordinal)
            && long.TryParse(line.AsSpan(key.Length), NumberStyles.None, CultureInfo.InvariantCulture, out var microseconds)
        )
        {
            progress(MediaTime.FromMilliseconds(microseconds / 1000));
        }
    }

    private static string Whole(int value) => value.ToString(CultureInfo.InvariantCulture);
}
