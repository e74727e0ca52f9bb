using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;
using EmberLane.Web.Access;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;

namespace EmberLane.Web.Pages.Door;

/// <summary>Where the first owner's account is made, by the word from the terminal.</summary>
[Open]
[EnableRateLimiting(Access.Door.Tries)]
public sealed class FirstModel(IServiceProvider services, Options options, Accounts accounts, DoorLog log) : PageModel
{
    /// <summary>What was typed, and why it was refused; null when it was not.</summary>
    public string Word { get; private set; } = "";

    /// <inheritdoc cref="Word"/>
    public string Typed { get; private set; } = "";

    /// <inheritdoc cref="Word"/>
    public string? Refused { get; private set; }

    private bool IsWanted => options.HasDoor && services.GetRequiredService<FirstOwner>().IsWanted;

    public IActionResult OnGet() => IsWanted ? Page() : Redirect("/");

    public async Task<IActionResult> OnPostAsync(string? word, string? name, string? password, string? again)
    {
        if (!IsWanted)
        {
            return Redirect("/");
        }
        (Word, Typed) = (word ?? "", name ?? "");
        var (fit, why) = SignInName.Fit(name);
        if (!services.GetRequiredService<FirstOwner>().Is(word))
        {
            log.Add(DoorEvent.Refused, fit ?? "?", "refused: not the word for the first owner");
            Refused = "That is not the word. It stands in the terminal in which Ember Lane was started last; each start has another.";
            return Page();
        }
        Refused = fit is null ? why : NewPassword.WhyNot(password, again, fit);
        if (Refused is not null)
        {
            return Page();
        }
        try
        {
            var hash = services.GetRequiredService<IPasswordHasher<Account>>().HashPassword(new Account { Name = fit! }, password!);
            var id = accounts.MakeOwner(fit!, hash, NewPassword.Stamp());
            await services.GetRequiredService<SigningIn>().InAsync(accounts.Get(id)!, remember: false, "as the first owner");
            return Redirect("/");
        }
        catch (EditRefusedException refused)
        {
            Refused = refused.Message;
            return Page();
        }
    }
}
