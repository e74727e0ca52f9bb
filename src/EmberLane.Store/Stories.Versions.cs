using System.Text.Json;
using EmberLane.Core;
using EmberLane.Core.Stories;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>A step of a story in a list: the version that it led to, when, by whom, in words.</summary>
public sealed record StepHead(long Version, DateTimeOffset At, string Who, string Said);

/// <summary>A step of a story with what was made and what leads back.</summary>
internal sealed record StoryStep(StepHead Head, StoryEdit Edit, StoryEdit Inverse);

/// <summary>A version that somebody named.</summary>
public sealed record NamedVersion(long Id, long Version, string Name, DateTimeOffset At, string Who);

/// <content>Versions of stories: every one that a story ever had can be had again, some have names.</content>
public sealed partial class Stories
{
    /// <summary>The steps of a story, the newest first.</summary>
    public IReadOnlyList<StepHead> Steps(long id, int most) =>
        database.Read(c =>
            c.Query(
                "SELECT version, at, who, said FROM story_step WHERE story_id = $s ORDER BY version DESC LIMIT $most",
                ReadHead,
                ("$s", id),
                ("$most", most)
            )
        );

    /// <summary>The versions of a story that have names, the newest first.</summary>
    public IReadOnlyList<NamedVersion> Named(long id) =>
        database.Read(c =>
            c.Query(
                "SELECT id, version, name, at, who FROM story_version WHERE story_id = $s ORDER BY version DESC, id DESC",
                r => new NamedVersion(r.GetInt64(0), r.GetInt64(1), r.GetString(2), StoryRows.When(r, 3), r.GetString(4)),
                ("$s", id)
            )
        );

    /// <summary>
    /// Gives the story as it is now a name. Throws <see cref="EditRefusedException"/> for a name that is empty or too long.
    /// </summary>
    public void Name(long id, string name, string who) =>
        database.Write(c =>
        {
            var kept = TypedText.OneLine(name);
            return kept.Length is 0 or > DescribeStory.LongestTitle
                ? throw new EditRefusedException(
                    FormattableString.Invariant($"A version needs a name of at most {DescribeStory.LongestTitle} characters.")
                )
                : c.Insert(
                    "INSERT INTO story_version (story_id, version, name, at, who) VALUES ($s, $v, $name, $at, $who)",
                    ("$s", id),
                    ("$v", Here(c, id, who).Version),
                    ("$name", kept),
                    ("$at", clock.GetUtcNow().ToString("O")),
                    ("$who", who)
                );
        });

    /// <summary>
    /// A story as it was at a version; null where there is none such, or from before steps were kept. Cost grows with the steps since.
    /// </summary>
    public Story? At(long id, long version) =>
        database.Read(c =>
            StoryRows.Get(c, id, "") is { } here && version <= here.Version && Since(c, here, version) is { } steps
                ? Before(here.Story, steps)
                : null
        );

    /// <summary>The version that a story had at a moment; null where it did not exist yet, or nothing is known of it.</summary>
    public long? VersionAt(long id, DateTimeOffset moment) =>
        database.Read<long?>(c =>
            c.Query(
                    "SELECT MIN(version) - 1, MAX(CASE WHEN at <= $at THEN version END) FROM story_step WHERE story_id = $s",
                    r => (First: r.Number(0), Last: r.Number(1)),
                    ("$s", id),
                    ("$at", moment.ToUniversalTime().ToString("O"))
                )
                .Single()
                is { First: { } first } known
                ? known.Last ?? first
                : null
        );

    /// <summary>
    /// Makes the pieces of a story those of a list that came back, as one change, and keeps the bites that are new in it;
    /// <paramref name="pieces"/> gives the pieces with those bites' ids. Throws <see cref="EditRefusedException"/> where they do not fit.
    /// </summary>
    public StoredStory TakeOver(
        long id,
        Bites bites,
        IReadOnlyList<Core.Bites.Bite> kept,
        Func<IReadOnlyList<long>, IReadOnlyList<Piece>> pieces,
        string who
    ) =>
        database.Write(c =>
        {
            var ids = kept.Count == 0 ? [] : bites.Add(c, kept);
            return Apply(c, Here(c, id, who), new BecomeVersion(pieces(ids)) { IsReturned = true }, who);
        });

    /// <summary>
    /// Begins a story with the pieces of another, as they are or were, and its captions; the cards keep their ids, so that the two can be
    /// compared. Taking it back puts it away.
    /// </summary>
    public long Copy(StoredStory of, string title, string who) =>
        database.Write(c =>
        {
            var id = Begin(c, of.ProductionId, title, of.Start, of.Target, who);
            var empty = Here(c, id, who);
            if (of.Story.Pieces.Count > 0)
            {
                Save(c, empty, new BecomeVersion(of.Story.Pieces), who, $"copied from “{of.Title}”");
            }
            Captions.Copy(c, of.Id, id);
            return id;
        });

    // The steps behind a version, the oldest first; null where they are not all known.
    private static List<StoryStep>? Since(SqliteConnection c, StoredStory here, long version)
    {
        var steps = c.Query(
            "SELECT version, at, who, said, edit, inverse FROM story_step WHERE story_id = $s AND version > $v ORDER BY version",
            ReadStep,
            ("$s", here.Id),
            ("$v", version)
        );
        return version < 0 || steps.Count != here.Version - version ? null : steps;
    }

    private static Story Before(Story story, IReadOnlyList<StoryStep> steps) =>
        steps.Reverse().Aggregate(story, (now, step) => step.Inverse.Apply(now).Story);

    private static void WriteDown(SqliteConnection c, StoredStory of, StoryStep step) =>
        c.Execute(
            "INSERT INTO story_step VALUES ($s, $v, $at, $who, $said, $edit, $inverse)",
            ("$s", of.Id),
            ("$v", step.Head.Version),
            ("$at", step.Head.At.ToString("O")),
            ("$who", step.Head.Who),
            ("$said", step.Head.Said),
            ("$edit", JsonSerializer.Serialize(step.Edit)),
            ("$inverse", JsonSerializer.Serialize(step.Inverse))
        );

    private static StepHead ReadHead(SqliteDataReader r) => new(r.GetInt64(0), StoryRows.When(r, 1), r.GetString(2), r.GetString(3));

    private static StoryStep ReadStep(SqliteDataReader r) =>
        new(ReadHead(r), JsonSerializer.Deserialize<StoryEdit>(r.GetString(4))!, JsonSerializer.Deserialize<StoryEdit>(r.GetString(5))!);
}
