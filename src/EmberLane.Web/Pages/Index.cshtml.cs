using EmberLane.Core;
using EmberLane.Store;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>The productions there are.</summary>
public sealed class IndexModel(Footage footage, Desk desk) : PageModel
{
    public IReadOnlyList<(Production Production, IReadOnlyList<Stop> Stops)> Productions { get; private set; } = [];

    public string? Error { get; private set; }

    public void OnGet() => Productions = [.. footage.Productions().Select(p => (p, desk.Lane(p)))];

    public IActionResult OnPost(string? name)
    {
        var clean = TypedText.OneLine(name ?? "");
        if (clean.Length is 0 or > 120)
        {
            Error = "A production needs a name of at most 120 characters.";
            OnGet();
            return Page();
        }
        return Redirect(FormattableString.Invariant($"/productions/{footage.AddProduction(clean)}/gather"));
    }
}
