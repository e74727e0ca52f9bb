using System.Globalization;

namespace EmberLane.Core.Time;

/// <summary>
/// A timecode label that exists: hours 0–23, minutes and seconds 0–59, frames below the nominal rate, none that drop frame leaves out.
/// </summary>
public readonly record struct Timecode
{
    /// <summary>Throws <see cref="ArgumentException"/> with the reason when there is no such label.</summary>
    public Timecode(TimecodeCount count, int hours, int minutes, int seconds, int frames)
    {
        if (WhyNot(count, hours, minutes, seconds, frames) is { } reason)
        {
            throw new ArgumentException(reason);
        }
        (Count, Hours, Minutes, Seconds, Frames) = (count, hours, minutes, seconds, frames);
    }

    /// <summary>How frames are counted.</summary>
    public TimecodeCount Count { get; }

    /// <summary>Hours, 0–23.</summary>
    public int Hours { get; }

    /// <summary>Minutes, 0–59.</summary>
    public int Minutes { get; }

    /// <summary>Seconds, 0–59.</summary>
    public int Seconds { get; }

    /// <summary>Frames, from 0 to one below those of a second.</summary>
    public int Frames { get; }

    /// <summary>Frames since midnight.</summary>
    public long Frame
    {
        get
        {
            long minutes = (Hours * 60L) + Minutes;
            var labels = (((minutes * 60) + Seconds) * Count.Rate.Nominal) + Frames;
            return labels - (Count.LabelsLeftOut * (minutes - (minutes / 10)));
        }
    }

    /// <summary>The label <paramref name="frames"/> later; past 24 hours it begins again.</summary>
    public Timecode Later(long frames) => Count.LabelOf(Frame + frames);

    /// <summary>Why such a label does not exist, or null when it does.</summary>
    internal static string? WhyNot(TimecodeCount count, int hours, int minutes, int seconds, int frames)
    {
        var shown = string.Create(
            CultureInfo.InvariantCulture,
            $"{hours:00}:{minutes:00}:{seconds:00}{(count.DropFrame ? ';' : ':')}{frames:00}"
        );
        if (hours is < 0 or > 23)
        {
            return $"{shown} does not exist: hours go from 00 to 23.";
        }
        if (minutes is < 0 or > 59)
        {
            return $"{shown} does not exist: minutes go from 00 to 59.";
        }
        if (seconds is < 0 or > 59)
        {
            return $"{shown} does not exist: seconds go from 00 to 59.";
        }
        if (frames < 0 || frames >= count.Rate.Nominal)
        {
            return string.Create(
                CultureInfo.InvariantCulture,
                $"{shown} does not exist: at {count.Rate} frames a second frames go from 00 to {count.Rate.Nominal - 1:00}."
            );
        }
        return seconds == 0 && frames < count.LabelsLeftOut && minutes % 10 != 0
            ? $"{shown} does not exist: drop frame leaves it out."
            : null;
    }

    /// <inheritdoc/>
    public override string ToString() =>
        string.Create(CultureInfo.InvariantCulture, $"{Hours:00}:{Minutes:00}:{Seconds:00}{(Count.DropFrame ? ';' : ':')}{Frames:00}");
}
