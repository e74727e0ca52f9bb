using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Stories;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A story with how it is counted, where its record starts, its target length, and its version, which grows with every change.</summary>
public sealed record StoredStory(long Id, long ProductionId, string Title, Timecode Start, MediaTime Target, long Version, Story Story, bool CanUndo, bool CanRedo);

/// <summary>A story in a list: how many cards it has and when one was last changed.</summary>
public sealed record StoryHead(long Id, string Title, bool IsAway, int Cards, DateTimeOffset? ChangedAt);

/// <summary>Stories, changed by edits that can be taken back.</summary>
public sealed class Stories(Database database, TimeProvider clock)
{
    private const string Aggregate = "story";

    private const string InHandSetting = "story in hand";

    /// <summary>The stories of a production, in the order in which they were made, those that were put away last.</summary>
    public IReadOnlyList<StoryHead> Of(long productionId) => database.Read(c => c.Query(
        "SELECT s.id, s.title, s.away, (SELECT COUNT(*) FROM card k WHERE k.story_id = s.id), (SELECT MAX(e.at) FROM edit e WHERE e.aggregate = 'story' AND e.aggregate_id = s.id) FROM story s WHERE s.production_id = $p ORDER BY s.away, s.id",
        r => new StoryHead(r.GetInt64(0), r.GetString(1), r.GetInt64(2) != 0, r.GetInt32(3), r.IsDBNull(4) ? null : DateTimeOffset.Parse(r.GetString(4), CultureInfo.InvariantCulture)), ("$p", productionId)));

    /// <summary>The story that the rooms show: the one that was taken in hand last, else the first; null when there is none that was not put away.</summary>
    public long? InHand(long productionId) => database.Read(c => c.Query(
        "SELECT s.id FROM story s LEFT JOIN production_setting x ON x.production_id = s.production_id AND x.name = $n AND x.value = CAST(s.id AS TEXT) WHERE s.production_id = $p AND s.away = 0 ORDER BY x.value IS NULL, s.id LIMIT 1",
        r => (long?)r.GetInt64(0), ("$p", productionId), ("$n", InHandSetting))).SingleOrDefault();

    /// <summary>From now on the rooms show this story.</summary>
    public void TakeInHand(long productionId, long id) => database.Write(c => c.Execute(
        "INSERT OR REPLACE INTO production_setting VALUES ($p, $n, CAST($id AS TEXT))", ("$p", productionId), ("$n", InHandSetting), ("$id", id)));

    /// <summary>Gives a story another title and target length. What was typed is checked by the caller.</summary>
    public void Describe(long id, string title, MediaTime target) =>
        database.Write(c => c.Execute("UPDATE story SET title = $t, target = $l WHERE id = $id", ("$t", title), ("$l", target.Units), ("$id", id)));

    /// <summary>Puts a story away, or brings it back; nothing of it is lost.</summary>
    public void PutAway(long id, bool away) => database.Write(c => c.Execute("UPDATE story SET away = $a WHERE id = $id", ("$a", away ? 1 : 0), ("$id", id)));

    public long Add(long productionId, string title, Timecode start, MediaTime target) => database.Write(c => c.Insert(
        "INSERT INTO story (production_id, title, rate_numerator, rate_denominator, drop_frame, start_label, target) VALUES ($p, $title, $n, $d, $drop, $start, $target)",
        ("$p", productionId), ("$title", title), ("$n", start.Count.Rate.Numerator), ("$d", start.Count.Rate.Denominator), ("$drop", start.Count.DropFrame ? 1 : 0), ("$start", start.ToString()), ("$target", target.Units)));

    public StoredStory? Get(long id) => database.Read(c => Get(c, id));

    /// <summary>
    /// Applies a person's edit to version <paramref name="version"/>. Throws <see cref="ConflictException"/> when the story has a newer one, and
    /// <see cref="EditRefusedException"/> when the edit does not fit; either way nothing is changed.
    /// </summary>
    public StoredStory Apply(long id, long version, StoryEdit edit, string who) => database.Write(c =>
    {
        var before = Current(c, id, version);
        var (story, inverse) = edit.Apply(before.Story);
        EditLog.Append(c, Aggregate, id, who, clock.GetUtcNow(), JsonSerializer.Serialize(edit), JsonSerializer.Serialize(inverse));
        return Save(c, id, story);
    });

    /// <summary>Takes the newest change back, or brings the one last taken back again; the story as it is when there is none.</summary>
    public StoredStory Step(long id, long version, bool redo) => database.Write(c =>
    {
        var before = Current(c, id, version);
        if (EditLog.Next(c, Aggregate, id, redo) is not { } logged)
        {
            return before;
        }
        var (story, _) = JsonSerializer.Deserialize<StoryEdit>(redo ? logged.Body : logged.Inverse)!.Apply(before.Story);
        EditLog.Mark(c, logged.Id, takenBack: !redo);
        return Save(c, id, story);
    });

    /// <summary>Changes how the hand-off counts.</summary>
    public void Count(long id, Timecode start) => database.Write(c => c.Execute(
        "UPDATE story SET rate_numerator = $n, rate_denominator = $d, drop_frame = $drop, start_label = $start WHERE id = $id",
        ("$n", start.Count.Rate.Numerator), ("$d", start.Count.Rate.Denominator), ("$drop", start.Count.DropFrame ? 1 : 0), ("$start", start.ToString()), ("$id", id)));

    private static StoredStory Current(SqliteConnection c, long id, long version)
    {
        var stored = Get(c, id) ?? throw new EditRefusedException("That story does not exist.");
        return stored.Version == version ? stored : throw new ConflictException("The story was changed in another window meanwhile. It is shown here as it is now; your last change was not made. Make it again if you still want it.");
    }

    private static StoredStory Save(SqliteConnection c, long id, Story story)
    {
        c.Execute("DELETE FROM card WHERE story_id = $id", ("$id", id));
        foreach (var (card, position) in story.Cards.Select((card, i) => (card, i)))
        {
            c.Execute("INSERT INTO card VALUES ($story, $position, $id, $bite, $sitting, $in, $out, $angle)",
                ("$story", id), ("$position", position), ("$id", card.Id.ToString()), ("$bite", card.BiteId), ("$sitting", card.SittingId),
                ("$in", card.Range.In.FromZero.Units), ("$out", card.Range.Out.FromZero.Units), ("$angle", card.Angle));
        }
        c.Execute("UPDATE story SET version = version + 1 WHERE id = $id", ("$id", id));
        return Get(c, id)!;
    }

    private static StoredStory? Get(SqliteConnection c, long id)
    {
        var cards = c.Query("SELECT id, bite_id, sitting_id, time_in, time_out, angle FROM card WHERE story_id = $id ORDER BY position",
            r => new Card(Guid.Parse(r.GetString(0)), r.GetInt64(1), r.GetInt64(2), Columns.Range(r, 3), r.Number(5)), ("$id", id));
        return c.Query("SELECT production_id, title, rate_numerator, rate_denominator, drop_frame, start_label, target, version FROM story WHERE id = $id", r =>
        {
            var count = new TimecodeCount(new FrameRate(r.GetInt32(2), r.GetInt32(3)), r.GetInt64(4) == 1);
            return new StoredStory(id, r.GetInt64(0), r.GetString(1), count.Parse(r.GetString(5)), new MediaTime(r.GetInt64(6)), r.GetInt64(7), new Story(cards.ToImmutableList()),
                EditLog.Next(c, Aggregate, id, redo: false) is not null, EditLog.Next(c, Aggregate, id, redo: true) is not null);
        }, ("$id", id)).SingleOrDefault();
    }
}
