using System.Buffers;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using EmberLane.Core.Timeline;

namespace EmberLane.Core.Handoff;

/// <summary>
/// Writes a timeline as OpenTimelineIO, the open interchange standard; its schema names and fields are in docs/formats.md.
/// </summary>
public static class OtioWriter
{
    /// <summary>The key of our own data in <c>metadata</c>.</summary>
    public const string Own = "ember_lane";

    /// <summary>The key of the one media reference of a clip, as the standard has it.</summary>
    public const string Media = "DEFAULT_MEDIA";

    private static readonly JsonWriterOptions Plain = new() { Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping };

    /// <summary>
    /// The timeline as JSON; <paramref name="urlOf"/> tells where a file lies. Record times are whole frames of the timeline's rate. Source
    /// times are in the file's own timecode at its own rate, in samples for a sound, so that a moment between two frames is a fraction.
    /// </summary>
    public static string Write(EditedTimeline timeline, Func<TimelineMedia, string> urlOf) =>
        Encoding.UTF8.GetString(Bytes(timeline, urlOf));

    /// <summary>The same as it is kept.</summary>
    public static byte[] Bytes(EditedTimeline timeline, Func<TimelineMedia, string> urlOf)
    {
        var buffer = new ArrayBufferWriter<byte>(1 << 20);
        using (var json = new Utf8JsonWriter(buffer, Plain))
        {
            new Writing(json, timeline.Start.Count.Rate, urlOf).Timeline(timeline);
        }
        buffer.Write("\n"u8);
        return buffer.WrittenSpan.ToArray();
    }

    /// <summary>By what a file's own time is counted: so many units a second, and the first unit of the file.</summary>
    internal static (int Numerator, int Denominator, long First) ClockOf(TimelineMedia media)
    {
        if (media.Facts is not { } facts)
        {
            return (media.Count.Rate.Numerator, media.Count.Rate.Denominator, 0);
        }
        if (facts.Picture is { } picture)
        {
            // A label of another rate than the picture's is counted as its seconds are.
            var first =
                facts.Start.Label is not { } label ? 0
                : label.Count.Rate == picture.Rate ? label.Frame
                : picture.Rate.NearestFrame(label.Count.Rate.TimeOf(label.Frame));
            return (picture.Rate.Numerator, picture.Rate.Denominator, first);
        }
        var samples = facts.Sound.Count > 0 ? facts.Sound[0].SampleRate : 48_000;
        var since = facts.Start.SinceMidnight ?? facts.Start.Label?.Count.Rate.TimeOf(facts.Start.Label.Value.Frame) ?? MediaTime.Zero;
        return (samples, 1, Exact.RoundDivide((Int128)since.Units * samples, MediaTime.UnitsPerSecond));
    }

    private sealed class Writing(Utf8JsonWriter json, FrameRate rate, Func<TimelineMedia, string> urlOf)
    {
        // By source, reel and name: what is the same for all clips of one file.
        private readonly Dictionary<
            (long? Source, string Reel, string Name),
            ((int Numerator, int Denominator, long First) Clock, string Url, decimal Lasts)
        > clocks = [];

        public void Timeline(EditedTimeline timeline)
        {
            Begin(null, "Timeline.1", timeline.Title);
            Time("global_start_time", timeline.Start.Frame);
            Begin("tracks", "Stack.1", "tracks");
            json.WriteNull("source_range");
            json.WriteStartArray("effects");
            json.WriteEndArray();
            json.WriteStartArray("markers");
            foreach (var marker in timeline.Markers)
            {
                Mark(marker);
            }
            json.WriteEndArray();
            json.WriteBoolean("enabled", true);
            json.WriteStartArray("children");
            foreach (var track in timeline.Tracks)
            {
                Track(track);
            }
            json.WriteEndArray();
            json.WriteEndObject();
            json.WriteEndObject();
        }

        private void Track(Track track)
        {
            Begin(null, "Track.1", track.Name);
            json.WriteString("kind", track.Kind == TrackKind.Picture ? "Video" : "Audio");
            Nothing();
            json.WriteBoolean("enabled", true);
            json.WriteStartArray("children");
            foreach (var (item, range) in track.Placed())
            {
                switch (item)
                {
                    case Gap gap:
                        Begin(null, "Gap.1", gap.Note, gap.Group);
                        Range("source_range", 0, Frames(range));
                        Lists();
                        json.WriteBoolean("enabled", true);
                        json.WriteEndObject();
                        break;
                    case Clip clip:
                        Clip(clip, Frames(range));
                        break;
                    case Transition dissolve:
                        Begin(null, "Transition.1", "", dissolve.Group);
                        json.WriteString("transition_type", "SMPTE_Dissolve");
                        Time("in_offset", 0);
                        Time("out_offset", rate.NearestFrame(dissolve.Lasting));
                        json.WriteEndObject();
                        break;
                }
            }
            json.WriteEndArray();
            json.WriteEndObject();
        }

        private void Clip(Clip clip, long frames)
        {
            json.WriteStartObject();
            json.WriteString("OTIO_SCHEMA", "Clip.2");
            json.WriteString("name", clip.Media.FileName);
            json.WriteStartObject("metadata");
            json.WriteStartObject(Own);
            json.WriteNumber("group", clip.Group);
            json.WriteString("note", clip.Note);
            json.WriteStartArray("channels");
            foreach (var channel in clip.Channels)
            {
                json.WriteNumberValue(channel);
            }
            json.WriteEndArray();
            json.WriteEndObject();
            json.WriteEndObject();
            var key = (clip.Media.SourceId, clip.Media.Reel, clip.Media.FileName);
            if (!clocks.TryGetValue(key, out var clock))
            {
                clocks[key] = clock = Known(clip.Media);
            }
            var ((numerator, denominator, first), url, lasts) = clock;
            json.WriteStartObject("source_range");
            json.WriteString("OTIO_SCHEMA", "TimeRange.1");
            Time("start_time", Along(clip.Range.In.FromZero, numerator, denominator, first), Inexact(numerator, denominator));
            Time("duration", frames);
            json.WriteEndObject();
            Lists(clip.Framed, clip.Narrow);
            json.WriteBoolean("enabled", clip.IsEnabled);
            json.WriteStartObject("media_references");
            Begin(Media, "ExternalReference.1", clip.Media.FileName, null, clip.Media.Reel);
            json.WriteString("target_url", url);
            if (clip.Media.Facts is not null)
            {
                json.WriteStartObject("available_range");
                json.WriteString("OTIO_SCHEMA", "TimeRange.1");
                Time("start_time", first, Inexact(numerator, denominator));
                Time("duration", lasts, Inexact(numerator, denominator));
                json.WriteEndObject();
            }
            else
            {
                json.WriteNull("available_range");
            }
            json.WriteNull("available_image_bounds");
            json.WriteEndObject();
            json.WriteEndObject();
            json.WriteString("active_media_reference_key", Media);
            json.WriteEndObject();
        }

        private ((int, int, long), string, decimal) Known(TimelineMedia media)
        {
            var (numerator, denominator, first) = ClockOf(media);
            var lasts = media.Facts is { } facts ? Along(facts.Duration, numerator, denominator, 0) : 0;
            return ((numerator, denominator, first), urlOf(media), lasts);
        }

        private void Mark(Marker marker)
        {
            Begin(null, "Marker.2", marker.Name);
            json.WriteString("color", "ORANGE");
            json.WriteString("comment", marker.Note);
            long from = rate.NearestFrame(marker.Range.In.FromZero),
                to = rate.NearestFrame(marker.Range.Out.FromZero);
            Range("marked_range", from, to - from);
            json.WriteEndObject();
        }

        private void Begin(string? field, string schema, string name, int? group = null, string? reel = null)
        {
            if (field is null)
            {
                json.WriteStartObject();
            }
            else
            {
                json.WriteStartObject(field);
            }
            json.WriteString("OTIO_SCHEMA", schema);
            json.WriteString("name", name);
            json.WriteStartObject("metadata");
            if (group is { } number)
            {
                json.WriteStartObject(Own);
                json.WriteNumber("group", number);
                json.WriteEndObject();
            }
            if (reel is not null)
            {
                json.WriteStartObject(Own);
                json.WriteString("reel", reel);
                json.WriteEndObject();
            }
            json.WriteEndObject();
        }

        private void Nothing()
        {
            json.WriteNull("source_range");
            Lists();
        }

        private void Lists(Framed? framed = null, NarrowView? narrow = null)
        {
            json.WriteStartArray("effects");
            if (framed is not null)
            {
                Effect(
                    "punch-in",
                    () =>
                    {
                        Seen("from", framed.From);
                        Seen("to", framed.To);
                    }
                );
            }
            if (narrow is not null)
            {
                Effect("shape", () => Turns(narrow));
            }
            json.WriteEndArray();
            json.WriteStartArray("markers");
            json.WriteEndArray();
        }

        private void Effect(string name, Action own)
        {
            json.WriteStartObject();
            json.WriteString("OTIO_SCHEMA", "Effect.1");
            json.WriteString("name", name);
            json.WriteStartObject("metadata");
            json.WriteStartObject(Own);
            own();
            json.WriteEndObject();
            json.WriteEndObject();
            json.WriteString("effect_name", name);
            json.WriteEndObject();
        }

        // From which frame of the clip on which middle, as a share of the picture's width; null for all of it.
        private void Turns(NarrowView narrow)
        {
            json.WriteString("shape", narrow.Shape);
            json.WriteStartArray("views");
            foreach (var (frame, centre) in narrow.Centres)
            {
                json.WriteStartObject();
                json.WriteNumber("frame", frame);
                if (centre is { } at)
                {
                    json.WriteNumber("across", at / 1000m);
                }
                else
                {
                    json.WriteNull("across");
                }
                json.WriteEndObject();
            }
            json.WriteEndArray();
        }

        // The part that is seen, as shares of the picture's width and height.
        private void Seen(string field, Crop crop)
        {
            json.WriteStartObject(field);
            json.WriteNumber("left", crop.Left / (decimal)Crop.Whole);
            json.WriteNumber("top", crop.Top / (decimal)Crop.Whole);
            json.WriteNumber("size", crop.Size / (decimal)Crop.Whole);
            json.WriteEndObject();
        }

        private void Range(string field, long from, long frames)
        {
            json.WriteStartObject(field);
            json.WriteString("OTIO_SCHEMA", "TimeRange.1");
            Time("start_time", from);
            Time("duration", frames);
            json.WriteEndObject();
        }

        private void Time(string field, long frames) => Time(field, frames, Inexact(rate.Numerator, rate.Denominator));

        private void Time(string field, decimal value, double perSecond)
        {
            json.WriteStartObject(field);
            json.WriteString("OTIO_SCHEMA", "RationalTime.1");
            json.WriteNumber("value", value);
            json.WriteNumber("rate", perSecond);
            json.WriteEndObject();
        }

        private long Frames(RecordRange range) => rate.NearestFrame(range.Out.FromZero) - rate.NearestFrame(range.In.FromZero);

        // Whole where it is; else to the millionth of a frame.
        private static decimal Along(MediaTime at, int numerator, int denominator, long first)
        {
            var over = (Int128)at.Units * numerator;
            var by = (Int128)MediaTime.UnitsPerSecond * denominator;
            var whole = (long)(over / by);
            var rest = decimal.Round((decimal)(over % by) / (decimal)by, 6);
            return first + whole + (rest == 0 ? 0 : rest);
        }

        private static double Inexact(int numerator, int denominator) => (double)numerator / denominator;
    }
}
