using EmberLane.Core;

namespace EmberLane.Web.Rooms;

/// <summary>
/// Who sits at a browser: the name that was typed there, kept in a cookie of its own. It signs changes and bites; it is not a lock.
/// </summary>
internal static class Person
{
    public const int LongestName = 40;

    private const string Cookie = "person",
        Unnamed = "producer";

    public static string Of(HttpRequest request) =>
        request.Cookies.TryGetValue(Cookie, out var kept) && Fit(kept) is { } name ? name : Unnamed;

    /// <summary>Keeps the name for a year; an empty one is forgotten.</summary>
    public static void Name(HttpResponse response, string? typed)
    {
        if (Fit(typed) is { } name)
        {
            response.Cookies.Append(
                Cookie,
                name,
                new CookieOptions
                {
                    HttpOnly = true,
                    SameSite = SameSiteMode.Lax,
                    MaxAge = TimeSpan.FromDays(365),
                    IsEssential = true,
                }
            );
        }
        else
        {
            response.Cookies.Delete(Cookie);
        }
    }

    private static string? Fit(string? typed) => TypedText.OneLine(typed ?? "") is { Length: > 0 and <= LongestName } name ? name : null;
}
