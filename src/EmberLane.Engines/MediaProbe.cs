using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Media;

namespace EmberLane.Engines;

/// <summary>The file can not be used as footage. The message says which file and why.</summary>
public sealed class UnreadableMediaException(string message, Exception? inner = null) : Exception(message, inner);

/// <summary>Measures media files with ffprobe.</summary>
public static class MediaProbe
{
    private static readonly TimeSpan Limit = TimeSpan.FromMinutes(1);

    /// <summary>
    /// Bits a second below which no picture or sound is kept, not even of silence: a file that claims to be longer than that lies.
    /// </summary>
    private const int LeastBits = 400;

    /// <summary>
    /// Throws <see cref="UnreadableMediaException"/> for a file that is empty, broken or without picture and sound,
    /// <see cref="ToolException"/> when ffprobe is missing.
    /// </summary>
    public static async Task<SourceFacts> MeasureAsync(string path, CancellationToken cancel)
    {
        var name = Path.GetFileName(path);
        var file = new FileInfo(path);
        if (!file.Exists)
        {
            throw new UnreadableMediaException($"{name} is not there.");
        }
        if (file.Length == 0)
        {
            throw new UnreadableMediaException($"{name} is empty (0 bytes). Copy it again from the card.");
        }
        string json;
        try
        {
            json = await Tool.ReadAsync(
                "ffprobe",
                ["-v", "error", "-show_format", "-show_streams", "-of", "json", .. FootageFormats.Input(path)],
                Limit,
                cancel
            );
        }
        catch (ToolException failed) when (failed.InnerException is CliWrap.Exceptions.CommandExecutionException)
        {
            throw new UnreadableMediaException(
                $"{name} is not a media file that can be read, or it is cut short. Copy it again from the card, or leave it out.",
                failed
            );
        }
        try
        {
            using var document = JsonDocument.Parse(json);
            var facts = WithNotes(Facts(name, document.RootElement), path);
            return (Int128)file.Length * 8 * MediaTime.UnitsPerSecond >= (Int128)facts.Duration.Units * LeastBits
                ? facts
                : throw new UnreadableMediaException(
                    $"{name} claims to last {facts.Duration} and holds {file.Length:N0} bytes, too few for that. It is damaged or was not "
                        + "closed properly; repair or copy it again."
                );
        }
        catch (Exception odd) when (odd is JsonException or OverflowException or KeyNotFoundException or ArgumentException)
        {
            throw new UnreadableMediaException($"{name} gives measurements that make no sense. It is probably damaged.", odd);
        }
    }

    private static SourceFacts Facts(string name, JsonElement root)
    {
        var format = root.TryGetProperty("format", out var f) ? f : default;
        var streams = root.TryGetProperty("streams", out var list) ? list.EnumerateArray().ToList() : [];
        var video = streams.FirstOrDefault(s =>
            Text(s, "codec_type") == "video"
            && !(s.TryGetProperty("disposition", out var d) && d.TryGetProperty("attached_pic", out var still) && still.GetInt32() == 1)
        );
        var sound = streams
            .Where(s => Text(s, "codec_type") == "audio" && Number(s, "channels") is > 0 and <= 64 && Number(s, "sample_rate") is > 0)
            .Select(s => new SoundTrack(
                s.GetProperty("index").GetInt32(),
                Text(s, "codec_name") ?? "",
                (int)Number(s, "sample_rate")!,
                (int)Number(s, "channels")!
            ))
            .ToList();
        PictureFacts? picture = null;
        if (video.ValueKind == JsonValueKind.Object && Rate(video, "r_frame_rate") is { } rate)
        {
            // Where frames come unevenly the average says best how many there are.
            var average = Rate(video, "avg_frame_rate") ?? rate;
            var varies = Differ(rate, average);
            picture = new PictureFacts(
                Text(video, "codec_name") ?? "",
                Text(video, "pix_fmt") ?? "",
                (int)(Number(video, "width") ?? 0),
                (int)(Number(video, "height") ?? 0),
                varies ? Nearest(average) : rate,
                varies
            );
        }
        if (picture is null && sound.Count == 0)
        {
            throw new UnreadableMediaException($"{name} holds neither picture nor sound.");
        }
        var audio = streams.FirstOrDefault(s => Text(s, "codec_type") == "audio");
        var duration =
            Duration(picture is null ? audio : video)
            ?? Duration(audio)
            ?? Seconds(Text(format, "duration"))
            ?? throw new UnreadableMediaException(
                $"{name} does not say how long it is. It was probably not closed properly; repair or copy it again."
            );
        if (duration <= MediaTime.Zero)
        {
            throw new UnreadableMediaException($"{name} has no length.");
        }
        var tags = streams
            .Append(format)
            .Where(s => s.ValueKind == JsonValueKind.Object && s.TryGetProperty("tags", out _))
            .Select(s => s.GetProperty("tags"))
            .ToList();
        var container = (Tag(tags, "major_brand") ?? "").StartsWith("qt", StringComparison.Ordinal)
            ? "mov"
            : Text(format, "format_name") ?? "";
        return new SourceFacts(
            container,
            duration,
            picture,
            sound,
            Start(tags, picture, sound),
            Tag(tags, "reel_name"),
            Tag(tags, "make") ?? Tag(tags, "manufacturer"),
            Tag(tags, "model")
        )
        {
            Scene = Tag(tags, "scene"),
            Take = Tag(tags, "take"),
            RecordedAt = Recorded(tags),
        };
    }

    private static SourceFacts WithNotes(SourceFacts facts, string path)
    {
        if (facts.Picture is not null || facts.Sound.Count == 0)
        {
            return facts;
        }
        var notes = WaveChunks.Notes(path);
        return facts with
        {
            Scene = facts.Scene ?? notes.Scene,
            Take = facts.Take ?? notes.Take,
            ReelTag = facts.ReelTag ?? notes.Tape,
            ChannelNames = [.. notes.ChannelNames.Take(facts.Channels)],
        };
    }

    // A camera writes one moment; a recorder writes its day and its time apart. What lies before 1990 is a clock that was never set.
    private static DateTime? Recorded(List<JsonElement> tags)
    {
        var moment = Tag(tags, "creation_time") ?? "";
        var text = Tag(tags, "date") is { Length: 10 } day && moment.Length <= 8 ? day + (moment.Length == 8 ? "T" + moment : "") : moment;
        return
            DateTime.TryParse(
                text,
                CultureInfo.InvariantCulture,
                DateTimeStyles.AdjustToUniversal | DateTimeStyles.AssumeUniversal,
                out var at
            )
            && at.Year is >= 1990 and < 2200
            && text.Length >= 10
            ? DateTime.SpecifyKind(at, DateTimeKind.Unspecified)
            : null;
    }

    private static StartOfFile Start(List<JsonElement> tags, PictureFacts? picture, List<SoundTrack> sound)
    {
        if (picture is not null && Tag(tags, "timecode") is { } label)
        {
            var drop = TimecodeCount.CanDrop(picture.Rate) && label.Contains(';', StringComparison.Ordinal);
            return new TimecodeCount(picture.Rate, drop).TryParse(label, out var timecode, out _)
                ? new StartOfFile(timecode, null)
                : StartOfFile.Unknown;
        }
        return
            sound.Count > 0
            && long.TryParse(Tag(tags, "time_reference"), NumberStyles.None, CultureInfo.InvariantCulture, out var samples)
            && samples < 86_400L * sound[0].SampleRate
            ? new StartOfFile(null, MediaTime.FromSamples(samples, sound[0].SampleRate))
            : StartOfFile.Unknown;
    }

    private static MediaTime? Duration(JsonElement stream)
    {
        if (stream.ValueKind != JsonValueKind.Object)
        {
            return null;
        }
        var unit = (Text(stream, "time_base") ?? "").Split('/');
        return
            Number(stream, "duration_ts") is { } ticks
            && unit.Length == 2
            && long.TryParse(unit[0], out var top)
            && long.TryParse(unit[1], out var bottom)
            && bottom > 0
            ? new MediaTime(Exact.RoundDivide((Int128)ticks * top * MediaTime.UnitsPerSecond, bottom))
            : Seconds(Text(stream, "duration"));
    }

    private static MediaTime? Seconds(string? text) =>
        decimal.TryParse(text, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out var seconds) && seconds < 10_000_000
            ? MediaTime.FromSecondsRounded(seconds)
            : null;

    private static FrameRate? Rate(JsonElement stream, string name) =>
        FrameRate.TryParse(Text(stream, name), out var rate) && rate.Value.Nominal <= 1000 ? rate : null;

    private static bool Differ(FrameRate a, FrameRate b)
    {
        long x = (long)a.Numerator * b.Denominator,
            y = (long)b.Numerator * a.Denominator;
        return Math.Abs(x - y) * 2000 > Math.Max(x, y);
    }

    private static FrameRate Nearest(FrameRate rate) =>
        FrameRate.Supported.MinBy(s => Math.Abs(((decimal)s.Numerator / s.Denominator) - ((decimal)rate.Numerator / rate.Denominator)));

    // Some devices put the name of who defined a tag before its own, with dots between.
    private static string? Tag(List<JsonElement> tags, string name) =>
        tags.SelectMany(t => t.EnumerateObject())
            .Where(p =>
                p.Name.Equals(name, StringComparison.OrdinalIgnoreCase) || p.Name.EndsWith("." + name, StringComparison.OrdinalIgnoreCase)
            )
            .Select(p => p.Value.GetString())
            .FirstOrDefault(v => !string.IsNullOrWhiteSpace(v));

    private static string? Text(JsonElement element, string name) =>
        element.ValueKind == JsonValueKind.Object && element.TryGetProperty(name, out var value) && value.ValueKind == JsonValueKind.String
            ? value.GetString()
            : null;

    private static long? Number(JsonElement element, string name) =>
        element.TryGetProperty(name, out var value)
            ? value.ValueKind == JsonValueKind.Number
                ? value.GetInt64()
                : long.TryParse(value.GetString(), NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                    ? n
                    : null
            : null;
}
