namespace EmberLane.Engines;

/// <summary>
/// The containers that footage comes in. ffmpeg knows many more, among them texts that name other files and addresses (play lists,
/// concatenations, picture sequences): a file of such a kind would make it read what nobody chose. Every input is held to this list and to
/// plain files.
/// </summary>
internal static class FootageFormats
{
    private static readonly string[] Containers =
    [
        "mov",
        "mp4",
        "m4a",
        "3gp",
        "matroska",
        "webm",
        "mxf",
        "avi",
        "mpegts",
        "mpeg",
        "mpegvideo",
        "h264",
        "hevc",
        "m4v",
        "dv",
        "flv",
        "asf",
        "gxf",
        "ogg",
        "nut",
        "yuv4mpegpipe",
        "wav",
        "w64",
        "aiff",
        "caf",
        "flac",
        "mp3",
        "aac",
        "ac3",
        "eac3",
        "amr",
        "au",
        "wv",
        "tta",
        "ape",
        "dsf",
    ];

    /// <summary>What stands before the input in a call of ffmpeg or ffprobe.</summary>
    public static IReadOnlyList<string> Guard { get; } = ["-protocol_whitelist", "file", "-format_whitelist", string.Join(',', Containers)];

    /// <summary>The guard and the input itself, a path that is taken as nothing but a path.</summary>
    public static IReadOnlyList<string> Input(string path) => [.. Guard, "-i", "file:" + path];
}
