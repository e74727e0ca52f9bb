using EmberLane.Web.Access;

namespace EmberLane.Web;

/// <summary>The headers that keep a page from running or loading anything that is not ours.</summary>
internal static class Security
{
    private const string Policy =
        "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; media-src 'self'; connect-src "
        + "'self'; worker-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'";

    // A browser says which site a request comes from. A link to a page may stand anywhere; all else is asked for by our own pages only:
    // what a page elsewhere could have the browser send would start programs here.
    private static bool IsFromElsewhere(HttpRequest request) =>
        request.Headers["Sec-Fetch-Site"].ToString() is "cross-site" or "same-site"
        && !(
            HttpMethods.IsGet(request.Method)
            && request.Headers["Sec-Fetch-Mode"] == "navigate"
            && request.Headers["Sec-Fetch-Dest"] == "document"
            && !request.Query.ContainsKey("handler")
            && !request.Path.StartsWithSegments("/media")
        );

    public static Func<HttpContext, RequestDelegate, Task> Headers(Options options, ServerCertificate? certificate) =>
        (context, next) => HeadersAsync(context, next, options, certificate);

    private static Task HeadersAsync(HttpContext context, RequestDelegate next, Options options, ServerCertificate? certificate)
    {
        // Another site must not reach this one by giving its address a name of its own.
        if (!Reach.AnswersTo(context.Request.Host.Host, options, certificate?.Current.Names ?? []))
        {
            context.Response.StatusCode = StatusCodes.Status421MisdirectedRequest;
            return context.Response.WriteAsync(
                options.IsTls
                    ? "Ember Lane does not answer by this name: it is neither in its certificate nor the one given with --behind."
                    : "Ember Lane answers only as 127.0.0.1 or localhost."
            );
        }
        if (IsFromElsewhere(context.Request))
        {
            context.Response.StatusCode = StatusCodes.Status403Forbidden;
            return context.Response.WriteAsync(
                "This was asked for by a page of another site, so it is not answered. Open Ember Lane itself."
            );
        }
        var headers = context.Response.Headers;
        headers["Cross-Origin-Resource-Policy"] = "same-origin";
        headers.ContentSecurityPolicy = Policy;
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Cross-Origin-Opener-Policy"] = "same-origin";
        return next(context);
    }
}
