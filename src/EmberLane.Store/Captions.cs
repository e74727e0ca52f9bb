using EmberLane.Core.Captions;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What people made of the captions of stories.</summary>
public sealed class Captions(Database database, TimeProvider clock) : Chosen<CaptionSetup>(database, clock)
{
    private protected override string Table => "caption_choice";

    private protected override string Subject => "story_id";

    /// <summary>What was made of the captions of a story goes with a copy of it, whose pieces keep their ids.</summary>
    internal static void Copy(SqliteConnection c, long story, long copy) =>
        c.Execute(
            "INSERT INTO caption_choice SELECT $copy, name, value FROM caption_choice WHERE story_id = $story",
            ("$story", story),
            ("$copy", copy)
        );

    private protected override About About(SqliteConnection c, long subject) =>
        Store.About.Story(c, subject) with
        {
            Aggregate = Store.About.Captions,
        };
}
