using System.Diagnostics;
using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Copies;
using EmberLane.Core.Time;
using EmberLane.Engines;
using EmberLane.Engines.Copies;

namespace EmberLane.Bench;

/// <summary>
/// Copies in pieces of ten seconds of a made file, ten minutes to hear and two to see: how long each kind takes, and how loud it is.
/// </summary>
internal static class CopiesBench
{
    private const int Pieces = 60,
        SeenPieces = 12,
        Seconds = 10,
        Rate = 48_000;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("ember-copies").FullName;
        try
        {
            var film = await FilmAsync(folder);
            var random = new Random(7);
            var starts = Enumerable.Range(0, Pieces).Select(_ => MediaTime.FromMilliseconds(random.Next(165_000))).ToList();
            var speakers = Enumerable
                .Range(0, Pieces)
                .Select(i => new SpeakerRun(MediaTime.FromMilliseconds(i * Seconds * 1_000L), i % 2 == 0 ? "Maren" : "Tobias"))
                .ToList();
            var parts = new CopyParts(
                [
                    .. starts.Select(
                        (from, i) =>
                            new SoundPiece(film, 1, 1, null, from, (long)i * Seconds * Rate, Seconds * Rate)
                            {
                                FadeIn = 400,
                                FadeOut = 400,
                                Room = "quay",
                            }
                    ),
                ],
                speakers,
                [.. starts.Select(from => new FramePiece(25 * Seconds, film, FrameRate.R25, new SourceTime(from)))],
                25L * Seconds * Pieces,
                FrameRate.R25,
                new Timecode(new TimecodeCount(FrameRate.R25, false), 1, 0, 0, 0),
                "[Script Info]\nScriptType: v4.00+\n\n[Events]\nFormat: Layer, Start, End, Style, Text\n"
            );
            foreach (
                var wish in new[]
                {
                    new CopyWish { Form = CopyForm.Wave },
                    new CopyWish { Form = CopyForm.Mp3 },
                    new CopyWish
                    {
                        Form = CopyForm.Mp3,
                        IsQuieted = true,
                        IsStereo = true,
                    },
                    new CopyWish { Form = CopyForm.Video },
                    new CopyWish { Form = CopyForm.Video, IsFromSources = true },
                }
            )
            {
                var pieces = wish.Form == CopyForm.Video ? SeenPieces : Pieces;
                var watch = Stopwatch.StartNew();
                var made = await StoryCopy.MakeAsync(
                    parts with
                    {
                        Heard = [.. parts.Heard.Take(pieces)],
                        Speakers = [.. parts.Speakers.Take(pieces)],
                        Seen = [.. parts.Seen.Take(pieces)],
                        Frames = 25L * Seconds * pieces,
                    },
                    wish,
                    folder,
                    Path.Combine(folder, "copy" + wish.Ending),
                    null,
                    CancellationToken.None
                );
                var took = watch.Elapsed.TotalSeconds;
                Console.WriteLine(
                    string.Create(
                        CultureInfo.InvariantCulture,
                        $"  {wish.Says}: {took:0.0} s, {pieces * Seconds / took:0.0} times real time; {made.Loudness:0.0} LUFS"
                    )
                );
            }
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    // Three minutes as playing copies are: 960 × 540, a picture that moves, talk with knocks.
    private static async Task<string> FilmAsync(string folder)
    {
        var path = Path.Combine(folder, "film.mp4");
        string[] picture = ["-f", "lavfi", "-i", "testsrc2=s=960x540:r=25:d=180"];
        string[] sound =
        [
            "-f",
            "lavfi",
            "-i",
            "aevalsrc='0.1*sin(2*PI*170*t)*(0.5+0.5*sin(2*PI*4*t))*lt(mod(t,3),2.4)+0.4*lt(mod(t,7),0.01)*sin(2*PI*900*t)':s=48000:d=180",
        ];
        string[] written = ["-c:v", "libx264", "-preset", "veryfast", "-crf", "27", "-g", "50", "-pix_fmt", "yuv420p", "-c:a", "aac"];
        await Tool.RunAsync(
            "ffmpeg",
            ["-v", "error", "-y", .. picture, .. sound, .. written, path],
            TimeSpan.FromMinutes(10),
            _ => { },
            CancellationToken.None
        );
        return path;
    }
}
