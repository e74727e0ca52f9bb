namespace EmberLane.Application.Rooms;

/// <summary>The beginning of what is too long for its place.</summary>
public static class Beginning
{
    /// <summary>All of it, or whole words of its beginning up to <paramref name="most"/> characters (from 1) and three dots.</summary>
    public static string Of(string said, int most)
    {
        if (said.Length <= most)
        {
            return said;
        }
        var cut = said.LastIndexOf(' ', most) is > 0 and var space ? space : most;
        return said[..(cut > 1 && char.IsHighSurrogate(said[cut - 1]) ? cut - 1 : cut)] + " …";
    }
}
