using System.Globalization;
using System.Text.RegularExpressions;

namespace EmberLane.Core.Import;

/// <summary>
/// Times as people write them: <c>1:02</c>, <c>01:02:03</c>, <c>01:02:03.5</c>, <c>01:02:03,500</c> and timecode <c>01:02:03:12</c>, whose
/// frames are counted as twenty-fifths: such a time only says about where a line is.
/// </summary>
public static partial class ClockText
{
    /// <summary>As a pattern, for a time within a line.</summary>
    public const string Pattern = @"[0-9]{1,3}:[0-9]{2}(?::[0-9]{2})?(?:[.,][0-9]{1,6}|[:;][0-9]{2})?";

    private const int Frames = 25;

    /// <summary>Null when it is not a time.</summary>
    public static MediaTime? Read(string text)
    {
        var match = Whole().Match(text.Trim());
        if (!match.Success)
        {
            return null;
        }
        long Number(int group) => match.Groups[group].Success ? long.Parse(match.Groups[group].Value, CultureInfo.InvariantCulture) : 0;
        var three = match.Groups[3].Success;
        long hours = three ? Number(1) : 0,
            minutes = three ? Number(2) : Number(1),
            seconds = three ? Number(3) : Number(2);
        if (seconds > 59 || (three && minutes > 59) || Number(5) >= 60)
        {
            return null;
        }
        var part = match.Groups[4].Success
            ? decimal.Parse("0." + match.Groups[4].Value, CultureInfo.InvariantCulture)
            : (decimal)Number(5) / Frames;
        return MediaTime.FromSecondsRounded((hours * 3600) + (minutes * 60) + seconds + part);
    }

    [GeneratedRegex(@"^([0-9]{1,3}):([0-9]{2})(?::([0-9]{2}))?(?:[.,]([0-9]{1,6})|[:;]([0-9]{2}))?$")]
    private static partial Regex Whole();
}
