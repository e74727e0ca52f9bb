using System.Diagnostics;

namespace EmberLane.Web.Tests;

/// <summary>Small media files made on the spot.</summary>
internal static class MadeMedia
{
    public static void Film(string path, string rate, int seconds) =>
        Ffmpeg([
            "-f",
            "lavfi",
            "-i",
            FormattableString.Invariant($"testsrc2=size=320x180:rate={rate}:duration={seconds}"),
            "-f",
            "lavfi",
            "-i",
            FormattableString.Invariant($"sine=frequency=440:duration={seconds}"),
            "-c:v",
            "mpeg4",
            "-c:a",
            path.EndsWith(".mp4", StringComparison.Ordinal) ? "aac" : "pcm_s16le",
            path,
        ]);

    public static void Sound(string path, int seconds) =>
        Ffmpeg(["-f", "lavfi", "-i", FormattableString.Invariant($"anoisesrc=duration={seconds}:seed=4"), "-ar", "16000", path]);

    /// <summary>Whatever ffmpeg makes of these arguments.</summary>
    public static void Make(params string[] arguments) => Ffmpeg(arguments);

    private static void Ffmpeg(string[] arguments)
    {
        using var process = Process.Start("ffmpeg", ["-v", "error", "-y", .. arguments])!;
        process.WaitForExit();
        Assert.Equal(0, process.ExitCode);
    }
}
