using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.Time;
using EmberLane.Engines.Copies;

namespace EmberLane.Engines.Tests.Copies;

/// <summary>Small files of known content, in a folder that goes with the test.</summary>
internal sealed class Clips : IDisposable
{
    /// <summary>Frames are told apart by their grey, which comes again after so many.</summary>
    public const int Greys = 60;

    public Clips() => Directory.CreateDirectory(Folder);

    public string Folder { get; } = Path.Combine(Path.GetTempPath(), FormattableString.Invariant($"ember-copies-{Guid.NewGuid():N}"));

    public string PathOf(string name) => Path.Combine(Folder, name);

    /// <summary>A file of a rate, each frame of another grey; as long as is said.</summary>
    public async Task<string> CountedAsync(FrameRate rate, int seconds)
    {
        var path = PathOf(FormattableString.Invariant($"counted-{rate.Numerator}-{rate.Denominator}.mp4"));
        await FfmpegAsync(
            "-f",
            "lavfi",
            "-i",
            FormattableString.Invariant(
                $"nullsrc=s=64x36:r={rate.Numerator}/{rate.Denominator}:d={seconds},geq=lum='mod(N,{Greys})*3.5+20':cb=128:cr=128"
            ),
            "-c:v",
            "libx264",
            "-qp",
            "0",
            "-g",
            "50",
            "-pix_fmt",
            "yuv420p",
            path
        );
        return path;
    }

    /// <summary>Two seconds of a picture that is lighter from left to right, by 200 steps in all.</summary>
    public async Task<string> RampAsync()
    {
        var path = PathOf("ramp.mp4");
        string[] picture = ["-f", "lavfi", "-i", "nullsrc=s=320x180:r=25:d=2,geq=lum='20+X*200/W':cb=128:cr=128"];
        await FfmpegAsync([.. picture, "-c:v", "libx264", "-qp", "0", "-pix_fmt", "yuv420p", path]);
        return path;
    }

    /// <summary>A recording, by ffmpeg's expression of its samples.</summary>
    public async Task<string> SoundAsync(string name, string expression, int seconds)
    {
        var path = PathOf(name);
        await FfmpegAsync("-f", "lavfi", "-i", FormattableString.Invariant($"aevalsrc={expression}:s=48000:d={seconds}"), path);
        return path;
    }

    /// <summary>The samples of a file, one channel of 16 bits.</summary>
    public static async Task<short[]> SamplesAsync(string path)
    {
        using var bytes = new MemoryStream();
        await Tool.PipeAsync(
            "ffmpeg",
            ["-v", "error", "-i", path, "-ac", "1", "-ar", "48000", "-f", "s16le", "pipe:1"],
            TimeSpan.FromMinutes(1),
            null,
            bytes,
            CancellationToken.None
        );
        return System.Runtime.InteropServices.MemoryMarshal.Cast<byte, short>(bytes.ToArray()).ToArray();
    }

    /// <summary>Which frame each of a film's shows, by its grey; −1 for black.</summary>
    public static async Task<int[]> GreysAsync(string path)
    {
        using var bytes = new MemoryStream();
        await Tool.PipeAsync(
            "ffmpeg",
            ["-v", "error", "-i", path, "-vf", "crop=8:8:100:100", "-pix_fmt", "yuv420p", "-f", "rawvideo", "pipe:1"],
            TimeSpan.FromMinutes(1),
            null,
            bytes,
            CancellationToken.None
        );
        return [.. bytes.ToArray().Chunk(8 * 8 * 3 / 2).Select(f => f[0] < 18 ? -1 : (int)Math.Round((f[0] - 20) / 3.5))];
    }

    /// <summary>A copy of parts, by a wish.</summary>
    public async Task<(string Path, CopyMade Made)> CopyAsync(CopyParts parts, CopyWish wish)
    {
        var output = PathOf(FormattableString.Invariant($"copy-{Guid.NewGuid():N}{wish.Ending}"));
        return (output, await StoryCopy.MakeAsync(parts, wish, Folder, output, null, CancellationToken.None));
    }

    public void Dispose() => Directory.Delete(Folder, recursive: true);

    private static Task FfmpegAsync(params string[] arguments) =>
        Tool.RunAsync("ffmpeg", ["-v", "error", "-y", .. arguments], TimeSpan.FromMinutes(1), _ => { }, CancellationToken.None);
}
