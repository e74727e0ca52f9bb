using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <content>What a browser plays and shows: playing copies, a sitting's sound, thumbnails.</content>
public static partial class Ffmpeg
{
    /// <summary>
    /// Raw 16-bit samples of one channel, as <paramref name="write"/> writes them, as AAC in MP4 that a browser plays. Whole or not there.
    /// </summary>
    public static Task EncodeSoundAsync(Func<Stream, CancellationToken, Task> write, int rate, string output, CancellationToken cancel) =>
        WholeFile.MakeAsync(
            output,
            part =>
                Tool.PipeAsync(
                    "ffmpeg",
                    [
                        "-v",
                        "error",
                        "-y",
                        "-protocol_whitelist",
                        "pipe",
                        "-f",
                        "s16le",
                        "-ar",
                        Whole(rate),
                        "-ac",
                        "1",
                        "-i",
                        "pipe:0",
                        "-c:a",
                        "aac",
                        "-b:a",
                        "96k",
                        "-movflags",
                        "+faststart",
                        "-f",
                        "mp4",
                        part,
                    ],
                    Long,
                    write,
                    Stream.Null,
                    cancel
                )
        );

    /// <summary>
    /// A file that a browser plays: H.264 and AAC in MP4, at most 540 lines high; streams that already fit are only laid into MP4. Sound
    /// alone becomes AAC in MP4.
    /// </summary>
    public static Task MakeProxyAsync(string path, SourceFacts facts, string output, Action<MediaTime>? progress, CancellationToken cancel)
    {
        var input = FootageFormats.Input(path);
        var sound =
            facts.Sound.Count > 0
                ? new[] { "-map", "0:a:0", "-c:a", "aac", "-b:a", "96k", "-ac", facts.Sound[0].Channels == 2 ? "2" : "1" }
                : [];
        if (facts.Sound is [{ Channels: > 2 }, ..])
        {
            // A down-mix by speaker layout would drop or weight mics: every channel counts the same.
            var n = facts.Sound[0].Channels;
            var share = (1m / Math.Min(n, 2)).ToString("0.###", CultureInfo.InvariantCulture);
            sound =
            [
                "-map",
                "0:a:0",
                "-af",
                "pan=mono|c0=" + string.Join('+', Enumerable.Range(0, n).Select(c => FormattableString.Invariant($"{share}*c{c}"))),
                "-c:a",
                "aac",
                "-b:a",
                "96k",
            ];
        }
        string[] kind = ["-movflags", "+faststart", "-f", "mp4"];
        string[] how =
            facts.Picture is null ? ["-vn", .. sound]
            : facts.CanBeRewrapped ? ["-map", "0:v:0", "-map", "0:a:0?", "-c", "copy"]
            :
            [
                "-map",
                "0:v:0",
                "-vf",
                "scale=-2:'min(540,ih)',format=yuv420p",
                "-c:v",
                "libx264",
                "-preset",
                "veryfast",
                "-crf",
                "27",
                "-g",
                "50",
                .. sound,
            ];
        return WholeAsync(output, part => [.. input, .. how, "-map_metadata", "-1", .. kind, part], progress, cancel);
    }

    /// <summary>
    /// The picture of a playing copy without its sound and without stretches of it, in MP4; nothing is encoded anew. The picture before a
    /// stretch stands until the first one behind it that is whole by itself.
    /// </summary>
    public static async Task WithholdPictureAsync(
        string path,
        IReadOnlyList<SourceRange> without,
        string output,
        Action<MediaTime>? progress,
        CancellationToken cancel
    )
    {
        var runs = PacketCuts.Of(await PacketsAsync(path, cancel), without);
        string[] cut =
            runs.Count == 0
                ? []
                :
                [
                    "-bsf:v",
                    $"noise=drop='{string.Join('+', runs.Select(r => FormattableString.Invariant($"between(n,{r.First},{r.Last})")))}'",
                ];
        await WholeAsync(
            output,
            part =>
                [
                    .. FootageFormats.Input(path),
                    "-map",
                    "0:v:0",
                    "-an",
                    "-c",
                    "copy",
                    .. cut,
                    "-map_metadata",
                    "-1",
                    "-movflags",
                    "+faststart",
                    "-f",
                    "mp4",
                    part,
                ],
            progress,
            cancel
        );
    }

    // In the order of decoding.
    private static async Task<List<PicturePacket>> PacketsAsync(string path, CancellationToken cancel)
    {
        var packets = new List<PicturePacket>();
        await Tool.RunAsync(
            "ffprobe",
            [
                "-v",
                "error",
                "-select_streams",
                "v:0",
                "-show_entries",
                "packet=pts_time,flags",
                "-of",
                "csv=p=0",
                .. FootageFormats.Input(path),
            ],
            Long,
            line =>
            {
                var parts = line.Split(',');
                if (parts.Length < 2)
                {
                    return;
                }
                // One without a time stands with the one before it.
                var at =
                    decimal.TryParse(
                        parts[0],
                        NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign,
                        CultureInfo.InvariantCulture,
                        out var seconds
                    )
                        ? new SourceTime(MediaTime.FromSecondsRounded(seconds))
                    : packets.Count > 0 ? packets[^1].At
                    : default;
                packets.Add(new PicturePacket(at, parts[1].StartsWith('K')));
            },
            cancel
        );
        return packets;
    }

    /// <summary>A JPEG of a moment, 480 wide.</summary>
    public static Task MakeThumbnailAsync(string path, MediaTime at, string output, CancellationToken cancel) =>
        WholeAsync(
            output,
            part =>
                [
                    "-ss",
                    at.ToSecondsText(),
                    .. FootageFormats.Input(path),
                    "-frames:v",
                    "1",
                    "-vf",
                    "scale=480:-2",
                    "-q:v",
                    "4",
                    "-f",
                    "mjpeg",
                    part,
                ],
            null,
            cancel,
            Short
        );
}
