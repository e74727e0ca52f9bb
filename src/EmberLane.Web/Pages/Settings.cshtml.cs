using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>Choices for the whole installation.</summary>
public sealed class SettingsModel(Recognisers recognisers, Taggers taggers, SpeechModelFolder models, FootageFolders folders) : PageModel
{
    public Recognisers Recognisers => recognisers;

    public Taggers Taggers => taggers;

    public FootageFolders Folders => folders;

    public SpeechModelFolder Models => models;

    /// <summary>The path of a model that was typed, and why it was refused; null when it was not.</summary>
    public string TypedPath { get; private set; } = "";

    public string? Refused { get; private set; }

    public bool Saved { get; private set; }

    public void OnGet(bool saved) => Saved = saved;

    /// <summary>Keeps the name of the person at this browser, and goes back to the page they came from.</summary>
    public IActionResult OnPostPerson(string? person, string? back)
    {
        Person.Name(Response, person);
        return LocalRedirect(Url.IsLocalUrl(back) ? back : "/settings");
    }

    /// <summary>Lists a speech model that lies outside the data folder.</summary>
    public IActionResult OnPostModel(string? path)
    {
        TypedPath = (path ?? "").Trim();
        Refused = models.Name(TypedPath);
        return Refused is null ? Redirect("/settings#models") : Page();
    }

    /// <summary>Lists such a model no more.</summary>
    public IActionResult OnPostForget(string? path)
    {
        models.Forget(path ?? "");
        return Redirect("/settings#models");
    }

    /// <summary>Chooses who says what pictures show.</summary>
    public IActionResult OnPostTagger(string? tagger)
    {
        taggers.Choose(tagger ?? "");
        return Redirect("/settings?saved=true#tagger");
    }

    public IActionResult OnPost(string? recogniser)
    {
        recognisers.Choose(recogniser ?? "");
        return Redirect("/settings?saved=true");
    }
}
