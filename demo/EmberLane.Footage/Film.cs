using System.Diagnostics;
using System.Globalization;
using SkiaSharp;

namespace EmberLane.Footage;

/// <summary>Draws a clip frame by frame into ffmpeg, with its sound, timecode track and reel tag.</summary>
internal static class Film
{
    public static void Shoot(
        string file,
        string place,
        IReadOnlyList<Person> people,
        Talk? talk,
        Clip clip,
        float[] sound,
        string workFolder
    )
    {
        var wav = Path.Combine(workFolder, "clip.wav");
        WavFile.Write(wav, [sound], Room.Rate);
        var rate = clip.Rate.Split('/');
        double fps = double.Parse(rate[0], CultureInfo.InvariantCulture) / (rate.Length > 1 ? 1001 : 1);
        var frames = (int)((double)sound.Length / Room.Rate * fps);
        using var encoder =
            Process.Start(
                new ProcessStartInfo(
                    "ffmpeg",
                    [
                        "-v",
                        "error",
                        "-y",
                        "-f",
                        "rawvideo",
                        "-pix_fmt",
                        "rgba",
                        "-s",
                        $"{Stage.Width}x{Stage.Height}",
                        "-r",
                        clip.Rate,
                        "-i",
                        "-",
                        "-i",
                        wav,
                        "-c:v",
                        "libx264",
                        "-preset",
                        "fast",
                        "-crf",
                        "29",
                        "-g",
                        "50",
                        "-bf",
                        "2",
                        "-pix_fmt",
                        "yuv420p",
                        "-c:a",
                        "aac",
                        "-b:a",
                        "56k",
                        "-timecode",
                        clip.Timecode,
                        "-movflags",
                        "use_metadata_tags",
                        "-metadata:s:v:0",
                        $"reel_name={clip.Reel}",
                        "-metadata",
                        $"reel_name={clip.Reel}",
                        "-metadata",
                        "make=Made-up Cameras",
                        "-metadata",
                        $"model=Tern {clip.Reel[0]}",
                        "-fflags",
                        "+bitexact",
                        file,
                    ]
                )
                {
                    RedirectStandardInput = true,
                }
            ) ?? throw new InvalidOperationException("ffmpeg did not start.");
        using var bitmap = new SKBitmap(Stage.Width, Stage.Height, SKColorType.Rgba8888, SKAlphaType.Opaque);
        using var canvas = new SKCanvas(bitmap);
        var pipe = encoder.StandardInput.BaseStream;
        for (var frame = 0; frame < frames; frame++)
        {
            var t = clip.Start + (frame / fps * (1 + (clip.Ppm / 1e6)));
            Stage.Draw(
                canvas,
                place,
                people,
                who => talk is null ? 0 : Loudness(talk.Tracks[who], t),
                t,
                clip.X,
                clip.Y,
                clip.Zoom,
                clip.Walks
            );
            pipe.Write(bitmap.GetPixelSpan());
        }
        pipe.Close();
        encoder.WaitForExit();
        if (encoder.ExitCode != 0)
        {
            throw new InvalidOperationException($"ffmpeg failed on {file}.");
        }
    }

    private static float Loudness(float[] track, double t)
    {
        int middle = (int)(t * Room.Rate),
            half = Room.Rate / 50;
        double sum = 0;
        for (var i = Math.Max(0, middle - half); i < Math.Min(track.Length, middle + half); i++)
        {
            sum += track[i] * track[i];
        }
        return (float)Math.Min(1, Math.Sqrt(sum / (2 * half)) * 6);
    }
}
