using System.Globalization;
using EmberLane.Core.Copies;
using EmberLane.Core.Timeline;
using EmberLane.Engines.Copies;

namespace EmberLane.Engines;

/// <content>What copies of a story to hear and see are made with.</content>
public static partial class Ffmpeg
{
    /// <summary>True peaks stay below −1.5 dB: what a small copy is decoded to may be a little higher than it.</summary>
    private const string Ceiling = "aresample=96000,alimiter=limit=0.841:attack=5:release=80:level=disabled:latency=1,aresample=48000";

    /// <summary>
    /// A stretch of a track as 32-bit floats at 48 kHz in so many channels; a track with as many is taken as it is, any other mixed to one
    /// that all channels get. <paramref name="filter"/> comes first and may be empty.
    /// </summary>
    internal static Task DecodeFloatsAsync(
        SoundPiece piece,
        MediaTime from,
        MediaTime length,
        string filter,
        int channels,
        Stream output,
        CancellationToken cancel
    )
    {
        var chosen = piece.Channels ?? [.. Enumerable.Range(0, piece.TrackChannels)];
        var pan =
            channels == 2 && chosen.Count == 2 && piece.Channels is null ? "pan=stereo|c0=c0|c1=c1"
            : channels == 2 ? $"pan=stereo|c0={Mix(chosen)}|c1={Mix(chosen)}"
            : $"pan=mono|c0={Mix(chosen)}";
        return Tool.PipeAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-nostdin",
                "-ss",
                from.ToSecondsText(),
                "-t",
                length.ToSecondsText(),
                .. FootageFormats.Input(piece.Path),
                "-map",
                FormattableString.Invariant($"0:{piece.Track}"),
                "-af",
                filter.Length > 0 ? $"{pan},aresample=48000,{filter}" : pan,
                "-ar",
                "48000",
                "-f",
                "f32le",
                "pipe:1",
            ],
            Long,
            null,
            output,
            cancel
        );
    }

    /// <summary>
    /// How loud floats at 48 kHz are all in all, as <paramref name="write"/> writes them, in LUFS by EBU R 128 as ffmpeg's <c>ebur128</c>
    /// measures; null for silence and what is shorter than its 400 ms.
    /// </summary>
    internal static async Task<double?> LoudnessAsync(Func<Stream, CancellationToken, Task> write, int channels, CancellationToken cancel)
    {
        using var told = new MemoryStream();
        await Tool.PipeAsync(
            "ffmpeg",
            ["-v", "error", .. Floats("pipe:0", channels), "-af", Meter, "-f", "null", "-"],
            Long,
            write,
            told,
            cancel
        );
        double? loudness = null;
        foreach (var line in System.Text.Encoding.ASCII.GetString(told.GetBuffer(), 0, (int)told.Length).Split('\n'))
        {
            Hear(line, ref loudness);
        }
        return loudness;
    }

    /// <summary>The same of a sound as it is when it is louder by so many decibels, its peaks held where that is wanted.</summary>
    internal static Task<double?> LoudnessAsync(RawSound sound, double gain, bool isHeld, CancellationToken cancel) =>
        MeteredAsync(
            [.. Floats("file:" + sound.Path, sound.Channels), "-af", Louder(gain, isHeld) + "," + Meter, "-f", "null", "-"],
            cancel
        );

    /// <summary>The same of a made file.</summary>
    public static Task<double?> LoudnessOfAsync(string path, CancellationToken cancel) =>
        MeteredAsync([.. FootageFormats.Input(path), "-map", "0:a:0", "-af", Meter, "-f", "null", "-"], cancel);

    /// <summary>Floats as a file to hear, and how loud that is before it is made small. Whole or not there.</summary>
    internal static async Task<double?> EncodeHeardAsync(
        RawSound sound,
        CopyWish wish,
        double gain,
        bool isHeld,
        string output,
        CancellationToken cancel
    )
    {
        string[] form =
            wish.Form == CopyForm.Wave
                ? ["-c:a", "pcm_s16le", "-rf64", "auto", "-f", "wav"]
                : ["-c:a", "libmp3lame", "-b:a", Whole(wish.Kilobits) + "k", "-f", "mp3"];
        var made = wish.Form == CopyForm.Mp3 ? Softened : "";
        double? loudness = null;
        await WholeFile.MakeAsync(
            output,
            async part =>
                loudness = await MeteredAsync(
                    [
                        "-y",
                        .. Floats("file:" + sound.Path, sound.Channels),
                        "-af",
                        Louder(gain, isHeld) + "," + Meter + made,
                        .. form,
                        part,
                    ],
                    cancel
                )
        );
        return loudness;
    }

    private static async Task<double?> MeteredAsync(IReadOnlyList<string> arguments, CancellationToken cancel)
    {
        double? loudness = null;
        await Tool.RunAsync("ffmpeg", ["-v", "error", "-nostdin", .. arguments], Long, line => Hear(line, ref loudness), cancel);
        return loudness;
    }

    /// <summary>
    /// Pictures, as <paramref name="write"/> writes them (4:2:0, 8 bits, one plane after another), and floats as a file to see; titles from
    /// a file of Advanced SubStation Alpha, and the running timecode where that is wanted. Whole or not there.
    /// </summary>
    internal static async Task EncodeSeenAsync(
        Func<Stream, CancellationToken, Task> write,
        RawSound sound,
        CopyWish wish,
        FrameRate rate,
        Timecode start,
        string titles,
        double gain,
        bool isHeld,
        string output,
        CancellationToken cancel
    )
    {
        var fonts = Path.Combine(AppContext.BaseDirectory, "fonts");
        var filters = new List<string> { $"ass=filename={InFilter(titles)}:fontsdir={InFilter(fonts)}" };
        if (wish.IsLabelled)
        {
            var least = Math.Min(wish.Size.Width, wish.Size.Height);
            filters.Add(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"drawtext=fontfile={InFilter(Path.Combine(fonts, "ibm-plex-mono-latin-400-normal.woff2"))}:"
                        + $"timecode={InFilter(start.ToString())}:timecode_rate={rate.Numerator}/{rate.Denominator}:fontsize={least / 22}:"
                        + $"fontcolor=white:box=1:boxcolor=black@0.6:boxborderw={least / 90}:x=w-tw-{least / 16}:y={least / 16}"
                )
            );
        }
        await WholeFile.MakeAsync(
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
                        "rawvideo",
                        "-pix_fmt",
                        "yuv420p",
                        "-s",
                        FormattableString.Invariant($"{wish.Size.Width}x{wish.Size.Height}"),
                        "-r",
                        FormattableString.Invariant($"{rate.Numerator}/{rate.Denominator}"),
                        "-i",
                        "pipe:0",
                        .. Floats("file:" + sound.Path, sound.Channels),
                        "-map",
                        "0:v",
                        "-map",
                        "1:a",
                        "-vf",
                        string.Join(',', filters),
                        "-af",
                        Louder(gain, isHeld),
                        "-c:v",
                        "libx264",
                        "-preset",
                        "veryfast",
                        "-crf",
                        "23",
                        "-pix_fmt",
                        "yuv420p",
                        "-c:a",
                        "aac",
                        "-b:a",
                        Whole(wish.Kilobits) + "k",
                        "-timecode",
                        start.ToString(),
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
    }

    /// <summary>
    /// So many frames of a file from a moment on, each once, as <see cref="EncodeSeenAsync"/> takes them: what of each is seen, then the
    /// part around a centre, or all of that with black beside it.
    /// </summary>
    internal static Task DecodeFramesAsync(
        string path,
        MediaTime seekTo,
        FramePiece piece,
        long frames,
        CopyShape size,
        Stream output,
        CancellationToken cancel
    )
    {
        var (rate, closer) = (piece.Rate, Closer(piece.Framed, frames));
        var fit = piece.Centre is { } middle
            ? FormattableString.Invariant($"scale={size.Width}:{size.Height}:force_original_aspect_ratio=increase:force_divisible_by=2,")
                + FormattableString.Invariant($"crop={size.Width}:{size.Height}:iw*{middle}/1000-ow/2:(ih-oh)/2")
            : FormattableString.Invariant($"scale={size.Width}:{size.Height}:force_original_aspect_ratio=decrease:force_divisible_by=2,")
                + FormattableString.Invariant($"pad={size.Width}:{size.Height}:(ow-iw)/2:(oh-ih)/2");
        return Tool.PipeAsync(
            "ffmpeg",
            [
                "-v",
                "error",
                "-nostdin",
                "-ss",
                seekTo.ToSecondsText(),
                .. FootageFormats.Input(path),
                "-map",
                "0:v:0",
                "-vf",
                FormattableString.Invariant(
                    $"setpts=PTS-STARTPTS,fps={rate.Numerator}/{rate.Denominator},scale=iw*sar:ih,setsar=1,{closer}{fit}"
                ),
                "-frames:v",
                frames.ToString(CultureInfo.InvariantCulture),
                "-pix_fmt",
                "yuv420p",
                "-f",
                "rawvideo",
                "pipe:1",
            ],
            Long,
            null,
            output,
            cancel
        );
    }

    // The corners of what is seen, frame by frame, between pixels where it has to be: a move in whole pixels would shake.
    private static string Closer(Framed? framed, long frames)
    {
        if (framed is null)
        {
            return "";
        }
        string left = Moves(framed.From.Left, framed.To.Left),
            top = Moves(framed.From.Top, framed.To.Top),
            right = Moves(framed.From.Left + framed.From.Size, framed.To.Left + framed.To.Size),
            bottom = Moves(framed.From.Top + framed.From.Size, framed.To.Top + framed.To.Size);
        return $"perspective=x0=W*({left}):y0=H*({top}):x1=W*({right}):y1=H*({top}):x2=W*({left}):y2=H*({bottom})"
            + $":x3=W*({right}):y3=H*({bottom}):interpolation=cubic:sense=source{(framed.IsStill ? "" : ":eval=frame")},";

        string Moves(int from, int to) =>
            framed.IsStill
                ? FormattableString.Invariant($"{from}/{Crop.Whole}")
                : FormattableString.Invariant($"({from}+{to - from}*(in-1)/{frames})/{Crop.Whole}");
    }

    // The encoder makes all that it takes softer by a twentieth.
    private const string Softened = ",volume=0.44dB";

    private const string Meter = "ebur128=metadata=1,ametadata=mode=print:key=lavfi.r128.I:file=-";

    private static IReadOnlyList<string> Floats(string input, int channels) =>
        ["-protocol_whitelist", "file,pipe", "-f", "f32le", "-ar", "48000", "-ac", Whole(channels), "-i", input];

    private static string Louder(double gain, bool isHeld) =>
        string.Create(CultureInfo.InvariantCulture, $"volume={gain:0.###}dB") + (isHeld ? "," + Ceiling : "");

    // The last line tells of all of it. Below −70 LUFS nothing is measured.
    private static void Hear(string line, ref double? loudness)
    {
        const string key = "lavfi.r128.I=";
        if (
            line.StartsWith(key, StringComparison.Ordinal)
            && double.TryParse(line.AsSpan(key.Length).Trim(), NumberStyles.Float, CultureInfo.InvariantCulture, out var heard)
        )
        {
            loudness = heard > -69 ? heard : null;
        }
    }

    // A path within a filter is read twice, and each time a backslash keeps what follows from being taken for more than a letter.
    internal static string InFilter(string path) => Guarded(Guarded(path));

    private static string Guarded(string text) =>
        string.Concat(text.Select(c => c is '\\' or '\'' or ':' or ',' or ';' or '[' or ']' ? "\\" + c : $"{c}"));
}
