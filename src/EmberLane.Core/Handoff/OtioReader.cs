using System.Text.Json;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Reads OpenTimelineIO timelines. Of a child that is not known, and of a stack within a track, its length stays as a gap of its name.
/// </summary>
public static class OtioReader
{
    private const int Deepest = 64,
        MostItems = 200_000;

    /// <summary>
    /// The timeline at <paramref name="rate"/>: record lengths on its frames, source times from 00:00:00:00 of the file's own timecode.
    /// Throws <see cref="FormatException"/> that says what is wrong, and in which track and child.
    /// </summary>
    public static EditedTimeline Read(string text, FrameRate rate)
    {
        try
        {
            using var document = JsonDocument.Parse(text, new JsonDocumentOptions { MaxDepth = Deepest });
            return new Reading(rate).Timeline(document.RootElement);
        }
        catch (JsonException broken)
        {
            throw new FormatException(
                FormattableString.Invariant($"This is not JSON: line {broken.LineNumber + 1}, character {broken.BytePositionInLine + 1}, ")
                    + FormattableString.Invariant($"or it is nested more than {Deepest} deep."),
                broken
            );
        }
        catch (InvalidOperationException odd)
        {
            throw new FormatException("A text in this file holds half of a letter (a \\ud800 without its other half).", odd);
        }
        catch (OverflowException far)
        {
            throw new FormatException("A time in this file is too large for any recording.", far);
        }
    }

    private sealed class Reading(FrameRate rate)
    {
        private readonly TimecodeCount count = new(rate, false);
        private int items;

        public EditedTimeline Timeline(JsonElement root)
        {
            if (!Is(root, "Timeline"))
            {
                throw new FormatException("This is no timeline of OpenTimelineIO: it begins with “OTIO_SCHEMA”: “Timeline.1”.");
            }
            var tracks =
                root.TryGetProperty("tracks", out var stack) && stack.ValueKind == JsonValueKind.Object
                    ? Children(stack, "The timeline")
                    : [];
            var start =
                root.TryGetProperty("global_start_time", out var begins) && begins.ValueKind == JsonValueKind.Object
                    ? rate.NearestFrame(Time(begins, "The start"))
                    : 0;
            return new EditedTimeline(
                Text(root, "name"),
                count.LabelOf(start),
                [.. tracks.Where(t => Is(t, "Track")).Select(Track)],
                stack.ValueKind == JsonValueKind.Object ? Markers(stack) : []
            );
        }

        private Track Track(JsonElement track, int number)
        {
            var place = FormattableString.Invariant($"Track {number + 1}");
            var items = Children(track, place)
                .Select((child, i) => Item(child, FormattableString.Invariant($"{place}, child {i + 1}")))
                .ToList();
            return new Track(Text(track, "kind") == "Audio" ? TrackKind.Sound : TrackKind.Picture, Text(track, "name"), items);
        }

        private TimelineItem Item(JsonElement child, string place)
        {
            if (++items > MostItems)
            {
                throw new FormatException(FormattableString.Invariant($"{place}: more than {MostItems} children can not be read."));
            }
            var own = Own(child);
            var group =
                own.TryGetProperty("group", out var g) && g.ValueKind == JsonValueKind.Number && g.TryGetInt32(out var n) ? n : items;
            if (Is(child, "Transition"))
            {
                return new Transition(group, Offset(child, "in_offset", place) + Offset(child, "out_offset", place));
            }
            var (from, length) = RangeOf(child, place);
            if (!Is(child, "Clip"))
            {
                return new Gap(group, Text(child, "name"), Whole(length));
            }
            var media = MediaOf(child);
            var reel = Own(media) is var held && Text(held, "reel") is { Length: > 0 } named ? named : Text(media, "name");
            var file = Text(child, "name") is { Length: > 0 } name ? name : Path.GetFileName(Text(media, "target_url"));
            var open = own.TryGetProperty("channels", out var c) && c.ValueKind == JsonValueKind.Array ? Channels(c) : [];
            return new Clip(
                group,
                Text(own, "note"),
                new TimelineMedia(null, reel, file, open.Count, null, count),
                new SourceRange(new SourceTime(from), new SourceTime(from + Whole(length))),
                !child.TryGetProperty("enabled", out var on) || on.ValueKind != JsonValueKind.False
            )
            {
                Open = open.SequenceEqual(Enumerable.Range(1, open.Count)) ? null : open,
            };
        }

        // Where a child has no range of its own it is as long as its media.
        private static (MediaTime From, MediaTime Length) RangeOf(JsonElement child, string place)
        {
            if (child.TryGetProperty("source_range", out var range) && range.ValueKind == JsonValueKind.Object)
            {
                return Range(range, place);
            }
            return
                MediaOf(child) is { ValueKind: JsonValueKind.Object } media
                && media.TryGetProperty("available_range", out var all)
                && all.ValueKind == JsonValueKind.Object
                ? Range(all, place)
                : throw new FormatException($"{place}: it has no “source_range”, and no media with an “available_range”.");
        }

        private static (MediaTime From, MediaTime Length) Range(JsonElement range, string place)
        {
            if (
                !range.TryGetProperty("start_time", out var from)
                || !range.TryGetProperty("duration", out var length)
                || Time(length, place) is var lasting && lasting < MediaTime.Zero
            )
            {
                throw new FormatException($"{place}: a range has a “start_time” and a “duration”, which is not below nothing.");
            }
            return (Time(from, place), Time(length, place));
        }

        private static JsonElement MediaOf(JsonElement clip)
        {
            if (clip.TryGetProperty("media_reference", out var one) && one.ValueKind == JsonValueKind.Object)
            {
                return one;
            }
            var key = Text(clip, "active_media_reference_key") is { Length: > 0 } named ? named : OtioWriter.Media;
            return
                clip.TryGetProperty("media_references", out var all)
                && all.ValueKind == JsonValueKind.Object
                && all.TryGetProperty(key, out var active)
                && active.ValueKind == JsonValueKind.Object
                ? active
                : default;
        }

        private List<Marker> Markers(JsonElement stack) =>
            stack.TryGetProperty("markers", out var markers) && markers.ValueKind == JsonValueKind.Array
                ?
                [
                    .. markers
                        .EnumerateArray()
                        .Where(m => m.ValueKind == JsonValueKind.Object && m.TryGetProperty("marked_range", out _))
                        .Select(m =>
                        {
                            var (from, length) = Range(m.GetProperty("marked_range"), "A marker");
                            var at = new RecordTime(Whole(from));
                            return new Marker(new RecordRange(at, at + Whole(length)), Text(m, "name"), Text(m, "comment"));
                        }),
                ]
                : [];

        private MediaTime Whole(MediaTime time) => rate.TimeOf(rate.NearestFrame(time));

        private static MediaTime Offset(JsonElement child, string field, string place) =>
            child.TryGetProperty(field, out var offset) && offset.ValueKind == JsonValueKind.Object ? Time(offset, place) : MediaTime.Zero;

        private static IReadOnlyList<JsonElement> Children(JsonElement of, string place) =>
            of.TryGetProperty("children", out var children) && children.ValueKind == JsonValueKind.Array
                ? [.. children.EnumerateArray()]
                : throw new FormatException($"{place} has no list of “children”.");

        private static List<int> Channels(JsonElement list) =>
            [.. list.EnumerateArray().Where(c => c.ValueKind == JsonValueKind.Number && c.TryGetInt32(out _)).Select(c => c.GetInt32())];

        private static JsonElement Own(JsonElement of) =>
            of.ValueKind == JsonValueKind.Object
            && of.TryGetProperty("metadata", out var data)
            && data.ValueKind == JsonValueKind.Object
            && data.TryGetProperty(OtioWriter.Own, out var own)
            && own.ValueKind == JsonValueKind.Object
                ? own
                : Nothing;

        private static readonly JsonElement Nothing = JsonDocument.Parse("{}").RootElement;

        private static bool Is(JsonElement element, string schema) =>
            element.ValueKind == JsonValueKind.Object && Text(element, "OTIO_SCHEMA").Split('.')[0] == schema;

        private static string Text(JsonElement of, string field) =>
            of.ValueKind == JsonValueKind.Object && of.TryGetProperty(field, out var text) && text.ValueKind == JsonValueKind.String
                ? text.GetString()!
                : "";

        // A rate is written as a fraction in binary: the supported rate that is meant by it, else as it stands.
        private static MediaTime Time(JsonElement time, string place)
        {
            if (
                time.ValueKind != JsonValueKind.Object
                || !time.TryGetProperty("value", out var value)
                || !time.TryGetProperty("rate", out var written)
                || value.ValueKind != JsonValueKind.Number
                || written.ValueKind != JsonValueKind.Number
                || !value.TryGetDecimal(out var units)
                || !written.TryGetDecimal(out var perSecond)
                || perSecond < 0.001m
                || perSecond > 10_000_000
                || decimal.Abs(units / perSecond) > 10_000_000
            )
            {
                throw new FormatException($"{place}: a time is a “value” at a “rate” above nothing.");
            }
            var meant = FrameRate.Supported.FirstOrDefault(r => decimal.Abs(((decimal)r.Numerator / r.Denominator) - perSecond) < 0.0005m);
            return meant.Numerator > 0
                ? MediaTime.FromSecondsRounded(units * meant.Denominator / meant.Numerator)
                : MediaTime.FromSecondsRounded(units / perSecond);
        }
    }
}
