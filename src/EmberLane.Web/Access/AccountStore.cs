using System.Text.Json;
using EmberLane.Store;
using Microsoft.AspNetCore.Identity;

namespace EmberLane.Web.Access;

/// <summary>
/// What the framework's sign-in asks of accounts, answered from the store. Accounts are made and closed by the store alone.
/// </summary>
internal sealed class AccountStore(Accounts accounts, Passkeys passkeys)
    : IUserPasswordStore<Account>,
        IUserSecurityStampStore<Account>,
        IUserLockoutStore<Account>,
        IUserPasskeyStore<Account>
{
    private sealed record Body(
        byte[] PublicKey,
        uint SignCount,
        string[]? Transports,
        bool IsUserVerified,
        bool IsBackupEligible,
        bool IsBackedUp,
        byte[] AttestationObject,
        byte[] ClientDataJson
    );

    public Task<string> GetUserIdAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Id.ToString(System.Globalization.CultureInfo.InvariantCulture));

    public Task<string?> GetUserNameAsync(Account user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Name);

    public Task<string?> GetNormalizedUserNameAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult<string?>(Core.People.SignInName.Key(user.Name));

    public Task SetUserNameAsync(Account user, string? userName, CancellationToken cancellationToken) => Task.CompletedTask;

    public Task SetNormalizedUserNameAsync(Account user, string? normalizedName, CancellationToken cancellationToken) => Task.CompletedTask;

    public Task<Account?> FindByIdAsync(string userId, CancellationToken cancellationToken) =>
        Task.FromResult(long.TryParse(userId, out var id) ? accounts.Get(id) : null);

    public Task<Account?> FindByNameAsync(string normalizedUserName, CancellationToken cancellationToken) =>
        Task.FromResult(accounts.Named(normalizedUserName));

    public Task<IdentityResult> CreateAsync(Account user, CancellationToken cancellationToken) =>
        throw new NotSupportedException("Accounts are made by the store.");

    public Task<IdentityResult> DeleteAsync(Account user, CancellationToken cancellationToken) =>
        throw new NotSupportedException("Accounts are closed by the store.");

    public Task<IdentityResult> UpdateAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult(
            accounts.Save(user) ? IdentityResult.Success : IdentityResult.Failed(new IdentityErrorDescriber().ConcurrencyFailure())
        );

    public Task<string?> GetPasswordHashAsync(Account user, CancellationToken cancellationToken) => Task.FromResult(user.PasswordHash);

    public Task<bool> HasPasswordAsync(Account user, CancellationToken cancellationToken) => Task.FromResult(user.PasswordHash is not null);

    public Task SetPasswordHashAsync(Account user, string? passwordHash, CancellationToken cancellationToken)
    {
        user.PasswordHash = passwordHash;
        return Task.CompletedTask;
    }

    public Task<string?> GetSecurityStampAsync(Account user, CancellationToken cancellationToken) => Task.FromResult<string?>(user.Stamp);

    public Task SetSecurityStampAsync(Account user, string stamp, CancellationToken cancellationToken)
    {
        user.Stamp = stamp;
        return Task.CompletedTask;
    }

    public Task<bool> GetLockoutEnabledAsync(Account user, CancellationToken cancellationToken) => Task.FromResult(true);

    public Task SetLockoutEnabledAsync(Account user, bool enabled, CancellationToken cancellationToken) => Task.CompletedTask;

    public Task<DateTimeOffset?> GetLockoutEndDateAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult(user.LockedUntil);

    public Task SetLockoutEndDateAsync(Account user, DateTimeOffset? lockoutEnd, CancellationToken cancellationToken)
    {
        user.LockedUntil = lockoutEnd;
        return Task.CompletedTask;
    }

    public Task<int> GetAccessFailedCountAsync(Account user, CancellationToken cancellationToken) => Task.FromResult(user.Failed);

    // Counted where it is kept: two wrong passwords at the same moment are two.
    public Task<int> IncrementAccessFailedCountAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult(user.Failed = accounts.CountFailure(user.Id));

    public Task ResetAccessFailedCountAsync(Account user, CancellationToken cancellationToken)
    {
        user.Failed = 0;
        accounts.ClearFailures(user.Id);
        return Task.CompletedTask;
    }

    public Task AddOrUpdatePasskeyAsync(Account user, UserPasskeyInfo passkey, CancellationToken cancellationToken)
    {
        var body = new Body(
            passkey.PublicKey,
            passkey.SignCount,
            passkey.Transports,
            passkey.IsUserVerified,
            passkey.IsBackupEligible,
            passkey.IsBackedUp,
            passkey.AttestationObject,
            passkey.ClientDataJson
        );
        return passkeys.Keep(passkey.CredentialId, user.Id, passkey.Name ?? "passkey", JsonSerializer.Serialize(body))
            ? Task.CompletedTask
            : throw new Core.EditRefusedException($"An account has at most {Passkeys.Most} passkeys, and each belongs to one account.");
    }

    public Task<IList<UserPasskeyInfo>> GetPasskeysAsync(Account user, CancellationToken cancellationToken) =>
        Task.FromResult<IList<UserPasskeyInfo>>([.. passkeys.Of(user.Id).Select(Info)]);

    public Task<Account?> FindByPasskeyIdAsync(byte[] credentialId, CancellationToken cancellationToken) =>
        Task.FromResult(passkeys.Find(credentialId) is { } found ? accounts.Get(found.AccountId) : null);

    public Task<UserPasskeyInfo?> FindPasskeyAsync(Account user, byte[] credentialId, CancellationToken cancellationToken) =>
        Task.FromResult(passkeys.Find(credentialId) is { } found && found.AccountId == user.Id ? Info(found) : null);

    public Task RemovePasskeyAsync(Account user, byte[] credentialId, CancellationToken cancellationToken)
    {
        passkeys.Remove(credentialId, user.Id);
        return Task.CompletedTask;
    }

    public void Dispose()
    {
        // The store outlives each sign-in.
    }

    private static UserPasskeyInfo Info(StoredPasskey kept)
    {
        var body = JsonSerializer.Deserialize<Body>(kept.Body)!;
        return new UserPasskeyInfo(
            kept.CredentialId,
            body.PublicKey,
            kept.MadeAt,
            body.SignCount,
            body.Transports,
            body.IsUserVerified,
            body.IsBackupEligible,
            body.IsBackedUp,
            body.AttestationObject,
            body.ClientDataJson
        )
        {
            Name = kept.Name,
        };
    }
}
