using System.Globalization;
using System.Text.RegularExpressions;

namespace EmberLane.Web.Rooms;

/// <summary>What a page of a production is called, for those who see that somebody is there.</summary>
public static partial class NowPlaces
{
    /// <summary>The address of what stands in the head of each room: who else is there, and what is new.</summary>
    public static string AddressOf(RoomModel room) => FormattableString.Invariant($"/productions/{room.Production.Id}/since?handler=Now");

    /// <summary>
    /// A page's name by its address: the room, and the sitting where it is one's.
    /// </summary>
    /// <param name="page">The address.</param>
    /// <param name="titleOf">The title of a sitting of the production; null for what is none.</param>
    public static string Of(string page, Func<long, string?> titleOf)
    {
        var room = Room().Match(page).Groups[1].Value switch
        {
            "gather" => "Gather",
            "read" => "Read",
            "bites" => "Bites",
            "cutaways" => "Cutaways",
            "story" => "Story",
            "versions" => "Versions",
            "script" => "Script",
            "cameras" => "Cameras",
            "handoff" => "Hand-off",
            "find" => "Find",
            "comments" => "Comments",
            "since" or "changes" => "Changes",
            "people" => "People",
            "onset" => "On set",
            "shown" => "a link’s page",
            _ => "the production",
        };
        return
            Sitting().Match(page) is { Success: true } sitting
            && titleOf(long.Parse(sitting.Groups[1].Value, CultureInfo.InvariantCulture)) is { } title
            ? $"{room}, {title}"
            : room;
    }

    [GeneratedRegex("^/productions/[0-9]+/([a-z]+)")]
    private static partial Regex Room();

    [GeneratedRegex("/(?:read|cameras|gather/watch|gather/mics|shown/sitting)/([0-9]{1,15})(?:/|$)")]
    private static partial Regex Sitting();
}
