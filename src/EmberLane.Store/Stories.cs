using System.Globalization;
using EmberLane.Core;
using EmberLane.Core.Stories;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// A story, its version, which grows with every change, and whether a person has a change of it to take back or to bring again.
/// </summary>
public sealed record StoredStory(long Id, long ProductionId, long Version, Story Story, bool CanUndo, bool CanRedo)
{
    /// <summary>Its title.</summary>
    public string Title => Story.Title;

    /// <summary>The label of its first frame.</summary>
    public Timecode Start => Story.Start;

    /// <summary>How long it shall be; zero when nobody said.</summary>
    public MediaTime Target => Story.Target;
}

/// <summary>A story in a list: how many cards it has and when one was last changed.</summary>
public sealed record StoryHead(long Id, string Title, bool IsAway, int Cards, DateTimeOffset? ChangedAt);

/// <summary>A card where it lies: in which story, the how manieth of its cards from 1 on, of which bite, and what it shows.</summary>
public sealed record StoryUse(long Story, string Title, FrameRate Rate, Guid Card, long Bite, long Sitting, SittingRange Range, int Number);

/// <summary>
/// What a card is laid from: the take that it shows, the others of the same, and lines that are missing before and behind it.
/// </summary>
public sealed record LaidTakes(Core.Bites.Bite Best, IReadOnlyList<Core.Bites.Bite> Others, string SpaceBefore, string SpaceAfter);

/// <summary>Stories, changed by edits that can be taken back.</summary>
public sealed partial class Stories(Database database, Transcripts transcripts, TimeProvider clock)
{
    internal const string InHandSetting = "story.in-hand";

    /// <summary>The stories of a production, in the order in which they were made, those that were put away last.</summary>
    public IReadOnlyList<StoryHead> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT s.id, s.title, s.away, (SELECT COUNT(*) FROM card k WHERE k.story_id = s.id), (SELECT MAX(e.at) FROM change e "
                    + "WHERE e.aggregate = 'story' AND e.aggregate_id = s.id) FROM story s WHERE s.production_id = $p ORDER BY s.away, "
                    + "s.id",
                r => new StoryHead(
                    r.GetInt64(0),
                    r.GetString(1),
                    r.GetInt64(2) != 0,
                    r.GetInt32(3),
                    r.IsDBNull(4) ? null : DateTimeOffset.Parse(r.GetString(4), CultureInfo.InvariantCulture)
                ),
                ("$p", productionId)
            )
        );

    /// <summary>
    /// The cards that show something of a sitting, of all stories that are not put away. Cost grows with the cards of these stories.
    /// </summary>
    public IReadOnlyList<StoryUse> UsesIn(long sittingId) =>
        database.Read(c =>
            c.Query(
                "SELECT s.id, s.title, s.rate_numerator, s.rate_denominator, k.id, k.bite_id, k.sitting_id, k.time_in, k.time_out, k.n "
                    + "FROM (SELECT *, ROW_NUMBER() OVER (PARTITION BY story_id ORDER BY position) AS n FROM card WHERE story_id IN "
                    + "(SELECT story_id FROM card WHERE sitting_id = $s)) k JOIN story s ON s.id = k.story_id WHERE k.sitting_id = $s "
                    + "AND s.away = 0 ORDER BY s.id, k.n",
                r => new StoryUse(
                    r.GetInt64(0),
                    r.GetString(1),
                    new FrameRate(r.GetInt32(2), r.GetInt32(3)),
                    Guid.Parse(r.GetString(4)),
                    r.GetInt64(5),
                    r.GetInt64(6),
                    Columns.Range(r, 7),
                    r.GetInt32(9)
                ),
                ("$s", sittingId)
            )
        );

    /// <summary>The titles of the stories that show these bites, but for one and those put away; of each bite once a story.</summary>
    public IReadOnlyList<(long Bite, string Title)> AlsoIn(long butStory, IEnumerable<long> bites)
    {
        var ids = string.Join(',', bites);
        // Cards are found by their sittings.
        return database.Read(c =>
            c.Query(
                "SELECT DISTINCT k.bite_id, s.id, s.title FROM card k JOIN story s ON s.id = k.story_id WHERE k.sitting_id IN (SELECT "
                    + $"sitting_id FROM bite WHERE id IN ({ids})) AND k.bite_id IN ({ids}) AND s.id <> $but AND s.away = 0 ORDER BY s.id",
                r => (r.GetInt64(0), r.GetString(2)),
                ("$but", butStory)
            )
        );
    }

    /// <summary>
    /// The story that the rooms show: the one that was taken in hand last, else the first; null when there is none that was not put away.
    /// </summary>
    public long? InHand(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT s.id FROM story s LEFT JOIN production_setting x ON x.production_id = s.production_id AND x.name = $n AND "
                        + "x.value = CAST(s.id AS TEXT) WHERE s.production_id = $p AND s.away = 0 ORDER BY x.value IS NULL, s.id LIMIT 1",
                    r => (long?)r.GetInt64(0),
                    ("$p", productionId),
                    ("$n", InHandSetting)
                )
            )
            .SingleOrDefault();

    /// <summary>From now on the rooms show this story.</summary>
    public void TakeInHand(long productionId, long id) =>
        database.Write(c =>
            c.Execute(
                "INSERT OR REPLACE INTO production_setting VALUES ($p, $n, CAST($id AS TEXT))",
                ("$p", productionId),
                ("$n", InHandSetting),
                ("$id", id)
            )
        );

    /// <summary>Begins a story; taking that back puts it away.</summary>
    public long Add(long productionId, string title, Timecode start, MediaTime target, string who) =>
        database.Write(c => Begin(c, productionId, title, start, target, who));

    private long Begin(SqliteConnection c, long productionId, string title, Timecode start, MediaTime target, string who)
    {
        var (story, _) = new DescribeStory(title, target).Apply(Story.Empty with { Start = start });
        var id = c.Insert(
            "INSERT INTO story (production_id, title, rate_numerator, rate_denominator, drop_frame, start_label, target) VALUES ($p, "
                + "$title, $n, $d, $drop, $start, $target)",
            ("$p", productionId),
            ("$title", story.Title),
            ("$n", start.Count.Rate.Numerator),
            ("$d", start.Count.Rate.Denominator),
            ("$drop", start.Count.DropFrame ? 1 : 0),
            ("$start", start.ToString()),
            ("$target", target.Units)
        );
        ChangeLog.Append<StoryEdit>(
            c,
            new About(About.StoryShelf, id, productionId),
            who,
            clock.GetUtcNow(),
            new PutStoryAway(false),
            new PutStoryAway(true),
            "begun"
        );
        return id;
    }

    /// <summary>A story as it is, for this person.</summary>
    public StoredStory? Get(long id, string who) => database.Read(c => StoryRows.Get(c, id, who));

    /// <summary>What the cards of a story say, by card.</summary>
    public IReadOnlyDictionary<Guid, CardReading> ReadingsOf(long id) => database.Read(c => CardReadings.Of(c, id));

    /// <summary>The same of a story as it is given, which may be as it was at an earlier version: then its cards are read anew.</summary>
    public IReadOnlyDictionary<Guid, CardReading> ReadingsOf(StoredStory story) =>
        database.Read(c =>
            c.Query("SELECT version FROM story WHERE id = $id", r => r.GetInt64(0), ("$id", story.Id)).All(now => now == story.Version)
                ? CardReadings.Of(c, story.Id)
                : CardReadings.Made(c, transcripts, [.. story.Story.Cards]).ToDictionary(m => m.Card.Id, m => m.Reading)
        );
}
