namespace EmberLane.Store;

/// <summary>A passkey of an account, as the framework describes it in JSON.</summary>
public sealed record StoredPasskey(byte[] CredentialId, long AccountId, string Name, string Body, DateTimeOffset MadeAt);

/// <summary>The passkeys of accounts.</summary>
public sealed class Passkeys(Database database, TimeProvider clock)
{
    /// <summary>So many an account may have.</summary>
    public const int Most = 20;

    private const string Select = "SELECT credential_id, account_id, name, body, made_at FROM passkey ";

    /// <summary>Those of an account, the oldest first.</summary>
    public IReadOnlyList<StoredPasskey> Of(long accountId) =>
        database.Read(c => c.Query(Select + "WHERE account_id = $a ORDER BY made_at, credential_id", Read, ("$a", accountId)));

    /// <summary>The one with this credential; null when there is none.</summary>
    public StoredPasskey? Find(byte[] credentialId) =>
        database.Read(c => c.Query(Select + "WHERE credential_id = $c", Read, ("$c", credentialId))).SingleOrDefault();

    /// <summary>
    /// Keeps one, or what the framework changed of it. One that another account has stays that account's; false then, and where there are
    /// too many.
    /// </summary>
    public bool Keep(byte[] credentialId, long accountId, string name, string body) =>
        database.Write(c =>
        {
            (string, object?)[] values = [("$c", credentialId), ("$a", accountId), ("$n", name), ("$b", body)];
            return c.Execute("UPDATE passkey SET name = $n, body = $b WHERE credential_id = $c AND account_id = $a", values) > 0
                || c.Execute(
                    "INSERT INTO passkey (credential_id, account_id, name, body, made_at) SELECT $c, $a, $n, $b, $at WHERE (SELECT "
                        + "COUNT(*) FROM passkey WHERE account_id = $a) < $most ON CONFLICT DO NOTHING",
                    [.. values, ("$at", clock.GetUtcNow().ToString("O")), ("$most", Most)]
                ) > 0;
        });

    /// <summary>Takes one away from its account.</summary>
    public void Remove(byte[] credentialId, long accountId) =>
        database.Write(c =>
            c.Execute("DELETE FROM passkey WHERE credential_id = $c AND account_id = $a", ("$c", credentialId), ("$a", accountId))
        );

    private static StoredPasskey Read(Microsoft.Data.Sqlite.SqliteDataReader r) =>
        new((byte[])r.GetValue(0), r.GetInt64(1), r.GetString(2), r.GetString(3), ChangeLog.Moment(r, 4));
}
