using System.Collections.Concurrent;
using System.Text.Json;
using EmberLane.Core.Media;

namespace EmberLane.Store;

/// <summary>What was measured from a file, as the text of a column.</summary>
internal static class FactsText
{
    private sealed record Row(
        string Container,
        long Duration,
        string? Codec,
        string? PixelFormat,
        int Width,
        int Height,
        string? Rate,
        bool RateVaries,
        List<SoundTrack> Sound,
        string? Label,
        bool LabelDrops,
        long? SinceMidnight,
        string? ReelTag,
        string? Make,
        string? Model,
        string? Scene = null,
        string? Take = null,
        DateTime? RecordedAt = null,
        List<string>? ChannelNames = null
    );

    public static string Write(SourceFacts f) =>
        JsonSerializer.Serialize(
            new Row(
                f.Container,
                f.Duration.Units,
                f.Picture?.Codec,
                f.Picture?.PixelFormat,
                f.Picture?.Width ?? 0,
                f.Picture?.Height ?? 0,
                f.Picture is { } p ? FormattableString.Invariant($"{p.Rate.Numerator}/{p.Rate.Denominator}") : null,
                f.Picture?.RateVaries ?? false,
                [.. f.Sound],
                f.Start.Label?.ToString(),
                f.Start.Label?.Count.DropFrame ?? false,
                f.Start.SinceMidnight?.Units,
                f.ReelTag,
                f.Make,
                f.Model,
                f.Scene,
                f.Take,
                f.RecordedAt,
                f.ChannelNames.Count > 0 ? [.. f.ChannelNames] : null
            )
        );

    /// <summary>
    /// So many are remembered: lists of thousands of sources are read again and again, and what was measured hardly ever changes.
    /// </summary>
    private const int MostKept = 20_000;

    private static readonly ConcurrentDictionary<string, SourceFacts> Kept = new(StringComparer.Ordinal);

    public static SourceFacts Read(string text)
    {
        if (Kept.TryGetValue(text, out var known))
        {
            return known;
        }
        if (Kept.Count >= MostKept)
        {
            Kept.Clear();
        }
        return Kept[text] = Parse(text);
    }

    private static SourceFacts Parse(string text)
    {
        var row = JsonSerializer.Deserialize<Row>(text)!;
        PictureFacts? picture = FrameRate.TryParse(row.Rate, out var rate)
            ? new PictureFacts(row.Codec!, row.PixelFormat!, row.Width, row.Height, rate.Value, row.RateVaries)
            : null;
        var label =
            row.Label is not null && picture is not null
                ? new TimecodeCount(picture.Rate, row.LabelDrops).Parse(row.Label)
                : (Timecode?)null;
        return new SourceFacts(
            row.Container,
            new MediaTime(row.Duration),
            picture,
            row.Sound,
            new StartOfFile(label, row.SinceMidnight is { } units ? new MediaTime(units) : null),
            row.ReelTag,
            row.Make,
            row.Model
        )
        {
            Scene = row.Scene,
            Take = row.Take,
            RecordedAt = row.RecordedAt,
            ChannelNames = row.ChannelNames ?? [],
        };
    }
}
