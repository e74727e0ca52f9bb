using System.Globalization;
using EmberLane.Core.Pictures;

namespace EmberLane.Engines.Pictures;

/// <summary>What was seen of a file: frames of it in order of time, with faces in some, and where it is cut.</summary>
public sealed record SeenFile(IReadOnlyList<SeenFrame> Frames, IReadOnlyList<SourceTime> Cuts);

/// <summary>Reads frames of a file for measuring, with ffmpeg. Memory does not grow with their size.</summary>
public static class PictureReader
{
    /// <summary>Four frames a second are looked at, and one of four for faces.</summary>
    private const int PerSecond = 4,
        FacesEach = 4;

    private const int Longest = 384;

    /// <summary>A file longer than this (30 min) is looked at in places: nobody films a cutaway for so long.</summary>
    private static readonly MediaTime LongestWhole = MediaTime.FromMilliseconds(30 * 60_000);

    private static readonly MediaTime Slack = MediaTime.FromMilliseconds(1_000);

    private static readonly TimeSpan Limit = TimeSpan.FromHours(2),
        LimitOfOne = TimeSpan.FromMinutes(2);

    private static readonly string Small = string.Create(
            CultureInfo.InvariantCulture,
            $"scale=w='max(2,trunc({Longest}*min(1,dar)/2)*2)':h='max(2,trunc({Longest}/max(1,dar)/2)*2)'"
        ),
        // Rounded up: a file shorter than the time between two frames has one.
        SomeSmall = string.Create(CultureInfo.InvariantCulture, $"fps={PerSecond}:round=up,{Small}");

    /// <summary>
    /// All of a file where that is not too long, with the places where it is cut (ffmpeg's <c>scdet</c> at 5, which found 29 of 29 cuts of
    /// ours and none in moving takes). Times are the file's own. <paramref name="progress"/> gets how far it is.
    /// </summary>
    public static async Task<SeenFile> WholeAsync(string path, MediaTime length, Action<MediaTime>? progress, CancellationToken cancel)
    {
        if (length > LongestWhole)
        {
            return new SeenFile(await PlacesAsync(path, length, 60, cancel), []);
        }
        var cuts = Path.Combine(Path.GetTempPath(), FormattableString.Invariant($"ember-cuts-{Guid.NewGuid():N}"));
        var frames = new List<SeenFrame>();
        try
        {
            await ReadAsync(
                // No more than it said that it holds: a file that lies would fill the memory.
                ["-v", "error", "-nostdin", "-threads", "1", .. FootageFormats.Input(path), "-t", (length + Slack).ToSecondsText()],
                $"scdet=t=5,metadata=mode=print:key=lavfi.scd.time:file={Ffmpeg.InFilter(cuts)},{SomeSmall}",
                picture =>
                {
                    var at = new SourceTime(MediaTime.FromMilliseconds(1000L * frames.Count / PerSecond));
                    frames.Add(SeenFrame.Of(at, picture, frames.Count % FacesEach == 0 ? FaceNetwork.Find(picture) : null));
                    progress?.Invoke(at.FromZero);
                },
                Limit,
                cancel
            );
            return new SeenFile(frames, File.Exists(cuts) ? Cuts(await File.ReadAllLinesAsync(cuts, cancel)) : []);
        }
        finally
        {
            File.Delete(cuts);
        }
    }

    /// <summary>Two neighbouring frames at each of so many places, evenly spread; a place that can not be read is left out.</summary>
    public static async Task<IReadOnlyList<SeenFrame>> PlacesAsync(string path, MediaTime length, int places, CancellationToken cancel)
    {
        var frames = new List<SeenFrame>();
        for (var i = 0; i < places; i++)
        {
            var at = new SourceTime(new MediaTime(length.Units * ((2 * i) + 1) / (2 * places)));
            var here = new List<SeenFrame>();
            await ReadAsync(
                ["-v", "error", "-nostdin", "-ss", at.FromZero.ToSecondsText(), .. FootageFormats.Input(path), "-t", "1"],
                SomeSmall,
                picture =>
                {
                    if (here.Count < 2)
                    {
                        var moment = at + MediaTime.FromMilliseconds(1000L * here.Count / PerSecond);
                        here.Add(SeenFrame.Of(moment, picture, here.Count == 0 ? FaceNetwork.Find(picture) : null));
                    }
                },
                LimitOfOne,
                cancel
            );
            frames.AddRange(here);
        }
        return frames;
    }

    /// <summary>A JPEG as it lies on the disk, small. Throws <see cref="ToolException"/> where it is none.</summary>
    public static async Task<Raster> JpegAsync(string path, CancellationToken cancel)
    {
        Raster? read = null;
        await ReadAsync(
            ["-v", "error", "-nostdin", "-protocol_whitelist", "file", "-f", "jpeg_pipe", "-i", "file:" + path],
            Small,
            picture => read = picture,
            LimitOfOne,
            cancel
        );
        return read ?? throw new ToolException($"{Path.GetFileName(path)} holds no picture.");
    }

    private static async Task ReadAsync(
        IReadOnlyList<string> input,
        string filter,
        Action<Raster> take,
        TimeSpan limit,
        CancellationToken cancel
    )
    {
        await using var pictures = new PpmPictures(take);
        await Tool.PipeAsync(
            "ffmpeg",
            [.. input, "-an", "-sn", "-dn", "-vf", filter, "-f", "image2pipe", "-c:v", "ppm", "-pix_fmt", "rgb24", "pipe:1"],
            limit,
            null,
            pictures,
            cancel
        );
    }

    // “lavfi.scd.time=12.48”, among lines that say which frame that is.
    private static List<SourceTime> Cuts(IReadOnlyList<string> lines)
    {
        const string key = "lavfi.scd.time=";
        return
        [
            .. lines
                .Where(l => l.StartsWith(key, StringComparison.Ordinal))
                .Select(l =>
                    decimal.TryParse(l.AsSpan(key.Length), NumberStyles.Float, CultureInfo.InvariantCulture, out var at)
                        ? new SourceTime(MediaTime.FromSecondsRounded(at))
                        : default
                )
                .Where(at => at > default(SourceTime)),
        ];
    }
}
