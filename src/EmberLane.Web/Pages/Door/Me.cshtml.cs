using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using EmberLane.Web.Rooms;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace EmberLane.Web.Pages.Door;

/// <summary>Somebody's own account: where they are let in, their passkeys, password and sessions.</summary>
[ForVisitors]
[EnableRateLimiting(Access.Door.Tries)]
public sealed class MeModel(
    IServiceProvider services,
    Accounts accounts,
    Members members,
    Passkeys passkeys,
    Footage footage,
    DoorLog log,
    TimeProvider time
) : PageModel
{
    /// <summary>The longest name of a passkey, in characters.</summary>
    public const int LongestPasskeyName = 40;

    private SignInManager<Account> Manager => services.GetRequiredService<SignInManager<Account>>();

    private UserManager<Account> Users => services.GetRequiredService<UserManager<Account>>();

    /// <summary>Whose page it is.</summary>
    public Account Account { get; private set; } = null!;

    /// <summary>What they are in which productions.</summary>
    public IReadOnlyList<(Production Production, Role Role)> Roles { get; private set; } = [];

    /// <summary>Their passkeys.</summary>
    public IReadOnlyList<StoredPasskey> Passkeys { get; private set; } = [];

    /// <summary>What was done, and what was refused; null when nothing was.</summary>
    public string? Done { get; private set; }

    /// <inheritdoc cref="Done"/>
    public string? Refused { get; private set; }

    public string Moment(DateTimeOffset at) => Moments.Of(at, time);

    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        if (Visitor.Of(HttpContext)?.Account is { } account)
        {
            Account = account;
        }
        else
        {
            context.Result = Redirect("/");
        }
    }

    public IActionResult OnGet(string? done) =>
        Shown(
            done switch
            {
                "password" => "The new password holds. Everywhere else you are signed out.",
                "sessions" => "Everywhere else you are signed out.",
                "passkey" => "The passkey is made. Sign in with it the next time.",
                "no-passkey" => "That passkey opens nothing any more.",
                _ => null,
            },
            null
        );

    public async Task<IActionResult> OnPostPasswordAsync(string? old, string? password, string? again)
    {
        if (NewPassword.WhyNot(password, again, Account.Name) is { } why)
        {
            return Shown(null, why);
        }
        if (!(await Manager.CheckPasswordSignInAsync(Account, old ?? "", lockoutOnFailure: true)).Succeeded)
        {
            log.Add(DoorEvent.Refused, Account.Name, "refused: wrong password where another was to be chosen");
            return Shown(null, "The password that you have is another one. Nothing was changed.");
        }
        var hash = services.GetRequiredService<IPasswordHasher<Account>>().HashPassword(Account, password!);
        return accounts.Get(Account.Id) is { } now && accounts.ChangePassword(now, hash, NewPassword.Stamp())
            ? await StayAsync("password")
            : Redirect(Gate.SignIn);
    }

    public async Task<IActionResult> OnPostEndSessionsAsync()
    {
        accounts.EndSessions(Account.Id, NewPassword.Stamp(), Account.Name);
        return await StayAsync("sessions");
    }

    /// <summary>What a browser makes a passkey from.</summary>
    public async Task<IActionResult> OnPostPasskeyOptionsAsync() =>
        Content(
            await Manager.MakePasskeyCreationOptionsAsync(
                new PasskeyUserEntity
                {
                    Id = FormattableString.Invariant($"{Account.Id}"),
                    Name = Account.Name,
                    DisplayName = Account.Name,
                }
            ),
            "application/json"
        );

    public async Task<IActionResult> OnPostPasskeyAsync(string? credential, string? name)
    {
        var called = TypedText.OneLine(name ?? "");
        if (called.Length is 0 or > LongestPasskeyName)
        {
            return Shown(null, $"A passkey needs a name of at most {LongestPasskeyName} letters.");
        }
        try
        {
            var made = await Manager.PerformPasskeyAttestationAsync(credential ?? "");
            if (!made.Succeeded)
            {
                return Shown(null, "That passkey was not confirmed in time, or does not fit. Nothing was changed; try again.");
            }
            made.Passkey.Name = called;
            await Users.AddOrUpdatePasskeyAsync(Account, made.Passkey);
        }
        catch (EditRefusedException refused)
        {
            return Shown(null, refused.Message);
        }
        log.Add(DoorEvent.KeysChanged, Account.Name, $"made the passkey “{called}”");
        return Redirect("/me?done=passkey#passkeys");
    }

    public IActionResult OnPostNoPasskey(string? id)
    {
        if (passkeys.Of(Account.Id).FirstOrDefault(p => Convert.ToHexString(p.CredentialId) == id) is { } kept)
        {
            passkeys.Remove(kept.CredentialId, Account.Id);
            log.Add(DoorEvent.KeysChanged, Account.Name, $"took away the passkey “{kept.Name}”");
        }
        return Redirect("/me?done=no-passkey#passkeys");
    }

    // All sessions were ended, this one too: it goes on under the new stamp.
    private async Task<IActionResult> StayAsync(string done)
    {
        if (accounts.Get(Account.Id) is { } now)
        {
            await Manager.RefreshSignInAsync(now);
        }
        return Redirect("/me?done=" + done);
    }

    private PageResult Shown(string? done, string? refused)
    {
        (Done, Refused) = (done, refused);
        Roles =
        [
            .. members
                .RolesOf(Account.Id)
                .Select(r => (footage.Production(r.Key)!, r.Value))
                .Where(r => !r.Item1.IsAway)
                .OrderBy(r => r.Item1.Name),
        ];
        Passkeys = passkeys.Of(Account.Id);
        return Page();
    }
}
