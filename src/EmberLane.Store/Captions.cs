using EmberLane.Core.Captions;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What people made of the captions of stories.</summary>
public sealed class Captions(Database database, TimeProvider clock) : Chosen<CaptionSetup>(database, clock)
{
    private protected override string Table => "caption_choice";

    private protected override string Subject => "story_id";

    private protected override About About(SqliteConnection c, long subject) =>
        Store.About.Story(c, subject) with
        {
            Aggregate = Store.About.Captions,
        };
}
