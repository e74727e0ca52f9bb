using System.Globalization;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <content>Sound of a file as raw samples: mixed, of a part, channel by channel.</content>
public static partial class Ffmpeg
{
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

    private static string Mix(IReadOnlyList<int> channels)
    {
        var share = (1m / channels.Count).ToString("0.######", CultureInfo.InvariantCulture);
        return string.Join('+', channels.Select(c => FormattableString.Invariant($"{share}*c{c}")));
    }
}
