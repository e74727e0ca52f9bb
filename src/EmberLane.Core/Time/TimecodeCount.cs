using System.Diagnostics.CodeAnalysis;

namespace EmberLane.Core.Time;

/// <summary>How frames are counted as timecode: a rate, and drop frame or not.</summary>
/// <remarks>
/// Drop frame (SMPTE ST 12-1): the labels ;00 and ;01 of the first second of every minute but the tenth ones are left out, at 59.94 also
/// ;02 and ;03, so that labels keep pace with the clock on the wall. No frame is dropped, only labels.
/// </remarks>
public readonly record struct TimecodeCount
{
    /// <summary>Throws <see cref="ArgumentException"/> for drop frame at a rate that has none.</summary>
    public TimecodeCount(FrameRate rate, bool dropFrame)
    {
        if (dropFrame && !CanDrop(rate))
        {
            throw new ArgumentException(
                $"There is no drop-frame timecode at {rate} frames a second; it exists at 29.97 and 59.94.",
                nameof(dropFrame)
            );
        }
        Rate = rate;
        DropFrame = dropFrame;
    }

    /// <summary>Frames a second.</summary>
    public FrameRate Rate { get; }

    /// <summary>Whether labels are left out, so that they keep near the clock on the wall.</summary>
    public bool DropFrame { get; }

    /// <summary>Every supported way of counting.</summary>
    public static IReadOnlyList<TimecodeCount> Supported { get; } =
    [
        .. FrameRate.Supported.SelectMany(r =>
            CanDrop(r) ? new[] { new TimecodeCount(r, false), new TimecodeCount(r, true) } : [new TimecodeCount(r, false)]
        ),
    ];

    /// <summary>Whether labels can be left out at this rate.</summary>
    public static bool CanDrop(FrameRate rate) => rate == FrameRate.R2997 || rate == FrameRate.R5994;

    /// <summary>Labels left out in a minute that leaves out any: 0, 2 or 4.</summary>
    internal int LabelsLeftOut => DropFrame ? Rate.Nominal / 15 : 0;

    private long PerMinute => (60L * Rate.Nominal) - LabelsLeftOut;

    private long PerTenMinutes => (600L * Rate.Nominal) - (9L * LabelsLeftOut);

    /// <summary>Frames in 24 hours of labels.</summary>
    public long FramesInDay => 144 * PerTenMinutes;

    /// <summary>The label of a frame counted from midnight; 24 hours on it begins again.</summary>
    public Timecode LabelOf(long frame)
    {
        frame = ((frame % FramesInDay) + FramesInDay) % FramesInDay;
        var (tens, inTen) = Math.DivRem(frame, PerTenMinutes);
        // The first minute of ten leaves nothing out, so it is longer than the nine after it.
        long whole = 60L * Rate.Nominal,
            minute = 0,
            inMinute = inTen;
        if (inTen >= whole)
        {
            (minute, inMinute) = Math.DivRem(inTen - whole, PerMinute);
            minute++;
            inMinute += LabelsLeftOut;
        }
        minute += tens * 10;
        var (second, at) = Math.DivRem(inMinute, Rate.Nominal);
        return new Timecode(this, (int)(minute / 60), (int)(minute % 60), (int)second, (int)at);
    }

    /// <summary>
    /// Reads <c>01:02:03:04</c>, with <c>;</c> or <c>.</c> before the frames, one-digit fields, or eight digits without marks.
    /// The mark does not decide about drop frame; this count does. On failure <paramref name="error"/> says what is wrong.
    /// </summary>
    public bool TryParse(string? text, [NotNullWhen(true)] out Timecode? timecode, [NotNullWhen(false)] out string? error)
    {
        timecode = null;
        var trimmed = (text ?? "").Trim();
        var parts =
            trimmed.Length == 8 && trimmed.All(char.IsAsciiDigit)
                ? [trimmed[..2], trimmed[2..4], trimmed[4..6], trimmed[6..]]
                : trimmed.Split(':', ';', '.');
        if (parts.Length != 4 || parts.Any(p => p.Length is 0 or > 2 || !p.All(char.IsAsciiDigit)))
        {
            error = $"“{Shown(trimmed)}” is not a timecode; write it as 01:02:03:04.";
            return false;
        }
        var n = Array.ConvertAll(parts, p => int.Parse(p, System.Globalization.CultureInfo.InvariantCulture));
        error = Timecode.WhyNot(this, n[0], n[1], n[2], n[3]);
        if (error is not null)
        {
            return false;
        }
        timecode = new Timecode(this, n[0], n[1], n[2], n[3]);
        return true;
    }

    /// <summary>As <see cref="TryParse"/>; throws <see cref="FormatException"/> with the reason.</summary>
    public Timecode Parse(string text) =>
        TryParse(text, out var timecode, out var error) ? timecode.Value : throw new FormatException(error);

    private static string Shown(string text) => text.Length > 30 ? text[..30] + "…" : text;

    /// <inheritdoc/>
    public override string ToString() => DropFrame ? $"{Rate} drop frame" : Rate.ToString();
}
