using System.Globalization;

namespace EmberLane.Web.Rooms;

/// <summary>Moments as people say them, in this machine's time.</summary>
internal static class Moments
{
    /// <summary>“at 14:05” today, “on 3 Nov at 14:05” before; empty for 0, which is never. <paramref name="seconds"/> since 1970.</summary>
    public static string Of(long seconds, TimeProvider time) => seconds == 0 ? "" : Of(DateTimeOffset.FromUnixTimeSeconds(seconds), time);

    /// <inheritdoc cref="Of(long, TimeProvider)"/>
    public static string Of(DateTimeOffset moment, TimeProvider time)
    {
        var (then, now) = (TimeZoneInfo.ConvertTime(moment, time.LocalTimeZone), time.GetLocalNow());
        return then.ToString(
            then.Date == now.Date ? "'at' HH:mm"
                : then.Year == now.Year ? "'on' d MMM 'at' HH:mm"
                : "'on' d MMM yyyy",
            CultureInfo.InvariantCulture
        );
    }
}
