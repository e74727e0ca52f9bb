using System.Globalization;
using System.Reflection;
using EmberLane.Core.People;
using EmberLane.Store;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.Mvc.RazorPages.Infrastructure;

namespace EmberLane.Web.Access;

/// <summary>
/// Lets nobody through who may not. What may be asked for by whom is said where it is answered (<see cref="NeedsAttribute"/>); what says
/// nothing is for those with the most rights.
/// </summary>
internal static class Gate
{
    /// <summary>The address of the page to sign in at.</summary>
    public const string SignIn = "/sign-in";

    /// <summary>Everything but open pages is for those who are known. Others are sent to sign in, or told so.</summary>
    public static Task KnownAsync(HttpContext context, RequestDelegate next)
    {
        if (Visitor.Of(context) is not null || context.GetEndpoint() is not { } endpoint || IsOpen(endpoint))
        {
            return next(context);
        }
        var request = context.Request;
        context.Response.Headers.CacheControl = "no-store";
        if (HttpMethods.IsGet(request.Method) && !request.Headers.ContainsKey("HX-Request") && Asks(request))
        {
            context.Response.Redirect(SignIn + QueryString.Create("back", request.Path + request.QueryString));
            return Task.CompletedTask;
        }
        context.Response.StatusCode = StatusCodes.Status401Unauthorized;
        context.Response.ContentType = "text/plain; charset=utf-8";
        return context.Response.WriteAsync(
            "You are signed out. Nothing was changed. Sign in again in another window, then repeat it here."
        );
    }

    /// <summary>What a handler of a page needs.</summary>
    public static Rights NeededBy(MethodInfo handler, Type page, string method) =>
        handler.GetCustomAttribute<NeedsAttribute>()?.Rights
        ?? (
            HttpMethods.IsGet(method) || HttpMethods.IsHead(method)
                ? Rights.Read
                : page.GetCustomAttribute<NeedsAttribute>()?.Rights ?? Rights.Run
        );

    /// <summary>Why this request was refused; null when it was not.</summary>
    public static string? WhyNot(HttpContext context) => context.Items[typeof(Gate)] as string;

    /// <summary>Refuses a request: a page for who goes to a page, a sentence for a part of one that asks.</summary>
    public static IActionResult Refuse(HttpContext context, string sentence)
    {
        if (!context.Request.Headers.ContainsKey("HX-Request") && Asks(context.Request))
        {
            context.Items[typeof(Gate)] = sentence;
            return new StatusCodeResult(StatusCodes.Status403Forbidden);
        }
        return new ContentResult
        {
            Content = sentence,
            ContentType = "text/plain; charset=utf-8",
            StatusCode = StatusCodes.Status403Forbidden,
        };
    }

    /// <summary>A sentence for who may not, and has <paramref name="rights"/>.</summary>
    public static string Sentence(Visitor visitor, long productionId, Rights rights, Rights needed) =>
        $"That is not yours to do here: it takes somebody who may {Either(needed)}. You are {visitor.RoleIn(productionId)}, and may "
        + $"{rights.Said()}. Nothing was changed; ask a producer of this production.";

    /// <summary>What somebody may do on a page of a production, at this address.</summary>
    public static Rights RightsAt(Visitor visitor, Type page, RouteValueDictionary address) =>
        NumberIn(address, "production") is not { } production ? Rights.None
        : page.GetCustomAttribute<ByLinkAttribute>() is null ? visitor.In(production)
        : visitor.Shown(production, new LinkScope(NumberIn(address, "sitting"), NumberIn(address, "story")));

    /// <summary>A number of an address; null where it names none.</summary>
    public static long? NumberIn(RouteValueDictionary address, string name) =>
        address[name] is string text && long.TryParse(text, NumberStyles.None, CultureInfo.InvariantCulture, out var number)
            ? number
            : null;

    private static string Either(Rights rights) => rights.Said().Replace(" and ", " or ", StringComparison.Ordinal);

    private static bool IsOpen(Endpoint endpoint) =>
        endpoint.Metadata.GetMetadata<OpenAttribute>() is not null
        || endpoint.Metadata.GetMetadata<CompiledPageActionDescriptor>()?.HandlerTypeInfo.GetCustomAttribute<OpenAttribute>() is not null;

    // A browser going to a page; not a script, a picture or a sound.
    private static bool Asks(HttpRequest request) =>
        request.Headers["Sec-Fetch-Dest"].ToString() is "" or "document" && !request.Path.StartsWithSegments("/media");
}

/// <summary>Asks of each page's handler what it needs, and refuses who has none of it.</summary>
internal sealed class PageGate(DoorLog log) : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        var page = context.ActionDescriptor.HandlerTypeInfo;
        if (context.HandlerMethod is not { } handler)
        {
            // The framework would show the page all the same, with nothing read and nobody asked.
            context.Result = new NotFoundResult();
            return Task.CompletedTask;
        }
        if (page.GetCustomAttribute<OpenAttribute>() is not null)
        {
            return next();
        }
        if (Visitor.Of(context.HttpContext) is not { } visitor)
        {
            context.Result = new UnauthorizedResult();
            return Task.CompletedTask;
        }
        if (!context.RouteData.Values.ContainsKey("production"))
        {
            if (!visitor.IsOwner && page.GetCustomAttribute<ForVisitorsAttribute>() is null)
            {
                context.Result = Refuse(context, visitor, "That is for owners of this Ember Lane. Nothing was changed.", null);
                return Task.CompletedTask;
            }
            return next();
        }
        var production = Gate.NumberIn(context.RouteData.Values, "production");
        var rights = Gate.RightsAt(visitor, page, context.RouteData.Values);
        var needed = Gate.NeededBy(handler.MethodInfo, page, context.HttpContext.Request.Method);
        if (rights.HasAny(needed))
        {
            return next();
        }
        // Who is not in a production is not told that it is there.
        context.Result = rights.HasFlag(Rights.Read)
            ? Refuse(context, visitor, Gate.Sentence(visitor, production ?? 0, rights, needed), production)
            : new NotFoundResult();
        return Task.CompletedTask;
    }

    private IActionResult Refuse(PageHandlerExecutingContext context, Visitor visitor, string sentence, long? production)
    {
        var request = context.HttpContext.Request;
        log.Add(DoorEvent.Forbidden, visitor.Name, $"refused: {request.Method} {request.Path}{request.QueryString}", production);
        return Gate.Refuse(context.HttpContext, sentence);
    }
}
