using EmberLane.Application.People;
using EmberLane.Core;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages.Door;

/// <summary>All accounts, for owners: who has one, who is locked out, and what happened at the door.</summary>
public sealed class AccountsModel(Options options, Accounts accounts, Admitting admitting, DoorLog log, TimeProvider time) : PageModel
{
    private const int Lines = 100;

    /// <summary>The accounts, the closed ones last.</summary>
    public IReadOnlyList<Account> Listed { get; private set; } = [];

    /// <summary>What happened at the door, the newest first, and where older ones begin; null when there are none.</summary>
    public IReadOnlyList<DoorLine> Happened { get; private set; } = [];

    /// <inheritdoc cref="Happened"/>
    public long? Older => Happened.Count == Lines ? Happened[^1].Id : null;

    /// <summary>An address that was just made for a new password; null when none was.</summary>
    public (string Address, string For)? Made { get; private set; }

    /// <summary>Why something was refused; null when it was not.</summary>
    public string? Refusal { get; private set; }

    private string Who => Visitor.Of(HttpContext)!.Name;

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    /// <summary>Whether no password of an account is tried now.</summary>
    public bool IsLocked(Account account) => account.LockedUntil > time.GetUtcNow();

    public IActionResult OnGet(long? before) => options.HasDoor ? Shown(before) : Redirect("/");

    public IActionResult OnPostOwner(long account, bool owner) => Change(() => accounts.SetOwner(account, owner, Who));

    public IActionResult OnPostClose(long account) => Change(() => accounts.Close(account, NewPassword.Stamp(), Who));

    public IActionResult OnPostEndSessions(long account) => Change(() => accounts.EndSessions(account, NewPassword.Stamp(), Who));

    public IActionResult OnPostUnlock(long account) => Change(() => accounts.Unlock(account, Who));

    /// <summary>Makes a way to a new password for somebody who forgot theirs.</summary>
    public IActionResult OnPostNewPassword(long account)
    {
        if (accounts.Get(account) is not { } found)
        {
            return NotFound();
        }
        Made = (Reach.Opened(options, Request) + "/join/" + admitting.NewPassword(found, Who), found.Name);
        return Shown(null);
    }

    private IActionResult Change(Action change)
    {
        try
        {
            change();
            return Redirect("/accounts");
        }
        catch (EditRefusedException refused)
        {
            Refusal = refused.Message;
            return Shown(null);
        }
    }

    private PageResult Shown(long? before)
    {
        Listed = accounts.All();
        Happened = log.Newest(Lines, before);
        return Page();
    }
}
