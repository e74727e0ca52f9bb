using EmberLane.Application.People;
using EmberLane.Application.Work;
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
    Store.Stories stories,
    ShownStories shown,
    Upkeep upkeep,
    News news,
    TimeProvider time
) : LiveRoom(footage, desk)
{
    private readonly Footage footage = footage;

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

    /// <summary>What a link can show: everything, one story, one sitting, by what the form sends.</summary>
    public IReadOnlyList<(string Value, string Says, LinkScope Scope)> Shows =>
        [
            ("", "all stories and sittings", LinkScope.All),
            .. stories
                .Of(Production.Id)
                .Where(s => !s.IsAway)
                .Select(s => (FormattableString.Invariant($"story-{s.Id}"), $"the story “{s.Title}”", LinkScope.OfStory(s.Id))),
            .. footage
                .Sittings(Production.Id)
                .Select(s => (FormattableString.Invariant($"sitting-{s.Id}"), $"the sitting “{s.Title}”", LinkScope.OfSitting(s.Id))),
        ];

    /// <summary>What an open link shows, in words.</summary>
    public string SaidOf(LinkScope scope) =>
        Shows.FirstOrDefault(s => s.Scope == scope) is { Says: { } says } ? says : "a sitting or story that is gone";

    /// <summary>What the form asks for before anybody chose: what another page brought along.</summary>
    [BindProperty(SupportsGet = true)]
    public string? Show { get; set; }

    /// <summary>Makes a link; what it plays is made with it.</summary>
    public IActionResult OnPostLink(string? label, bool listen, bool comment, bool mark, int days) =>
        Make(
            label,
            () =>
            {
                var shows = Shows.Where(s => s.Value == (Show ?? "")).Select(s => (LinkScope?)s.Scope).FirstOrDefault();
                var secret = admitting.Link(
                    Production.Id,
                    (listen ? Rights.Listen : 0) | (comment ? Rights.Comment : 0) | (mark ? Rights.Mark : 0),
                    label ?? "",
                    days,
                    Who,
                    shows ?? throw new EditRefusedException("What the link shall show is not in the production any more. Choose again.")
                );
                if (listen)
                {
                    Prepare(shows.Value);
                }
                return secret;
            }
        );

    // A link is good without; its page then offers to have the copy made.
    private void Prepare(LinkScope shows)
    {
        upkeep.Ask(Production.Id);
        if (shows.Story is { } id && stories.Get(id, Who) is { } story && story.Story.Cards.Any())
        {
            try
            {
                shown.Ask(story, Who);
                news.Tell();
            }
            catch (EditRefusedException refused)
            {
                Refusal = refused.Message;
            }
        }
    }

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
