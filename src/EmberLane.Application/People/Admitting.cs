using System.Buffers.Text;
using System.Security.Cryptography;
using System.Text;
using EmberLane.Core;
using EmberLane.Core.People;
using EmberLane.Store;

namespace EmberLane.Application.People;

/// <summary>Makes addresses that let people in, and finds what one lets do. The secret in an address is told once and never kept.</summary>
public sealed class Admitting(Admissions admissions, TimeProvider time)
{
    private const int SecretBytes = 32;

    /// <summary>For how many days an invitation, a link, and a way to a new password may let in; the usual one first.</summary>
    public static IReadOnlyList<int> InvitationDays { get; } = [7, 1, 30];

    /// <inheritdoc cref="InvitationDays"/>
    public static IReadOnlyList<int> LinkDays { get; } = [14, 1, 3, 60, 180];

    private const int NewPasswordDays = 2;

    /// <summary>
    /// An invitation into a production in a role; its secret. Throws <see cref="EditRefusedException"/> for what can not be asked for.
    /// </summary>
    public string Invite(long productionId, Role role, string label, int days, string by) =>
        Make(
            RoleRules.All.Contains(role)
                ? new NewAdmission(AdmissionKind.Invitation, label, In(days, InvitationDays), ProductionId: productionId, Role: role)
                : throw new EditRefusedException("There is no such role."),
            by
        );

    /// <summary>A link that shows something of a production, with few rights; its secret. Throws as <see cref="Invite"/> does.</summary>
    public string Link(long productionId, Rights rights, string label, int days, string by, LinkScope shows = default) =>
        Make(
            new NewAdmission(
                AdmissionKind.Link,
                label,
                In(days, LinkDays),
                ProductionId: productionId,
                Rights: RightsRules.ForLink(rights),
                Shows: shows
            ),
            by
        );

    /// <summary>A way to a new password for an account; its secret.</summary>
    public string NewPassword(Account account, string by) =>
        Make(
            new NewAdmission(AdmissionKind.NewPassword, account.Name, time.GetUtcNow().AddDays(NewPasswordDays), AccountId: account.Id),
            by
        );

    /// <summary>What the address with this secret lets do, also where it lets in no more; null for a secret that was never given.</summary>
    public StoredAdmission? Find(string? secret) => secret is { Length: > 0 and < 100 } ? admissions.Find(HashOf(secret)) : null;

    /// <summary>Why one does not let in now; null when it does.</summary>
    public string? WhyNot(StoredAdmission admission) => admission.Terms.WhyNot(admission.Kind, time.GetUtcNow());

    private DateTimeOffset In(int days, IReadOnlyList<int> choices) =>
        choices.Contains(days)
            ? time.GetUtcNow().AddDays(days)
            : throw new EditRefusedException("Choose one of the numbers of days that are offered.");

    private string Make(NewAdmission asked, string by)
    {
        var secret = Base64Url.EncodeToString(RandomNumberGenerator.GetBytes(SecretBytes));
        admissions.Make(asked, HashOf(secret), by);
        return secret;
    }

    // The secret is random throughout, so a plain hash keeps it as well as a slow one would.
    private static byte[] HashOf(string secret) => SHA256.HashData(Encoding.UTF8.GetBytes(secret));
}
