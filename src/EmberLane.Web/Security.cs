namespace EmberLane.Web;

/// <summary>The headers that keep a page from running or loading anything that is not ours.</summary>
internal static class Security
{
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; media-src 'self'; connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    public static Task HeadersAsync(HttpContext context, RequestDelegate next)
    {
        // Another site must not reach this one by giving 127.0.0.1 a name of its own.
        if (context.Request.Host.Host is not ("127.0.0.1" or "localhost" or "::1" or "[::1]"))
        {
            context.Response.StatusCode = StatusCodes.Status421MisdirectedRequest;
            return context.Response.WriteAsync("Ember Lane answers only as 127.0.0.1 or localhost.");
        }
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        return next(context);
    }
}
