using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>When something was recorded: the day, empty where that is not known, and the time of day.</summary>
public readonly record struct RecordedWhen(string Day, MediaTime OfDay);

/// <summary>When what a question found was recorded, by what the files of it say.</summary>
internal sealed class FindTimes(SqliteConnection c, long? production)
{
    private static readonly RecordedWhen Unknown = new("", MediaTime.Zero);

    private readonly Lazy<(Dictionary<long, Source> Sources, Dictionary<long, RecordedWhen> Sittings)> known = new(() =>
        Read(c, production)
    );

    /// <summary>Of a moment of a sitting's clock, and of the sitting itself where it has none.</summary>
    public RecordedWhen OfSitting(long sitting, SittingTime? at) =>
        known.Value.Sittings.TryGetValue(sitting, out var begin)
            ? begin with
            {
                OfDay = begin.OfDay + (at?.FromZero ?? MediaTime.Zero),
            }
            : Unknown;

    /// <summary>Of a moment of a file.</summary>
    public RecordedWhen OfSource(long source, SourceTime at) =>
        known.Value.Sources.TryGetValue(source, out var file) && Begin(file) is var begin
            ? begin with
            {
                OfDay = begin.OfDay + at.FromZero,
            }
            : Unknown;

    private static (Dictionary<long, Source>, Dictionary<long, RecordedWhen>) Read(SqliteConnection c, long? production)
    {
        var sources = Footage.SourcesOfAll(c, production);
        // By the file that lies nearest to the clock's zero: its begin is the sitting's.
        var sittings = sources
            .Where(s => s is { SittingId: not null, Place: not null })
            .GroupBy(s => s.SittingId!.Value)
            .ToDictionary(
                g => g.Key,
                g =>
                {
                    var first = g.MinBy(s => Math.Abs(s.Place!.Value.Start.FromZero.Units))!;
                    var begin = Begin(first);
                    var day = begin.Day.Length > 0 ? begin.Day : g.Select(s => s.Day).FirstOrDefault(d => d.Length > 0) ?? "";
                    return new RecordedWhen(day, begin.OfDay - first.Place!.Value.Start.FromZero);
                }
            );
        return (sources.ToDictionary(s => s.Id), sittings);
    }

    private static RecordedWhen Begin(Source source) =>
        new(
            source.Day,
            source.Facts.Start switch
            {
                { SinceMidnight: { } midnight } => midnight,
                { Label: { } label } => label.Count.Rate.TimeOf(label.Frame),
                _ => source.Facts.RecordedAt is { } at
                    ? new MediaTime(at.TimeOfDay.Ticks * (MediaTime.UnitsPerSecond / TimeSpan.TicksPerSecond))
                    : MediaTime.Zero,
            }
        );
}
