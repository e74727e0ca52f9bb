using System.Security.Claims;
using EmberLane.Application.People;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace EmberLane.Web.Pages.Door;

/// <summary>Where an address with a secret leads: an invitation, a link, or a way to a new password.</summary>
[Open]
[EnableRateLimiting(Access.Door.Tries)]
public sealed class JoinModel(
    IServiceProvider services,
    Options options,
    Admitting admitting,
    Admissions admissions,
    Accounts accounts,
    Footage footage,
    DoorLog log
) : PageModel
{
    /// <summary>What it lets do; null when it lets nobody in.</summary>
    public StoredAdmission? Admission { get; private set; }

    /// <summary>Why it does not, or why what was typed was refused; null when it was not.</summary>
    public string? Refused { get; private set; }

    /// <summary>The name that was typed.</summary>
    public string Typed { get; private set; } = "";

    /// <summary>The production that it leads into.</summary>
    public string Production => Admission?.ProductionId is { } id ? footage.Production(id)?.Name ?? "" : "";

    /// <summary>The name of the account that is signed in; null without.</summary>
    public string? SignedInAs => Visitor.Of(HttpContext)?.Account?.Name;

    /// <summary>What the page is headed with.</summary>
    public string Heading =>
        Admission?.Kind switch
        {
            AdmissionKind.Invitation => "An invitation",
            AdmissionKind.NewPassword => "A new password",
            _ => "This address lets nobody in",
        };

    public async Task<IActionResult> OnGetAsync(string secret)
    {
        if (!Opens(secret, null) || Admission is not { Kind: AdmissionKind.Link } link)
        {
            return Shown();
        }
        await HttpContext.SignInAsync(
            Access.Door.ByLink,
            new ClaimsPrincipal(new ClaimsIdentity([new Claim(Access.Door.LinkClaim, FormattableString.Invariant($"{link.Id}"))], "link")),
            new AuthenticationProperties { IsPersistent = true, ExpiresUtc = link.Terms.ExpiresAt }
        );
        log.Add(DoorEvent.AdmissionUsed, SignInName.ByLink(link.Label), "came by a link", link.ProductionId);
        return Redirect(ShownAddress.Of(link.ProductionId!.Value, link.Shows));
    }

    /// <summary>Makes an account by an invitation.</summary>
    public async Task<IActionResult> OnPostAsync(string secret, string? name, string? password, string? again)
    {
        if (!Opens(secret, AdmissionKind.Invitation))
        {
            return Shown();
        }
        Typed = name ?? "";
        var (fit, why) = SignInName.Fit(name);
        Refused = fit is null ? why : NewPassword.WhyNot(password, again, fit);
        return Refused is null ? await AcceptAsync(null, fit!, HashOf(fit!, password!)) : Shown();
    }

    /// <summary>Takes an invitation into the account that is signed in.</summary>
    public async Task<IActionResult> OnPostMineAsync(string secret) =>
        !Opens(secret, AdmissionKind.Invitation) ? Shown()
        : Visitor.Of(HttpContext)?.Account is { } account ? await AcceptAsync(account.Id, account.Name, null)
        : Redirect("/sign-in" + QueryString.Create("back", Request.Path));

    /// <summary>Keeps a new password.</summary>
    public async Task<IActionResult> OnPostRenewAsync(string secret, string? password, string? again)
    {
        if (!Opens(secret, AdmissionKind.NewPassword))
        {
            return Shown();
        }
        Refused = NewPassword.WhyNot(password, again, Admission!.Label);
        return Refused is null
            ? await TryAsync(
                () => admissions.Renew(Admission.Id, HashOf(Admission.Label, password!), NewPassword.Stamp()),
                "by a new password",
                "/me"
            )
            : Shown();
    }

    private Task<IActionResult> AcceptAsync(long? account, string name, string? hash) =>
        TryAsync(
            () => admissions.Accept(Admission!.Id, account, name, hash, NewPassword.Stamp()),
            "by an invitation",
            FormattableString.Invariant($"/productions/{Admission!.ProductionId}/read")
        );

    private async Task<IActionResult> TryAsync(Func<long> use, string how, string then)
    {
        try
        {
            await services.GetRequiredService<SigningIn>().InAsync(accounts.Get(use())!, remember: false, how);
            return Redirect(then);
        }
        catch (EditRefusedException refused)
        {
            Refused = refused.Message;
            return Shown();
        }
    }

    private bool Opens(string secret, AdmissionKind? kind)
    {
        var found = options.HasDoor ? admitting.Find(secret) : null;
        Refused =
            !options.HasDoor ? "Only this machine reaches Ember Lane, so nobody need sign in."
            : found is null || (kind is not null && found.Kind != kind) ? "There is no such address. Is it whole, to its last letter?"
            : admitting.WhyNot(found);
        if (Refused is null)
        {
            Admission = found;
        }
        else if (found is not null)
        {
            log.Add(DoorEvent.AdmissionRefused, found.Label, $"tried {Admissions.Said(found.Kind)}: {Refused}", found.ProductionId);
        }
        return Refused is null;
    }

    private string HashOf(string name, string password) =>
        services.GetRequiredService<IPasswordHasher<Account>>().HashPassword(new Account { Name = name }, password);

    private PageResult Shown()
    {
        // The secret stands in the address of this page: it goes nowhere else.
        Response.Headers["Referrer-Policy"] = "no-referrer";
        Response.StatusCode = Admission is null ? StatusCodes.Status410Gone : StatusCodes.Status200OK;
        return Page();
    }
}
