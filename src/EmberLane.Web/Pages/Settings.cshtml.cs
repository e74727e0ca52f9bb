using EmberLane.Application.Backups;
using EmberLane.Application.Gathering;
using EmberLane.Application.Work;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages;

/// <summary>Choices for the whole installation.</summary>
public sealed class SettingsModel(
    Recognisers recognisers,
    Taggers taggers,
    SpeechModelFolder models,
    FootageFolders folders,
    BackupShelf shelf,
    BackupClock backups,
    Options options,
    TimeProvider time
) : PageModel
{
    /// <summary>So many backups are listed; the others are counted.</summary>
    private const int ListedBackups = 8;

    public Recognisers Recognisers => recognisers;

    public Taggers Taggers => taggers;

    public FootageFolders Folders => folders;

    public SpeechModelFolder Models => models;

    /// <summary>The path of a model that was typed, and why it was refused; null when it was not.</summary>
    public string TypedPath { get; private set; } = "";

    public string? Refused { get; private set; }

    public bool Saved { get; private set; }

    public BackupClock Backups => backups;

    /// <summary>The data folder, as a command is told it.</summary>
    public string Data => Path.GetFullPath(options.Data);

    /// <summary>Where backups lie.</summary>
    public string BackupFolder => shelf.Folder;

    /// <summary>The newest backups, each with when it was made, and how many there are.</summary>
    public (IReadOnlyList<(ShelvedBackup Backup, string When)> Newest, int Count) Shelved { get; private set; } = ([], 0);

    public void OnGet(bool saved)
    {
        Saved = saved;
        var all = shelf.All();
        Shelved = ([.. all.Take(ListedBackups).Select(b => (b, Moments.Of(b.At, time)))], all.Count);
    }

    /// <summary>Makes a backup at once. Why it could not be made stands on the page.</summary>
    public IActionResult OnPostBackup()
    {
        try
        {
            backups.Make();
        }
        catch (StoreException)
        {
            return Redirect("/settings#backups");
        }
        return Redirect("/settings?saved=true#backups");
    }

    /// <summary>Chooses every how many hours one is made.</summary>
    public IActionResult OnPostBackups(int hours)
    {
        if (!BackupClock.Choices.Contains(hours))
        {
            return BadRequest();
        }
        backups.Choose(hours);
        return Redirect("/settings?saved=true#backups");
    }

    /// <summary>A choice of hours in words.</summary>
    public static string Every(int hours) =>
        hours switch
        {
            0 => "never by itself",
            1 => "every hour",
            24 => "every day",
            _ => FormattableString.Invariant($"every {hours} hours"),
        };

    /// <summary>How large a backup is.</summary>
    public static string Size(ShelvedBackup backup) => FormattableString.Invariant($"{backup.Bytes / 1_000_000m:N1} MB");

    /// <summary>What a backup was made for, where that was not the hour.</summary>
    public static string For(ShelvedBackup backup) =>
        backup.For switch
        {
            BackupShelf.BeforeUpgrade => "before a newer Ember Lane was started",
            BackupShelf.BeforeRestore => "before another was brought back",
            _ => "",
        };

    /// <summary>Keeps the name of the person at this browser, and goes back to the page they came from.</summary>
    public IActionResult OnPostPerson(string? person, string? back)
    {
        if (Visitor.Of(HttpContext) is { IsAlone: true })
        {
            Person.Name(Response, person);
        }
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
