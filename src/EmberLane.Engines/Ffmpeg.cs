using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>What is made from media files with ffmpeg. Everything is written beside its place and moved there when it is whole.</summary>
public static class Ffmpeg
{
    private static readonly TimeSpan Long = TimeSpan.FromHours(6),
        Short = TimeSpan.FromMinutes(2);

    /// <summary>
    /// All channels of a file mixed to one, as raw 16-bit samples. Decoding streams: memory does not grow with the file.
    /// <paramref name="channels"/> chooses channels by their place in the first sound track; null takes all.
    /// </summary>
    public static Task DecodeMonoAsync(
        string path,
        SourceFacts facts,
        IReadOnlyList<int>? channels,
        int rate,
        string output,
        CancellationToken cancel
    )
    {
        var pan = "pan=mono|c0=" + Mix(channels ?? [.. Enumerable.Range(0, facts.Sound[0].Channels)]);
        return WholeAsync(
            output,
            part =>
                [
                    .. FootageFormats.Input(path),
                    "-map",
                    FormattableString.Invariant($"0:{facts.Sound[0].Index}"),
                    "-af",
                    pan,
                    "-ar",
                    Whole(rate),
                    "-f",
                    "s16le",
                    part,
                ],
            null,
            cancel
        );
    }

    /// <summary>
    /// As <see cref="DecodeMonoAsync"/>, of a part only: all channels of the first track, or one counted through all tracks.
    /// </summary>
    public static Task DecodePartAsync(
        string path,
        SourceFacts facts,
        MediaTime from,
        MediaTime length,
        int? channel,
        int rate,
        string output,
        CancellationToken cancel
    ) => WholeAsync(output, part => [.. Part(path, facts, from, length, channel, rate), part], null, cancel, Short);

    /// <summary>As <c>DecodePartAsync</c>, into memory.</summary>
    public static async Task<byte[]> DecodePartAsync(
        string path,
        SourceFacts facts,
        MediaTime from,
        MediaTime length,
        int? channel,
        int rate,
        CancellationToken cancel
    )
    {
        using var samples = new MemoryStream();
        await Tool.PipeAsync(
            "ffmpeg",
            ["-v", "error", "-nostdin", .. Part(path, facts, from, length, channel, rate), "pipe:1"],
            Short,
            null,
            samples,
            cancel
        );
        return samples.ToArray();
    }

    private static string[] Part(string path, SourceFacts facts, MediaTime from, MediaTime length, int? channel, int rate)
    {
        var (track, places) =
            channel is { } one && facts.Locate(one) is var at
                ? (at.Track, new[] { at.Channel })
                : (facts.Sound[0], [.. Enumerable.Range(0, facts.Sound[0].Channels)]);
        return
        [
            "-ss",
            from.ToSecondsText(),
            "-t",
            length.ToSecondsText(),
            .. FootageFormats.Input(path),
            "-map",
            FormattableString.Invariant($"0:{track.Index}"),
            "-af",
            "pan=mono|c0=" + Mix(places),
            "-ar",
            Whole(rate),
            "-f",
            "s16le",
        ];
    }

    /// <summary>Two channels as raw 16-bit samples, interleaved: the mix of all channels, and the first alone.</summary>
    public static Task DecodeMixAndFirstAsync(string path, SourceFacts facts, int rate, string output, CancellationToken cancel) =>
        WholeAsync(
            output,
            part =>
                [
                    .. FootageFormats.Input(path),
                    "-map",
                    FormattableString.Invariant($"0:{facts.Sound[0].Index}"),
                    "-af",
                    "pan=stereo|c0=" + Mix([.. Enumerable.Range(0, facts.Sound[0].Channels)]) + "|c1=c0",
                    "-ar",
                    Whole(rate),
                    "-f",
                    "s16le",
                    part,
                ],
            null,
            cancel
        );

    /// <summary>
    /// Channels of a sound track by their place in it, interleaved, as raw 16-bit samples at <paramref name="rate"/>, into a stream as they
    /// are decoded.
    /// </summary>
    internal static Task DecodeToAsync(
        string path,
        SoundTrack track,
        IReadOnlyList<int> channels,
        int rate,
        Stream output,
        CancellationToken cancel
    )
    {
        var pan =
            FormattableString.Invariant($"pan={channels.Count}c|")
            + string.Join('|', channels.Select((c, i) => FormattableString.Invariant($"c{i}=c{c}")));
        return Tool.PipeAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-nostdin",
                .. FootageFormats.Input(path),
                "-map",
                FormattableString.Invariant($"0:{track.Index}"),
                "-af",
                pan,
                "-ar",
                Whole(rate),
                "-f",
                "s16le",
                "pipe:1",
            ],
            Long,
            null,
            output,
            cancel
        );
    }

    /// <summary>
    /// Raw 16-bit samples of one channel, as <paramref name="write"/> writes them, as AAC in MP4 that a browser plays. Whole or not there.
    /// </summary>
    public static async Task EncodeSoundAsync(
        Func<Stream, CancellationToken, Task> write,
        int rate,
        string output,
        CancellationToken cancel
    )
    {
        var part = FormattableString.Invariant($"{output}.{Guid.NewGuid():N}.part");
        try
        {
            await Tool.PipeAsync(
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
            );
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }

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

    private static string Mix(IReadOnlyList<int> channels)
    {
        var share = (1m / channels.Count).ToString("0.######", CultureInfo.InvariantCulture);
        return string.Join('+', channels.Select(c => FormattableString.Invariant($"{share}*c{c}")));
    }

    private static async Task WholeAsync(
        string output,
        Func<string, IReadOnlyList<string>> arguments,
        Action<MediaTime>? progress,
        CancellationToken cancel,
        TimeSpan? limit = null
    )
    {
        var part = FormattableString.Invariant($"{output}.{Guid.NewGuid():N}.part");
        try
        {
            await Tool.RunAsync(
                "ffmpeg",
                ["-v", "error", "-nostdin", "-y", "-progress", "pipe:1", .. arguments(part)],
                limit ?? Long,
                line => Report(line, progress),
                cancel
            );
            File.Move(part, output, overwrite: true);
        }
        finally
        {
            File.Delete(part);
        }
    }

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
