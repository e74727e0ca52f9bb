using EmberLane.Core;
using EmberLane.Core.People;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// An address that lets in: for whom it was made (<see cref="Label"/>), into which production as what or with which rights, or for a new
/// password of which account. Its secret is known to who holds the address only.
/// </summary>
public sealed record StoredAdmission(
    long Id,
    AdmissionKind Kind,
    long? ProductionId,
    long? AccountId,
    Role Role,
    Rights Rights,
    string Label,
    string MadeBy,
    string? UsedBy,
    AdmissionTerms Terms
)
{
    /// <summary>What a link shows.</summary>
    public LinkScope Shows { get; init; }
}

/// <summary>What is asked of a new one; see <see cref="StoredAdmission"/>.</summary>
public sealed record NewAdmission(
    AdmissionKind Kind,
    string Label,
    DateTimeOffset ExpiresAt,
    long? ProductionId = null,
    long? AccountId = null,
    Role Role = Role.Guest,
    Rights Rights = Rights.None,
    LinkScope Shows = default
);

/// <summary>Invitations, links, and ways to a new password.</summary>
public sealed class Admissions(Database database, TimeProvider clock)
{
    /// <summary>The longest label, in characters; and so many open ones a production may have.</summary>
    public const int LongestLabel = 60,
        Most = 200;

    private const string Select =
        "SELECT id, kind, production_id, account_id, role, rights, label, made_by, used_by, made_at, expires_at, withdrawn_at, used_at, "
        + "sitting_id, story_id FROM admission ";

    /// <summary>Those of a production that still let in, the newest first, by the moment of asking.</summary>
    public IReadOnlyList<StoredAdmission> OpenOf(long productionId) =>
        [.. database.Read(c => Of(c, productionId)).Where(a => a.Terms.WhyNot(a.Kind, clock.GetUtcNow()) is null)];

    /// <summary>The one of this number; null when there is none.</summary>
    public StoredAdmission? Get(long id) => database.Read(c => c.Query(Select + "WHERE id = $id", Read, ("$id", id))).SingleOrDefault();

    /// <summary>The one whose secret has this hash, also where it lets in no more; null when there is none.</summary>
    public StoredAdmission? Find(byte[] keyHash) =>
        database.Read(c => c.Query(Select + "WHERE key_hash = $k", Read, ("$k", keyHash))).SingleOrDefault();

    /// <summary>
    /// Keeps a new one. Throws <see cref="EditRefusedException"/> for a label that is none or too long, that of an earlier link, and for
    /// too many.
    /// </summary>
    public long Make(NewAdmission asked, byte[] keyHash, string by) =>
        database.Write(c =>
        {
            var label = TypedText.OneLine(asked.Label);
            if (label.Length is 0 or > LongestLabel || label.Contains('(', StringComparison.Ordinal))
            {
                throw new EditRefusedException($"Say who it is for, in at most {LongestLabel} letters and without brackets.");
            }
            // What was said by a link stands beside its name: who comes by another is not to be taken for them, nor to see what they said.
            if (
                asked is { Kind: AdmissionKind.Link, ProductionId: { } of }
                && c.Query(
                    "SELECT 1 FROM admission WHERE kind = $kind AND production_id = $p AND label = $label COLLATE NOCASE LIMIT 1",
                    r => 1,
                    ("$kind", (int)asked.Kind),
                    ("$p", of),
                    ("$label", label)
                ).Count > 0
            )
            {
                throw new EditRefusedException(
                    $"There was a link for {label} before, and what came by it is signed so. Say otherwise whom this one is for."
                );
            }
            var now = clock.GetUtcNow();
            if (asked.ProductionId is { } production && Of(c, production).Count(a => a.Terms.WhyNot(a.Kind, now) is null) >= Most)
            {
                throw new EditRefusedException($"There are {Most} invitations and links already. Withdraw some first.");
            }
            var id = c.Insert(
                "INSERT INTO admission (kind, key_hash, production_id, account_id, role, rights, label, made_by, made_at, expires_at, "
                    + "sitting_id, story_id) VALUES ($kind, $hash, $p, $a, $role, $rights, $label, $by, $at, $until, $sitting, $story)",
                ("$kind", (int)asked.Kind),
                ("$hash", keyHash),
                ("$p", asked.ProductionId),
                ("$a", asked.AccountId),
                ("$role", (int)asked.Role),
                ("$rights", (int)asked.Rights),
                ("$label", label),
                ("$by", by),
                ("$at", now.ToString("O")),
                ("$until", asked.ExpiresAt.ToString("O")),
                ("$sitting", asked.Shows.Sitting),
                ("$story", asked.Shows.Story)
            );
            DoorLog.Append(c, now, DoorEvent.AdmissionMade, by, $"made {Said(asked.Kind)} for {label}", asked.ProductionId);
            return id;
        });

    /// <summary>Lets it let in no more. One that was withdrawn already stays so.</summary>
    public void Withdraw(long id, string by) =>
        database.Write(c =>
        {
            var now = clock.GetUtcNow();
            var changed = c.Execute(
                "UPDATE admission SET withdrawn_at = $at, withdrawn_by = $by WHERE id = $id AND withdrawn_at IS NULL",
                ("$at", now.ToString("O")),
                ("$by", by),
                ("$id", id)
            );
            if (changed > 0)
            {
                var admission = c.Query(Select + "WHERE id = $id", Read, ("$id", id)).Single();
                DoorLog.Append(
                    c,
                    now,
                    DoorEvent.AdmissionWithdrawn,
                    by,
                    $"withdrew {Said(admission.Kind)} for {admission.Label}",
                    admission.ProductionId
                );
            }
        });

    /// <summary>Withdraws what <paramref name="maker"/> made and nobody has used, in a production or (null) in all.</summary>
    internal static void WithdrawAllOf(SqliteConnection c, DateTimeOffset now, long? productionId, string maker, string by) =>
        c.Execute(
            "UPDATE admission SET withdrawn_at = $at, withdrawn_by = $by WHERE made_by = $m AND withdrawn_at IS NULL AND used_at IS NULL "
                + "AND ($p IS NULL OR production_id = $p)",
            ("$at", now.ToString("O")),
            ("$by", by),
            ("$m", maker),
            ("$p", productionId)
        );

    /// <summary>
    /// Uses an invitation: makes the account (or takes one that is signed in) and gives it the role, all or nothing. Throws
    /// <see cref="EditRefusedException"/> when it lets nobody in any more or the name is taken. Returns the account's id.
    /// </summary>
    public long Accept(long id, long? accountId, string name, string? passwordHash, string stamp) =>
        database.Write(c =>
        {
            var (admission, now) = TakeOnce(c, id, AdmissionKind.Invitation, name);
            var account = accountId ?? Accounts.Insert(c, now, name, passwordHash, stamp, isOwner: false, name);
            if (admission.ProductionId is { } production)
            {
                if (Members.RoleOf(c, production, account) is { } has)
                {
                    throw new EditRefusedException($"You are in this production already, as {RoleRules.Name(has)}. Nothing was changed.");
                }
                Members.Set(c, now, production, account, admission.Role, admission.MadeBy);
            }
            return account;
        });

    /// <summary>
    /// Uses a way to a new password: keeps the hash, ends all sessions, and lets passwords be tried again. Throws
    /// <see cref="EditRefusedException"/> when it lets nobody in any more.
    /// </summary>
    public long Renew(long id, string passwordHash, string stamp) =>
        database.Write(c =>
        {
            var accountId =
                c.Query(Select + "WHERE id = $id", Read, ("$id", id)).SingleOrDefault()?.AccountId
                ?? throw new EditRefusedException("That is no way to a new password.");
            var account = Accounts.Open(c, accountId);
            TakeOnce(c, id, AdmissionKind.NewPassword, account.Name);
            c.Execute(
                "UPDATE account SET password_hash = $h, stamp = $s, failed = 0, locked_until = NULL WHERE id = $id",
                ("$h", passwordHash),
                ("$s", stamp),
                ("$id", accountId)
            );
            DoorLog.Append(c, clock.GetUtcNow(), DoorEvent.KeysChanged, account.Name, "chose a new password");
            return accountId;
        });

    private (StoredAdmission Admission, DateTimeOffset Now) TakeOnce(SqliteConnection c, long id, AdmissionKind kind, string who)
    {
        var now = clock.GetUtcNow();
        var admission = c.Query(Select + "WHERE id = $id", Read, ("$id", id)).SingleOrDefault();
        if (admission is null || admission.Kind != kind)
        {
            throw new EditRefusedException("That address lets nobody in.");
        }
        if (admission.Terms.WhyNot(kind, now) is { } why)
        {
            throw new EditRefusedException(why);
        }
        c.Execute(
            "UPDATE admission SET used_at = $at, used_by = $who WHERE id = $id",
            ("$at", now.ToString("O")),
            ("$who", who),
            ("$id", id)
        );
        DoorLog.Append(c, now, DoorEvent.AdmissionUsed, who, $"used {Said(kind)} for {admission.Label}", admission.ProductionId);
        return (admission, now);
    }

    /// <summary>What one is called in a sentence.</summary>
    public static string Said(AdmissionKind kind) =>
        kind switch
        {
            AdmissionKind.Invitation => "an invitation",
            AdmissionKind.Link => "a link",
            _ => "a way to a new password",
        };

    private static List<StoredAdmission> Of(SqliteConnection c, long productionId) =>
        c.Query(Select + "WHERE production_id = $p ORDER BY id DESC", Read, ("$p", productionId));

    private static StoredAdmission Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            (AdmissionKind)r.GetInt32(1),
            r.Number(2),
            r.Number(3),
            (Role)r.GetInt32(4),
            (Rights)r.GetInt32(5),
            r.GetString(6),
            r.GetString(7),
            r.IsDBNull(8) ? null : r.GetString(8),
            new AdmissionTerms(
                ChangeLog.Moment(r, 9),
                ChangeLog.Moment(r, 10),
                r.IsDBNull(11) ? null : ChangeLog.Moment(r, 11),
                r.IsDBNull(12) ? null : ChangeLog.Moment(r, 12)
            )
        )
        {
            Shows = new LinkScope(r.Number(13), r.Number(14)),
        };
}
