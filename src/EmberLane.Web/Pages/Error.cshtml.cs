using EmberLane.Web.Access;
using Microsoft.AspNetCore.Diagnostics;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>What a person sees when a page can not be shown.</summary>
[IgnoreAntiforgeryToken]
[Open]
public sealed class ErrorModel : PageModel
{
    public string Heading { get; private set; } = "Something went wrong";

    public string Advice { get; private set; } =
        "Nothing that was saved is lost. Go back and try again; what happened is written in the log folder of the data folder.";

    public IActionResult OnGet(int code) => Say(code);

    public IActionResult OnPost(int code) => Say(code);

    private IActionResult Say(int code)
    {
        code = code == 0 ? Response.StatusCode : code;
        if (HttpContext.Features.Get<IExceptionHandlerFeature>()?.Error is Microsoft.Data.Sqlite.SqliteException refused)
        {
            Response.StatusCode = code = StatusCodes.Status507InsufficientStorage;
            (Heading, Advice) = ("That was not saved", ErrorWords.Of(refused));
        }
        if (code == StatusCodes.Status404NotFound)
        {
            (Heading, Advice) = (
                "There is no such page",
                "It may have been moved or never existed. Everything starts from the productions."
            );
        }
        else if (code == StatusCodes.Status403Forbidden)
        {
            (Heading, Advice) = (
                "That is not yours to do here",
                Gate.WhyNot(HttpContext) ?? "Ask an owner or a producer. Nothing was changed."
            );
        }
        else if (code == StatusCodes.Status400BadRequest)
        {
            (Heading, Advice) = (
                "That could not be taken",
                "The page was open too long or what was sent was incomplete. Load the page again and repeat it."
            );
        }
        // A part of a page that asked shows the sentence where all its refusals are shown.
        return Request.Headers.ContainsKey("HX-Request")
            ? new ContentResult
            {
                Content = Advice,
                ContentType = "text/plain; charset=utf-8",
                StatusCode = Response.StatusCode,
            }
            : Page();
    }
}
