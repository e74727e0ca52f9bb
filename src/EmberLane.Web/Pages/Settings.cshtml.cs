using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>Choices for the whole installation.</summary>
public sealed class SettingsModel(Recognisers recognisers, FootageFolders folders) : PageModel
{
    public Recognisers Recognisers => recognisers;

    public FootageFolders Folders => folders;

    public bool Saved { get; private set; }

    public void OnGet(bool saved) => Saved = saved;

    /// <summary>Keeps the name of the person at this browser, and goes back to the page they came from.</summary>
    public IActionResult OnPostPerson(string? person, string? back)
    {
        Person.Name(Response, person);
        return LocalRedirect(Url.IsLocalUrl(back) ? back : "/settings");
    }

    public IActionResult OnPost(string? recogniser)
    {
        recognisers.Choose(recogniser ?? "");
        return Redirect("/settings?saved=true");
    }
}
