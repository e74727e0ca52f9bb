using EmberLane.Core.Handoff;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>The timecode beside what is read: that of the sitting's first camera that has one, else of its sound at 25 frames.</summary>
public sealed class MarginCode
{
    private readonly SourceTimecode label;
    private readonly ClockMap place;

    private MarginCode(Source source, SourceTimecode label, ClockMap place) =>
        (Name, this.label, this.place) = (Path.GetFileNameWithoutExtension(source.Name), label, place);

    /// <summary>The file whose timecode it is.</summary>
    public string Name { get; }

    /// <summary>Null when no placed file of the sitting has a timecode.</summary>
    public static MarginCode? Of(Sitting sitting, IReadOnlyList<Source> sources)
    {
        var known = sources
            .Where(s => s.Place is not null && (s.Facts.Start.Label is not null || s.Facts.Start.SinceMidnight is not null))
            .ToList();
        var chosen =
            known.Where(s => s.Facts.Picture is not null).OrderBy(s => s.Name, StringComparer.Ordinal).FirstOrDefault()
            ?? known.FirstOrDefault(s => s.Id == sitting.SoundSourceId);
        if (chosen is null)
        {
            return null;
        }
        var count = chosen.Facts.Start.Label?.Count ?? new TimecodeCount(FrameRate.R25, false);
        return new MarginCode(chosen, SourceTimecode.For(chosen.Facts, count), chosen.Place!.Value);
    }

    /// <summary>The label of the frame at a moment; empty before the file began and after it ended.</summary>
    public string At(SittingTime moment)
    {
        var at = place.ToSource(moment);
        var frame = label.FrameAt(at, 0);
        return at.FromZero < MediaTime.Zero || frame >= label.Available ? "" : label.Label(frame).ToString();
    }
}
