using EmberLane.Core.People;
using EmberLane.Store;
using Microsoft.AspNetCore.Identity;

namespace EmberLane.Web.Access;

/// <summary>Signs people in, and writes down who did and who was refused. Refusals are all the same, whatever does not fit.</summary>
internal sealed class SigningIn(SignInManager<Account> manager, UserManager<Account> users, IPasswordHasher<Account> hasher, DoorLog log)
{
    /// <summary>What is said to who is refused.</summary>
    public const string Refusal =
        "That name and password do not go together. After five wrong ones in a row none is tried for ten minutes; an owner can make you a "
        + "way to a new password.";

    // As much work for a name that nobody has, so that the time of an answer does not tell which there are.
    private static readonly Account Nobody = new() { Name = "nobody" };
    private static readonly Lazy<string> NobodysHash = new(() =>
        new PasswordHasher<Account>().HashPassword(Nobody, Guid.NewGuid().ToString())
    );

    /// <summary>Signs somebody in by name and password; false when they are refused.</summary>
    public async Task<bool> ByPasswordAsync(string? name, string? password, bool remember)
    {
        var typed = TypedName(name);
        if (string.IsNullOrEmpty(password) || password.Length > Passwords.Longest || await users.FindByNameAsync(typed) is not { } account)
        {
            hasher.VerifyHashedPassword(Nobody, NobodysHash.Value, password is { Length: <= Passwords.Longest } ? password : "");
            log.Add(DoorEvent.Refused, typed, "refused: wrong name or password");
            return false;
        }
        var result = await manager.CheckPasswordSignInAsync(account, password, lockoutOnFailure: true);
        if (!result.Succeeded)
        {
            log.Add(
                result.IsLockedOut ? DoorEvent.LockedOut : DoorEvent.Refused,
                account.Name,
                result.IsLockedOut ? "refused: too many wrong passwords, none is tried for a while" : "refused: wrong password"
            );
            return false;
        }
        await InAsync(account, remember, "by password");
        return true;
    }

    /// <summary>Signs somebody in by the answer of a passkey; false when it is refused.</summary>
    public async Task<bool> ByPasskeyAsync(string credential, bool remember)
    {
        var result = await manager.PerformPasskeyAssertionAsync(credential);
        if (!result.Succeeded)
        {
            log.Add(DoorEvent.Refused, "", "refused: a passkey that does not fit");
            return false;
        }
        // How often it was used is kept, so that a copy of it is noticed.
        await users.AddOrUpdatePasskeyAsync(result.User, result.Passkey);
        await InAsync(result.User, remember, "by passkey");
        return true;
    }

    /// <summary>Signs somebody in whose right to it is known.</summary>
    public async Task InAsync(Account account, bool remember, string how)
    {
        await manager.SignInAsync(account, remember);
        log.Add(DoorEvent.SignedIn, account.Name, "signed in " + how);
    }

    private static string TypedName(string? name) => SignInName.Fit(name).Name ?? "?";
}
