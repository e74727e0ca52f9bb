namespace EmberLane.Web.Rooms;

/// <summary>Lists of sittings.</summary>
internal static class SomeSittings
{
    /// <summary>From more than so many on a list has a field that narrows it by part of a title.</summary>
    public const int Long = 8;
}
