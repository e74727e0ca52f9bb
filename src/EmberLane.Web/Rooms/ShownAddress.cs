using EmberLane.Core.People;

namespace EmberLane.Web.Rooms;

/// <summary>Where the pages are that links show.</summary>
public static class ShownAddress
{
    /// <summary>The page of a sitting or a story; the list of both where a link shows all.</summary>
    public static string Of(long production, LinkScope shows) =>
        shows.Sitting is { } sitting ? FormattableString.Invariant($"/productions/{production}/shown/sitting/{sitting}")
        : shows.Story is { } story ? FormattableString.Invariant($"/productions/{production}/shown/story/{story}")
        : FormattableString.Invariant($"/productions/{production}/shown");
}
