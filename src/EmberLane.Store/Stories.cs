using System.Collections.Immutable;
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

/// <summary>
/// What a card is laid from: the take that it shows, the others of the same, and lines that are missing before and behind it.
/// </summary>
public sealed record LaidTakes(Core.Bites.Bite Best, IReadOnlyList<Core.Bites.Bite> Others, string SpaceBefore, string SpaceAfter);

/// <summary>Stories, changed by edits that can be taken back.</summary>
public sealed class Stories(Database database, TimeProvider clock)
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
    /// The stories of a production that show something of a sitting, those put away left out, with their titles, rates and those cards.
    /// Cost grows with these cards.
    /// </summary>
    public IReadOnlyList<(long Id, string Title, FrameRate Rate, IReadOnlyList<SittingRange> Cards)> Showing(long sittingId) =>
        database.Read(c =>
            c.Query(
                    "SELECT s.id, s.title, s.rate_numerator, s.rate_denominator, k.time_in, k.time_out FROM card k JOIN story s ON s.id = "
                        + "k.story_id WHERE k.sitting_id = $s AND s.away = 0 ORDER BY s.id, k.position",
                    r => (Story: (r.GetInt64(0), r.GetString(1), new FrameRate(r.GetInt32(2), r.GetInt32(3))), Range: Columns.Range(r, 4)),
                    ("$s", sittingId)
                )
                .GroupBy(k => k.Story, k => k.Range)
                .Select(g => (g.Key.Item1, g.Key.Item2, g.Key.Item3, (IReadOnlyList<SittingRange>)[.. g]))
                .ToList()
        );

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
        database.Write(c =>
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
        });

    /// <summary>A story as it is, for this person.</summary>
    public StoredStory? Get(long id, string who) => database.Read(c => Get(c, id, who));

    /// <summary>
    /// Applies a person's edit to version <paramref name="version"/>. Throws <see cref="ConflictException"/> when the story has a newer
    /// one, and <see cref="EditRefusedException"/> when the edit does not fit; either way nothing is changed.
    /// </summary>
    public StoredStory Apply(long id, long version, StoryEdit edit, string who) =>
        database.Write(c => Apply(c, Current(c, id, version, who), edit, who));

    /// <summary>
    /// Puts a story away, or brings it back; nothing of it is lost. It is in the log apart from the cards, so that undo in a story never
    /// takes the story itself away.
    /// </summary>
    public void PutAway(long id, bool away, string who) =>
        database.Write(c =>
        {
            if (Here(c, id, who) is var before && before.Story.IsAway != away)
            {
                Apply(c, before, new PutStoryAway(away), who, About.StoryShelf);
            }
        });

    /// <summary>
    /// As <see cref="Apply(long, long, StoryEdit, string)"/>, on whichever version there is: for what does not depend on the order of the
    /// cards.
    /// </summary>
    public StoredStory Apply(long id, StoryEdit edit, string who) => database.Write(c => Apply(c, Here(c, id, who), edit, who));

    /// <summary>
    /// Keeps bites and lays a card of each behind the last one, in their order; all or nothing, and the cards are taken back in one step.
    /// Throws <see cref="EditRefusedException"/> when there is no bite, or one does not fit.
    /// </summary>
    public StoredStory KeepAndLay(long id, Bites bites, IReadOnlyList<Core.Bites.Bite> kept, string who) =>
        KeepAndLay(id, bites, [.. kept.Select(b => new LaidTakes(b, [], "", ""))], who);

    /// <summary>The same of cards with other takes, which are kept as bites too, and with lines that are missing beside them.</summary>
    public StoredStory KeepAndLay(long id, Bites bites, IReadOnlyList<LaidTakes> laid, string who) =>
        database.Write(c =>
        {
            var before = Here(c, id, who);
            var kept = laid.SelectMany(l => l.Others.Prepend(l.Best)).ToList();
            var ids = new Queue<long>(bites.Add(c, kept));
            var cards = laid.Select(l => new Card(Guid.NewGuid(), ids.Dequeue(), l.Best.SittingId, l.Best.Range, null)
            {
                OtherTakes = string.Join(' ', l.Others.Select(_ => ids.Dequeue().ToString(CultureInfo.InvariantCulture))),
                SpaceBefore = l.SpaceBefore,
                SpaceAfter = l.SpaceAfter,
            });
            return Apply(
                c,
                before,
                new StoryTogether([.. cards.Select((card, i) => new LayCard(card, before.Story.Cards.Count + i))]),
                who
            );
        });

    /// <summary>
    /// Takes a person's newest change back, or brings the one that they last took back again; the story as it is when there is none. Throws
    /// <see cref="ConflictException"/> when the story has a newer version, and <see cref="EditRefusedException"/> when somebody touched the
    /// same since, with who did.
    /// </summary>
    public StoredStory Step(long id, long version, bool redo, string who) =>
        database.Write(c =>
        {
            var before = Current(c, id, version, who);
            if (ChangeLog.Next<Story, StoryEdit>(c, new About(About.StoryCards, id, before.ProductionId), redo, who) is not { } step)
            {
                return before;
            }
            var (story, _) = step.Edit.Within(before.Story).Apply(before.Story);
            ChangeLog.Made(c, step.Change.Id, redo);
            return Save(c, before, story, who);
        });

    /// <summary>
    /// Takes one change back alone, as a change of its own. Throws <see cref="EditRefusedException"/> when it is not in force, or somebody
    /// touched the same since.
    /// </summary>
    public StoredStory TakeBack(long id, long change, string who) =>
        database.Write(c =>
        {
            var before = Here(c, id, who);
            var log = ChangeLog.AggregateOf(c, change);
            var step = ChangeLog.One<Story, StoryEdit>(
                c,
                new About(log == About.StoryShelf ? log : About.StoryCards, id, before.ProductionId),
                change
            );
            return Apply(c, before, step.Edit.Within(before.Story), who, log, change);
        });

    private StoredStory Apply(
        SqliteConnection c,
        StoredStory before,
        StoryEdit edit,
        string who,
        string log = About.StoryCards,
        long? takesBack = null
    )
    {
        var (story, inverse) = edit.Apply(before.Story);
        ChangeLog.Append(
            c,
            new About(log, before.Id, before.ProductionId),
            who,
            clock.GetUtcNow(),
            edit,
            inverse,
            StoryWords.Of(edit, before.Story, card => SaidIn(c, card)),
            before.Version,
            takesBack
        );
        return Save(c, before, story, who);
    }

    private static string SaidIn(SqliteConnection c, Card card) =>
        c.Query("SELECT said FROM bite_reading WHERE bite_id = $b", r => r.GetString(0), ("$b", card.BiteId)).SingleOrDefault() ?? "";

    private static StoredStory Here(SqliteConnection c, long id, string who) =>
        Get(c, id, who) ?? throw new EditRefusedException("That story does not exist.");

    private static StoredStory Current(SqliteConnection c, long id, long version, string who) =>
        Here(c, id, who) is var stored && stored.Version == version
            ? stored
            : throw new ConflictException(
                "The story was changed in another window meanwhile. It is shown here as it is now; your last change was not made. Make it "
                    + "again if you still want it."
            );

    private static StoredStory Save(SqliteConnection c, StoredStory before, Story story, string who)
    {
        var there = before.Story.Cards.Select(k => k.BiteId).ToHashSet();
        if (
            story.Cards.FirstOrDefault(k =>
                !there.Contains(k.BiteId)
                && c.Query("SELECT 1 FROM bite WHERE id = $b AND gone = 0", r => r.GetInt64(0), ("$b", k.BiteId)).Count == 0
            )
            is not null
        )
        {
            throw new EditRefusedException("The bite of this card is not kept any more. Keep it again first.");
        }
        SaveCards(c, before.Id, before.Story.Cards, story.Cards);
        c.Execute(
            "UPDATE story SET version = version + 1, title = $t, target = $l, away = $away, rate_numerator = $n, rate_denominator = $d, "
                + "drop_frame = $drop, start_label = $start WHERE id = $id",
            ("$t", story.Title),
            ("$l", story.Target.Units),
            ("$away", story.IsAway ? 1 : 0),
            ("$n", story.Start.Count.Rate.Numerator),
            ("$d", story.Start.Count.Rate.Denominator),
            ("$drop", story.Start.Count.DropFrame ? 1 : 0),
            ("$start", story.Start.ToString()),
            ("$id", before.Id)
        );
        return Get(c, before.Id, who)!;
    }

    // Only the places between the first and the last that differ are written.
    private static void SaveCards(SqliteConnection c, long id, ImmutableList<Card> before, ImmutableList<Card> after)
    {
        for (var place = 0; place < Math.Max(before.Count, after.Count); place++)
        {
            if (place >= after.Count)
            {
                c.Execute("DELETE FROM card WHERE story_id = $story AND position = $p", ("$story", id), ("$p", place));
            }
            else if (place >= before.Count || after[place] != before[place])
            {
                var card = after[place];
                c.Execute(
                    "INSERT OR REPLACE INTO card VALUES ($story, $position, $id, $bite, $sitting, $in, $out, $angle, $others, $before, "
                        + "$after)",
                    ("$story", id),
                    ("$position", place),
                    ("$id", card.Id.ToString()),
                    ("$bite", card.BiteId),
                    ("$sitting", card.SittingId),
                    ("$in", card.Range.In.FromZero.Units),
                    ("$out", card.Range.Out.FromZero.Units),
                    ("$angle", card.Angle),
                    ("$others", card.OtherTakes),
                    ("$before", card.SpaceBefore),
                    ("$after", card.SpaceAfter)
                );
            }
        }
    }

    private static StoredStory? Get(SqliteConnection c, long id, string who)
    {
        var cards = c.Query(
            "SELECT id, bite_id, sitting_id, time_in, time_out, angle, other_takes, space_before, space_after FROM card WHERE story_id = "
                + "$id ORDER BY position",
            r => new Card(Guid.Parse(r.GetString(0)), r.GetInt64(1), r.GetInt64(2), Columns.Range(r, 3), r.Number(5))
            {
                OtherTakes = r.GetString(6),
                SpaceBefore = r.GetString(7),
                SpaceAfter = r.GetString(8),
            },
            ("$id", id)
        );
        return c.Query(
                "SELECT production_id, title, rate_numerator, rate_denominator, drop_frame, start_label, target, version, away FROM story "
                    + "WHERE id = $id",
                r =>
                {
                    var count = new TimecodeCount(new FrameRate(r.GetInt32(2), r.GetInt32(3)), r.GetInt64(4) == 1);
                    var story = new Story(cards.ToImmutableList())
                    {
                        Title = r.GetString(1),
                        Start = count.Parse(r.GetString(5)),
                        Target = new MediaTime(r.GetInt64(6)),
                        IsAway = r.GetInt64(8) != 0,
                    };
                    var about = new About(About.StoryCards, id, r.GetInt64(0));
                    return new StoredStory(
                        id,
                        about.Production,
                        r.GetInt64(7),
                        story,
                        ChangeLog.Has(c, about, redo: false, who),
                        ChangeLog.Has(c, about, redo: true, who)
                    );
                },
                ("$id", id)
            )
            .SingleOrDefault();
    }
}
