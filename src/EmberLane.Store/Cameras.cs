using System.Collections.Immutable;
using EmberLane.Core.Cameras;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What people chose for the cameras of sittings.</summary>
public sealed class Cameras(Database database, TimeProvider clock)
{
    /// <summary>What was chosen for a sitting.</summary>
    public CameraSetup Of(long sitting) => database.Read(c => Of(c, sitting));

    /// <summary>The sittings whose plan stories and lists follow.</summary>
    public IReadOnlySet<long> Followed() =>
        database
            .Read(c => c.Query("SELECT sitting_id FROM camera_choice WHERE name = $n", r => r.GetInt64(0), ("$n", CameraSetup.FollowedBy)))
            .ToHashSet();

    /// <summary>
    /// Changes what is chosen for a sitting; <paramref name="said"/> is the change in words. Throws
    /// <see cref="Core.EditRefusedException"/> where it does not fit; then nothing is changed.
    /// </summary>
    public void Change(long sitting, Func<CameraSetup, CameraEdit> change, string said, string who) =>
        database.Write(c => Apply(c, sitting, change(Of(c, sitting)), said, who));

    /// <summary>
    /// Takes a person's newest change of a sitting's cameras back, or brings the one that they last took back again. Returns whether there
    /// was one. Throws <see cref="Core.EditRefusedException"/> when somebody changed the same since, with who did.
    /// </summary>
    public bool Step(long sitting, bool redo, string who) =>
        database.Write(c =>
        {
            if (ChangeLog.Next<CameraSetup, CameraEdit>(c, About.Sitting(c, About.Cameras, sitting), redo, who) is not { } step)
            {
                return false;
            }
            ChangeLog.Made(c, step.Change.Id, redo);
            Save(c, sitting, step.Edit.Apply(Of(c, sitting)).State);
            return true;
        });

    /// <summary>Takes one change alone back, as a change of its own; refused as <see cref="Step"/> is.</summary>
    public void TakeBack(long sitting, long change, string who) =>
        database.Write(c =>
        {
            var step = ChangeLog.One<CameraSetup, CameraEdit>(c, About.Sitting(c, About.Cameras, sitting), change);
            Apply(c, sitting, step.Edit, "taken back: " + ChangeLog.SaidOf(c, change), who, change);
        });

    private void Apply(SqliteConnection c, long sitting, CameraEdit edit, string said, string who, long? takesBack = null)
    {
        var before = Of(c, sitting);
        var (after, inverse) = edit.Apply(before);
        if (after.Choices.SequenceEqual(before.Choices))
        {
            return;
        }
        Save(c, sitting, after);
        ChangeLog.Append(c, About.Sitting(c, About.Cameras, sitting), who, clock.GetUtcNow(), edit, inverse, said, takesBack: takesBack);
    }

    private static void Save(SqliteConnection c, long sitting, CameraSetup setup)
    {
        c.Execute("DELETE FROM camera_choice WHERE sitting_id = $s", ("$s", sitting));
        foreach (var (name, value) in setup.Choices)
        {
            c.Execute("INSERT INTO camera_choice VALUES ($s, $n, $v)", ("$s", sitting), ("$n", name), ("$v", value));
        }
    }

    private static CameraSetup Of(SqliteConnection c, long sitting) =>
        new(
            c.Query(
                    "SELECT name, value FROM camera_choice WHERE sitting_id = $s",
                    r => KeyValuePair.Create(r.GetString(0), r.GetString(1)),
                    ("$s", sitting)
                )
                .ToImmutableSortedDictionary(StringComparer.Ordinal)
        );
}
