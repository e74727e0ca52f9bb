using EmberLane.Core;
using EmberLane.Core.People;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Somebody in a production, what they are there, and when they were last at Ember Lane (null: never).</summary>
public sealed record Member(long AccountId, string Name, Role Role, DateTimeOffset? SeenAt);

/// <summary>Who is what in which production.</summary>
public sealed class Members(Database database, TimeProvider clock)
{
    /// <summary>Those of a production: by role, then by name.</summary>
    public IReadOnlyList<Member> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT a.id, a.name, m.role, a.seen_at FROM member m JOIN account a ON a.id = m.account_id WHERE m.production_id = $p "
                    + "AND a.closed_at IS NULL ORDER BY m.role DESC, a.name_key",
                r => new Member(r.GetInt64(0), r.GetString(1), (Role)r.GetInt32(2), r.IsDBNull(3) ? null : ChangeLog.Moment(r, 3)),
                ("$p", productionId)
            )
        );

    /// <summary>What an account is in which productions.</summary>
    public IReadOnlyDictionary<long, Role> RolesOf(long accountId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT production_id, role FROM member WHERE account_id = $a",
                    r => (r.GetInt64(0), (Role)r.GetInt32(1)),
                    ("$a", accountId)
                )
            )
            .ToDictionary();

    /// <summary>Gives an account a role in a production, or takes its place there away (null).</summary>
    public void Set(long productionId, long accountId, Role? role, string by) =>
        database.Write(c => Set(c, clock.GetUtcNow(), productionId, accountId, role, by));

    internal static void Set(SqliteConnection c, DateTimeOffset now, long productionId, long accountId, Role? role, string by)
    {
        var name = Accounts.Open(c, accountId).Name;
        var before = RoleOf(c, productionId, accountId);
        if (before == role)
        {
            return;
        }
        if (role is { } given && RoleRules.Of(given) == Rights.None)
        {
            throw new EditRefusedException("There is no such role.");
        }
        c.Execute("DELETE FROM member WHERE production_id = $p AND account_id = $a", ("$p", productionId), ("$a", accountId));
        if (role is null || !RoleRules.Of(role.Value).HasFlag(Rights.Run))
        {
            // Who may let nobody in any more must not come back by an address that they made.
            Admissions.WithdrawAllOf(c, now, productionId, name, by);
        }
        if (role is { } taken)
        {
            c.Execute("INSERT INTO member VALUES ($p, $a, $r)", ("$p", productionId), ("$a", accountId), ("$r", (int)taken));
        }
        DoorLog.Append(
            c,
            now,
            DoorEvent.RoleChanged,
            by,
            role is { } made
                ? $"{name} is {RoleRules.Name(made)} now" + (before is { } was ? $", was {RoleRules.Name(was)}" : "")
                : $"{name} is no longer in the production",
            productionId
        );
    }

    internal static Role? RoleOf(SqliteConnection c, long productionId, long accountId) =>
        c.Query(
                "SELECT role FROM member WHERE production_id = $p AND account_id = $a",
                r => (Role?)r.GetInt32(0),
                ("$p", productionId),
                ("$a", accountId)
            )
            .SingleOrDefault();
}
