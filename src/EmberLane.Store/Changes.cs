using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>What kind of thing a change is about.</summary>
public enum ChangedThing
{
    /// <summary>The words, voices and marks of a text.</summary>
    Words,

    /// <summary>Which text a sitting is read by.</summary>
    Text,

    /// <summary>Sittings, files and mics.</summary>
    Gather,

    /// <summary>Where a file lies on its sitting's clock.</summary>
    Place,

    /// <summary>A bite.</summary>
    Bite,

    /// <summary>The cards of a story, its title, target and counting.</summary>
    Story,

    /// <summary>Whether a story is there or put away.</summary>
    StoryItself,

    /// <summary>What was chosen for a sitting's cameras.</summary>
    Cameras,

    /// <summary>What people made of a story's captions.</summary>
    Captions,

    /// <summary>The production's name and what was chosen for it.</summary>
    Production,
}

/// <summary>
/// A change as it is listed: what it is about (and which sitting's or story's, by title), who made it and when, in words, and whether it is
/// in force. <see cref="SittingId"/> is the sitting whose text it is about.
/// </summary>
public sealed record ListedChange(
    long Id,
    ChangedThing Thing,
    long SubjectId,
    string Title,
    string Who,
    DateTimeOffset At,
    string Said,
    bool InForce,
    long? SittingId
);

/// <summary>All that people changed in a production, whatever it is, for a page to list.</summary>
public sealed class Changes(Database database)
{
    /// <summary>
    /// The newest changes first, at most so many, made before the one named by <paramref name="before"/> when it is given; of one person or
    /// one kind of thing when these are. Cost grows with what is listed.
    /// </summary>
    public IReadOnlyList<ListedChange> Of(
        long productionId,
        int most,
        long? before = null,
        string? who = null,
        ChangedThing? thing = null
    ) =>
        database.Read(c =>
            c.Query(
                Select
                    + "WHERE g.production_id = $p AND g.state <> 2 AND ($before IS NULL OR g.id < $before) AND ($who IS NULL OR g.who = "
                    + "$who) AND ($log IS NULL OR g.aggregate = $log) ORDER BY g.id DESC LIMIT $most",
                Read,
                ("$p", productionId),
                ("$before", before),
                ("$who", who),
                ("$log", thing is { } asked ? LogOf(asked) : null),
                ("$most", most)
            )
        );

    /// <summary>One change of a production; null when there is none of that id.</summary>
    public ListedChange? Get(long productionId, long id) =>
        database
            .Read(c => c.Query(Select + "WHERE g.production_id = $p AND g.id = $id", Read, ("$p", productionId), ("$id", id)))
            .SingleOrDefault();

    /// <summary>The newest changes by which something off the record was released, at most so many.</summary>
    public IReadOnlyList<ListedChange> Releases(long productionId, int most) =>
        database.Read(c =>
            c.Query(
                Select
                    + "WHERE g.production_id = $p AND g.aggregate = 'transcript' AND g.state = 0 AND instr(g.body, $type) > 0 "
                    + "ORDER BY g.id DESC LIMIT $most",
                Read,
                ("$p", productionId),
                ("$type", "\"release-mark\""),
                ("$most", most)
            )
        );

    /// <summary>
    /// A number that grows with every change of a production, also with each that is taken back or made again; 0 while there is none.
    /// </summary>
    public long Newest(long productionId) =>
        database.Read(c =>
            c.Query("SELECT changes FROM production WHERE id = $p", r => r.GetInt64(0), ("$p", productionId)).SingleOrDefault()
        );

    /// <summary>Who changed something in a production, by name.</summary>
    public IReadOnlyList<string> People(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT DISTINCT who FROM change WHERE production_id = $p AND state <> 2 ORDER BY who COLLATE NOCASE",
                r => r.GetString(0),
                ("$p", productionId)
            )
        );

    private const string Select = """
        SELECT g.id, g.aggregate, g.aggregate_id, g.who, g.at, g.said, g.state,
            COALESCE((SELECT title FROM sitting WHERE g.aggregate IN ('placing', 'texts', 'cameras') AND id = g.aggregate_id),
                (SELECT title FROM story WHERE g.aggregate IN ('story', 'stories', 'captions') AND id = g.aggregate_id),
                (SELECT s.title FROM transcript t JOIN sitting s ON s.id = t.sitting_id
                    WHERE g.aggregate = 'transcript' AND t.id = g.aggregate_id), ''),
            (SELECT t.sitting_id FROM transcript t WHERE g.aggregate = 'transcript' AND t.id = g.aggregate_id)
        FROM change g 
        """;

    private static ListedChange Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            ThingOf(r.GetString(1)),
            r.GetInt64(2),
            r.GetString(7),
            r.GetString(3),
            ChangeLog.Moment(r, 4),
            r.GetString(5),
            r.GetInt64(6) == 0,
            r.Number(8)
        );

    private static ChangedThing ThingOf(string log) => Enum.GetValues<ChangedThing>().First(t => LogOf(t) == log);

    private static string LogOf(ChangedThing thing) =>
        thing switch
        {
            ChangedThing.Words => About.TextWords,
            ChangedThing.Text => About.Choice,
            ChangedThing.Gather => About.Gathered,
            ChangedThing.Place => About.Places,
            ChangedThing.Cameras => About.Cameras,
            ChangedThing.Captions => About.Captions,
            ChangedThing.Bite => About.KeptBites,
            ChangedThing.Story => About.StoryCards,
            ChangedThing.StoryItself => About.StoryShelf,
            _ => About.Settings,
        };
}
