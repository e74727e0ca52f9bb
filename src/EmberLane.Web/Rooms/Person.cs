using EmberLane.Core;
using EmberLane.Web.Access;

namespace EmberLane.Web.Rooms;

/// <summary>
/// The name that signs changes and bites: the account's or the link's, and where nobody need sign in, the one that was typed at this
/// browser, kept in a cookie of its own.
/// </summary>
internal static class Person
{
    public const int LongestName = 40;

    private const string Cookie = "person",
        Unnamed = "producer";

    /// <summary>The name that stands beside what is done by this request.</summary>
    public static string Of(HttpRequest request) => Visitor.Of(request.HttpContext)?.Name ?? Unnamed;

    /// <summary>The name that was typed at this browser, where nobody need sign in.</summary>
    public static string Typed(HttpRequest request) =>
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
