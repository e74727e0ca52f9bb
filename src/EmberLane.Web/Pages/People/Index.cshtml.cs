using EmberLane.Application.People;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;

namespace EmberLane.Web.Pages.People;

/// <summary>Who is in a production, as what; invitations and links into it; and what happened at its door.</summary>
[Needs(Rights.Run)]
public sealed class IndexModel(
    Footage footage,
    Desk desk,
    Options options,
    Accounts accounts,
    Members members,
    Admitting admitting,
    Admissions admissions,
    DoorLog log,
    TimeProvider time
) : LiveRoom(footage, desk)
{
    private const int Lines = 40;

    public override string Room => "People";

    /// <summary>Whether people must sign in; without, this page only says how to let them in.</summary>
    public bool HasDoor => options.HasDoor;

    /// <summary>Who is in it.</summary>
    public IReadOnlyList<Member> Listed { get; private set; } = [];

    /// <summary>The owners, who are in all productions.</summary>
    public IReadOnlyList<Account> Owners { get; private set; } = [];

    /// <summary>Accounts that are not in it, to be taken in without an invitation.</summary>
    public IReadOnlyList<Account> Others { get; private set; } = [];

    /// <summary>Invitations and links that let in now.</summary>
    public IReadOnlyList<StoredAdmission> Open { get; private set; } = [];

    /// <summary>What happened at its door, the newest first.</summary>
    public IReadOnlyList<DoorLine> Happened { get; private set; } = [];

    /// <summary>An address that was just made, to be sent to whom it is for; it is shown this once. Null when none was.</summary>
    public (string Address, string For)? Made { get; private set; }

    /// <summary>Why something was refused; null when it was not.</summary>
    public string? Refusal { get; private set; }

    private bool IsOwner => Visitor.Of(HttpContext) is { IsOwner: true };

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    [Needs(Rights.Run)]
    public void OnGet() => Load();

    public IActionResult OnPostInvite(string? label, Role role, int days) =>
        Make(label, () => admitting.Invite(Production.Id, role, label ?? "", days, Who));

    public IActionResult OnPostLink(string? label, bool listen, bool comment, bool mark, int days) =>
        Make(
            label,
            () =>
                admitting.Link(
                    Production.Id,
                    (listen ? Rights.Listen : 0) | (comment ? Rights.Comment : 0) | (mark ? Rights.Mark : 0),
                    label ?? "",
                    days,
                    Who
                )
        );

    /// <summary>Lets an invitation or a link of this production let in no more.</summary>
    public IActionResult OnPostWithdraw(long admission)
    {
        if (admissions.Get(admission) is not { } found || found.ProductionId != Production.Id)
        {
            return NotFound();
        }
        admissions.Withdraw(admission, Who);
        return Back();
    }

    /// <summary>Gives somebody another role; owners may take in whoever has an account.</summary>
    public IActionResult OnPostRole(long account, Role role) =>
        IsOwner || members.Of(Production.Id).Any(m => m.AccountId == account)
            ? Change(() => members.Set(Production.Id, account, role, Who))
            : NotFound();

    /// <summary>Takes somebody out of the production.</summary>
    public IActionResult OnPostOut(long account) => Change(() => members.Set(Production.Id, account, null, Who));

    private PageResult Make(string? label, Func<string> make)
    {
        try
        {
            var secret = make();
            Made = (Reach.Opened(options, Request) + "/join/" + secret, TypedText.OneLine(label ?? ""));
        }
        catch (EditRefusedException refused)
        {
            Refusal = refused.Message;
        }
        Load();
        return Page();
    }

    private IActionResult Change(Action change)
    {
        try
        {
            change();
            return Back();
        }
        catch (EditRefusedException refused)
        {
            Refusal = refused.Message;
            Load();
            return Page();
        }
    }

    // Who took themselves out can not see the page any more.
    private RedirectResult Back() => Redirect(FormattableString.Invariant($"/productions/{Production.Id}/people"));

    private void Load()
    {
        Listed = members.Of(Production.Id);
        var all = accounts.All().Where(a => a.ClosedAt is null).ToList();
        Owners = [.. all.Where(a => a.IsOwner)];
        // Producers of one production are not told who is in others.
        Others = [.. all.Where(a => IsOwner && !a.IsOwner && Listed.All(m => m.AccountId != a.Id))];
        Open = admissions.OpenOf(Production.Id);
        Happened = log.Newest(Lines, productionId: Production.Id);
    }
}
