using EmberLane.Core;
using EmberLane.Core.People;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Somebody who may sign in. The framework's sign-in changes it in hand and then saves it, so it is no record; nothing else keeps one.
/// </summary>
public sealed class Account
{
    /// <summary>Its number; 0 before it is kept.</summary>
    public long Id { get; init; }

    /// <summary>The name that stands beside what they do. It never changes: undo and the log go by it.</summary>
    public required string Name { get; init; }

    /// <summary>The framework's hash of the password; null where there is none.</summary>
    public string? PasswordHash { get; set; }

    /// <summary>Changes when all sessions shall end.</summary>
    public string Stamp { get; set; } = "";

    /// <summary>The stamp as it was read.</summary>
    internal string KeptStamp { get; init; } = "";

    /// <summary>Has the whole installation.</summary>
    public bool IsOwner { get; init; }

    /// <summary>Wrong passwords in a row.</summary>
    public int Failed { get; set; }

    /// <summary>Until when no password is tried; null where none keeps.</summary>
    public DateTimeOffset? LockedUntil { get; set; }

    /// <summary>When it was made, when they were last here (null: never), when it was closed (null: it is open).</summary>
    public DateTimeOffset MadeAt { get; init; }

    /// <inheritdoc cref="MadeAt"/>
    public DateTimeOffset? SeenAt { get; init; }

    /// <inheritdoc cref="MadeAt"/>
    public DateTimeOffset? ClosedAt { get; init; }
}

/// <summary>Who may sign in.</summary>
public sealed class Accounts(Database database, TimeProvider clock)
{
    private const string Select =
        "SELECT id, name, password_hash, stamp, owner, failed, locked_until, made_at, seen_at, closed_at FROM account ";

    /// <summary>Whether there is an owner who can sign in.</summary>
    public bool HasOwner() => database.Read(c => Owners(c) > 0);

    /// <summary>The account of this number that is not closed; null when there is none.</summary>
    public Account? Get(long id) =>
        database.Read(c => c.Query(Select + "WHERE id = $id AND closed_at IS NULL", Read, ("$id", id))).SingleOrDefault();

    /// <summary>The account of this name that is not closed, capital or small letters; null when there is none.</summary>
    public Account? Named(string name) =>
        database
            .Read(c => c.Query(Select + "WHERE name_key = $k AND closed_at IS NULL", Read, ("$k", SignInName.Key(name))))
            .SingleOrDefault();

    /// <summary>All accounts by name, the closed ones last.</summary>
    public IReadOnlyList<Account> All() => database.Read(c => c.Query(Select + "ORDER BY closed_at IS NOT NULL, name_key", Read));

    /// <summary>
    /// Makes the first owner's account. Throws <see cref="EditRefusedException"/> when there is an owner already, or the name is taken.
    /// </summary>
    public long MakeOwner(string name, string passwordHash, string stamp) =>
        database.Write(c =>
        {
            if (Owners(c) > 0)
            {
                throw new EditRefusedException("Ember Lane has an owner already. Sign in, or ask them for an invitation.");
            }
            return Insert(c, clock.GetUtcNow(), name, passwordHash, stamp, isOwner: true, name);
        });

    /// <summary>
    /// Keeps what sign-in changed of an account: its hash, its stamp, until when it is locked. False, and nothing is kept, where its
    /// sessions were ended or it was closed since it was read.
    /// </summary>
    public bool Save(Account account) =>
        database.Write(c =>
            c.Execute(
                "UPDATE account SET password_hash = $h, stamp = $s, locked_until = $l WHERE id = $id AND stamp = $kept",
                ("$h", account.PasswordHash),
                ("$s", account.Stamp),
                ("$l", account.LockedUntil?.ToString("O")),
                ("$id", account.Id),
                ("$kept", account.KeptStamp)
            ) > 0
        );

    /// <summary>
    /// Keeps a new password, and ends all sessions. False, and nothing is kept, as of <see cref="Save"/>.
    /// </summary>
    public bool ChangePassword(Account account, string passwordHash, string stamp) =>
        database.Write(c =>
        {
            var changed =
                c.Execute(
                    "UPDATE account SET password_hash = $h, stamp = $s WHERE id = $id AND stamp = $kept",
                    ("$h", passwordHash),
                    ("$s", stamp),
                    ("$id", account.Id),
                    ("$kept", account.KeptStamp)
                ) > 0;
            if (changed)
            {
                DoorLog.Append(c, clock.GetUtcNow(), DoorEvent.KeysChanged, account.Name, "chose a new password");
            }
            return changed;
        });

    /// <summary>Counts a wrong password; how many in a row it is now. Two at once count as two.</summary>
    public int CountFailure(long id) =>
        database.Write(c =>
            c.Query("UPDATE account SET failed = failed + 1 WHERE id = $id RETURNING failed", r => r.GetInt32(0), ("$id", id))
                .SingleOrDefault()
        );

    /// <summary>Begins to count anew.</summary>
    public void ClearFailures(long id) =>
        database.Write(c => c.Execute("UPDATE account SET failed = 0 WHERE id = $id AND failed > 0", ("$id", id)));

    /// <summary>Writes down that somebody was here now.</summary>
    public void Seen(long id) =>
        database.Write(c =>
            c.Execute("UPDATE account SET seen_at = $at WHERE id = $id", ("$at", clock.GetUtcNow().ToString("O")), ("$id", id))
        );

    /// <summary>
    /// Makes somebody an owner, or no owner any more. Throws <see cref="EditRefusedException"/> for the last one: of two who take each
    /// other's away, the second is refused.
    /// </summary>
    public void SetOwner(long id, bool owner, string by) =>
        database.Write(c =>
        {
            var account = Open(c, id);
            MustStillOwn(c, by);
            if (account.IsOwner == owner)
            {
                return;
            }
            if (!owner && Owners(c) == 1)
            {
                throw new EditRefusedException($"{account.Name} is the only owner. Make somebody else an owner first.");
            }
            c.Execute("UPDATE account SET owner = $o WHERE id = $id", ("$o", owner ? 1 : 0), ("$id", id));
            DoorLog.Append(
                c,
                clock.GetUtcNow(),
                DoorEvent.OwnerChanged,
                by,
                owner ? $"made {account.Name} an owner" : $"made {account.Name} an owner no more"
            );
        });

    /// <summary>
    /// Closes an account: all its sessions end, its passkeys go, its name stays beside what it did. Throws
    /// <see cref="EditRefusedException"/> for the last owner.
    /// </summary>
    public void Close(long id, string stamp, string by) =>
        database.Write(c =>
        {
            var account = Open(c, id);
            MustStillOwn(c, by);
            if (account.IsOwner && Owners(c) == 1)
            {
                throw new EditRefusedException($"{account.Name} is the only owner. Make somebody else an owner first.");
            }
            c.Execute(
                "UPDATE account SET closed_at = $at, stamp = $s, owner = 0, password_hash = NULL WHERE id = $id",
                ("$at", clock.GetUtcNow().ToString("O")),
                ("$s", stamp),
                ("$id", id)
            );
            Admissions.WithdrawAllOf(c, clock.GetUtcNow(), null, account.Name, by);
            c.Execute("DELETE FROM passkey WHERE account_id = $id", ("$id", id));
            c.Execute("DELETE FROM member WHERE account_id = $id", ("$id", id));
            DoorLog.Append(c, clock.GetUtcNow(), DoorEvent.AccountClosed, by, $"closed the account of {account.Name}");
        });

    /// <summary>Ends all sessions of an account: those who hold one must sign in again.</summary>
    public void EndSessions(long id, string stamp, string by) =>
        database.Write(c =>
        {
            var account = Open(c, id);
            c.Execute("UPDATE account SET stamp = $s WHERE id = $id", ("$s", stamp), ("$id", id));
            DoorLog.Append(c, clock.GetUtcNow(), DoorEvent.SessionsEnded, by, $"ended all sessions of {account.Name}");
        });

    /// <summary>Lets somebody try passwords again at once.</summary>
    public void Unlock(long id, string by) =>
        database.Write(c =>
        {
            var account = Open(c, id);
            c.Execute("UPDATE account SET failed = 0, locked_until = NULL WHERE id = $id", ("$id", id));
            DoorLog.Append(c, clock.GetUtcNow(), DoorEvent.KeysChanged, by, $"let {account.Name} try passwords again");
        });

    internal static long Insert(
        SqliteConnection c,
        DateTimeOffset now,
        string name,
        string? passwordHash,
        string stamp,
        bool isOwner,
        string by
    )
    {
        var key = SignInName.Key(name);
        // A closed account's name is not given again: it stands beside what its owner did.
        if (c.Query("SELECT 1 FROM account WHERE name_key = $k", r => r.GetInt64(0), ("$k", key)).Count > 0)
        {
            throw new EditRefusedException($"The name “{name}” is taken. Choose another.");
        }
        var id = c.Insert(
            "INSERT INTO account (name, name_key, password_hash, stamp, owner, made_at) VALUES ($n, $k, $h, $s, $o, $at)",
            ("$n", name),
            ("$k", key),
            ("$h", passwordHash),
            ("$s", stamp),
            ("$o", isOwner ? 1 : 0),
            ("$at", now.ToString("O"))
        );
        DoorLog.Append(c, now, DoorEvent.AccountMade, by, isOwner ? $"made the owner's account, {name}" : $"made the account {name}");
        return id;
    }

    internal static Account Open(SqliteConnection c, long id) =>
        c.Query(Select + "WHERE id = $id AND closed_at IS NULL", Read, ("$id", id)).SingleOrDefault()
        ?? throw new EditRefusedException("That account is no longer there.");

    // Whoever was an owner when the page was loaded may be none any more.
    private static void MustStillOwn(SqliteConnection c, string by)
    {
        var found = c.Query(Select + "WHERE name_key = $k", Read, ("$k", SignInName.Key(by))).SingleOrDefault();
        if (found is { IsOwner: false } or { ClosedAt: not null })
        {
            throw new EditRefusedException("You are not an owner any more. Nothing was changed.");
        }
    }

    private static long Owners(SqliteConnection c) =>
        c.Query("SELECT COUNT(*) FROM account WHERE owner = 1 AND closed_at IS NULL", r => r.GetInt64(0)).Single();

    private static Account Read(SqliteDataReader r) =>
        new()
        {
            Id = r.GetInt64(0),
            Name = r.GetString(1),
            PasswordHash = r.IsDBNull(2) ? null : r.GetString(2),
            Stamp = r.GetString(3),
            KeptStamp = r.GetString(3),
            IsOwner = r.GetInt64(4) != 0,
            Failed = r.GetInt32(5),
            LockedUntil = r.IsDBNull(6) ? null : ChangeLog.Moment(r, 6),
            MadeAt = ChangeLog.Moment(r, 7),
            SeenAt = r.IsDBNull(8) ? null : ChangeLog.Moment(r, 8),
            ClosedAt = r.IsDBNull(9) ? null : ChangeLog.Moment(r, 9),
        };
}
