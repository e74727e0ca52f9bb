using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace EmberLane.Web.Pages.Door;

/// <summary>Where people sign in, and out.</summary>
[Open]
[EnableRateLimiting(Access.Door.Tries)]
public sealed class SignInModel(IServiceProvider services, Options options) : PageModel
{
    /// <summary>The address of this Ember Lane's own that they wanted to go to.</summary>
    public string Back { get; private set; } = "/";

    /// <summary>The name that was typed, and why it was refused; null when it was not.</summary>
    public string Typed { get; private set; } = "";

    /// <inheritdoc cref="Typed"/>
    public string? Refused { get; private set; }

    public IActionResult OnGet(string? back) =>
        !options.HasDoor ? Redirect("/")
        : services.GetRequiredService<FirstOwner>().IsWanted ? Redirect("/first")
        : Visitor.Of(HttpContext)?.Account is not null ? Redirect(Local(back))
        : Shown(back, "", null);

    public async Task<IActionResult> OnPostAsync(string? name, string? password, bool remember, string? back) =>
        !options.HasDoor ? Redirect("/")
        : await services.GetRequiredService<SigningIn>().ByPasswordAsync(name, password, remember) ? Redirect(Local(back))
        : Shown(back, name ?? "", SigningIn.Refusal);

    /// <summary>What a browser asks a passkey to sign.</summary>
    public async Task<IActionResult> OnPostPasskeyOptionsAsync() =>
        options.HasDoor
            ? Content(await services.GetRequiredService<SignInManager<Account>>().MakePasskeyRequestOptionsAsync(null), "application/json")
            : NotFound();

    public async Task<IActionResult> OnPostPasskeyAsync(string? credential, string? back) =>
        !options.HasDoor ? Redirect("/")
        : await services.GetRequiredService<SigningIn>().ByPasskeyAsync(credential ?? "", remember: false) ? Redirect(Local(back))
        : Shown(back, "", "That passkey belongs to no account here, or it was not confirmed in time. Try again, or sign in by password.");

    /// <summary>Signs out of this browser, and leaves what a link gave.</summary>
    public async Task<IActionResult> OnPostOutAsync()
    {
        if (options.HasDoor && Visitor.Of(HttpContext) is { } visitor)
        {
            services.GetRequiredService<DoorLog>().Add(DoorEvent.SignedOut, visitor.Name, "signed out");
            await HttpContext.SignOutAsync(IdentityConstants.ApplicationScheme);
            await HttpContext.SignOutAsync(Access.Door.ByLink);
        }
        return Redirect("/sign-in");
    }

    private string Local(string? back) => Url.IsLocalUrl(back) ? back : "/";

    private PageResult Shown(string? back, string typed, string? refused)
    {
        (Back, Typed, Refused) = (Local(back), typed, refused);
        return Page();
    }
}
