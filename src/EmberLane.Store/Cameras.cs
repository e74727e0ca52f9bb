using EmberLane.Core.Cameras;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What people chose for the cameras of sittings.</summary>
public sealed class Cameras(Database database, TimeProvider clock) : Chosen<CameraSetup>(database, clock)
{
    private protected override string Table => "camera_choice";

    private protected override string Subject => "sitting_id";

    private protected override About About(SqliteConnection c, long subject) => Store.About.Sitting(c, Store.About.Cameras, subject);

    /// <summary>The sittings whose plan stories and lists follow.</summary>
    public IReadOnlySet<long> Followed() =>
        Database
            .Read(c => c.Query("SELECT sitting_id FROM camera_choice WHERE name = $n", r => r.GetInt64(0), ("$n", CameraSetup.FollowedBy)))
            .ToHashSet();
}
