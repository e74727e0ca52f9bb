using EmberLane.Core.Media;
using EmberLane.Core.Sync;

namespace EmberLane.Core.SetFlags;

/// <summary>A placed source of a sitting as a flag looks for it; the day is empty where nobody knows it.</summary>
public sealed record FlaggableSource(long SittingId, SourceFacts Facts, ClockMap Place, string Day);

/// <summary>Where a flag lies: in which sitting, when on its clock, and whether by timecode or by the device's own clock.</summary>
public sealed record FlaggedMoment(long SittingId, SittingTime At, bool IsByTimecode)
{
    /// <summary>
    /// Where a flag lies among sources, its clock put right by <paramref name="correction"/>, which is added. Sources of another day are
    /// passed over; those that count the time of day are asked first, then those that only say when they were recorded. Null where nothing
    /// rolled at that time.
    /// </summary>
    public static FlaggedMoment? Of(SetFlag flag, MediaTime correction, IReadOnlyList<FlaggableSource> sources)
    {
        var day = flag.Day.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture);
        var moment = flag.At + correction;
        return Find(byTimecode: true) ?? Find(byTimecode: false);

        FlaggedMoment? Find(bool byTimecode)
        {
            foreach (var source in sources.Where(s => s.Day.Length == 0 || s.Day == day))
            {
                var start =
                    byTimecode ? DayTime.At(source.Facts.Start)
                    : source.Facts.RecordedAt is { } recorded ? MediaTime.FromMilliseconds((long)recorded.TimeOfDay.TotalMilliseconds)
                    : null;
                if (start is not { } began)
                {
                    continue;
                }
                // Over midnight too.
                var since = moment - began;
                since = since < MediaTime.Zero ? since + SetFlag.WholeDay : since;
                if (since < source.Facts.Duration)
                {
                    return new FlaggedMoment(source.SittingId, source.Place.ToSitting(new SourceTime(since)), byTimecode);
                }
            }
            return null;
        }
    }
}
