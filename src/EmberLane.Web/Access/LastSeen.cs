using System.Collections.Concurrent;
using EmberLane.Store;
using Microsoft.Data.Sqlite;

namespace EmberLane.Web.Access;

/// <summary>Writes down when somebody was last here, at most every few minutes: looking at a page is no change.</summary>
internal sealed class LastSeen(Accounts accounts, TimeProvider time)
{
    private static readonly TimeSpan Every = TimeSpan.FromMinutes(5);

    private readonly ConcurrentDictionary<long, DateTimeOffset> written = new();

    /// <summary>Somebody is here now.</summary>
    public void Here(Account account)
    {
        var now = time.GetUtcNow();
        if (!written.TryGetValue(account.Id, out var last) || now - last >= Every || now < last)
        {
            written[account.Id] = now;
            try
            {
                accounts.Seen(account.Id);
            }
            catch (SqliteException)
            {
                // A full or failing disk keeps nobody from reading.
            }
        }
    }
}
