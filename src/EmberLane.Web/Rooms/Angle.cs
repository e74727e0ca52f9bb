using System.Globalization;
using EmberLane.Store;

namespace EmberLane.Web.Rooms;

/// <summary>A placed source as the player needs it, in seconds on the sitting's clock; not exact, for the screen only.</summary>
public sealed record Angle(long SourceId, string Name, string Start, string Rate, string Length, bool Playable)
{
    public static Angle Of(Source source, bool playable)
    {
        var place = source.Place ?? new ClockMap(default, 0);
        return new Angle(source.Id, Path.GetFileNameWithoutExtension(source.Name), place.Start.FromZero.ToSecondsText(),
            (1 + (place.DriftPerBillion / 1e9)).ToString("0.000000000", CultureInfo.InvariantCulture), source.Facts.Duration.ToSecondsText(), playable);
    }
}
