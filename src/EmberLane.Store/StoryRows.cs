using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Stories;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The rows of stories: cards of bites, and the other pieces, each at its place.</summary>
internal static class StoryRows
{
    /// <summary>A story as it is, for this person; null when there is none.</summary>
    public static StoredStory? Get(SqliteConnection c, long id, string who) =>
        c.Query(
                "SELECT production_id, title, rate_numerator, rate_denominator, drop_frame, start_label, target, version, away FROM story "
                    + "WHERE id = $id",
                r =>
                {
                    var count = new TimecodeCount(new FrameRate(r.GetInt32(2), r.GetInt32(3)), r.GetInt64(4) == 1);
                    var story = new Story(PiecesOf(c, id))
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

    private static ImmutableList<Piece> PiecesOf(SqliteConnection c, long id)
    {
        var cards = c.Query(
            "SELECT id, bite_id, sitting_id, time_in, time_out, angle, other_takes, space_before, space_after, unmended_in, unmended_out, "
                + "over_source, over_in, over_out, over_after, position, comes_in, comes_in_heard FROM card WHERE story_id = $id",
            r =>
                (
                    At: r.GetInt32(15),
                    Piece: (Piece)
                        new Card(Guid.Parse(r.GetString(0)), r.GetInt64(1), r.GetInt64(2), Columns.Range(r, 3), r.Number(5))
                        {
                            OtherTakes = r.GetString(6),
                            SpaceBefore = r.GetString(7),
                            SpaceAfter = r.GetString(8),
                            Unmended = r.IsDBNull(9) ? null : Columns.Range(r, 9),
                            Over = r.Number(11) is { } over
                                ? new OverPicture(over, SourceRange(r, 12), new MediaTime(r.GetInt64(14)))
                                : null,
                            ComesIn = r.Number(16) is { } lasting ? new Dissolve(new MediaTime(lasting), r.GetInt64(17) != 0) : null,
                        }
                ),
            ("$id", id)
        );
        var others = c.Query(
            "SELECT position, body FROM story_piece WHERE story_id = $id",
            r => (At: r.GetInt32(0), Piece: JsonSerializer.Deserialize<Piece>(r.GetString(1))!),
            ("$id", id)
        );
        return [.. cards.Concat(others).OrderBy(p => p.At).Select(p => p.Piece)];
    }

    /// <summary>
    /// Writes a story over how it was. Only the places between the first and the last that differ are written; what cards say is brought
    /// along.
    /// </summary>
    public static void Save(SqliteConnection c, Transcripts transcripts, StoredStory before, Story story)
    {
        SavePieces(c, before.Id, before.Story.Pieces, story.Pieces);
        var were = before.Story.Cards.ToDictionary(k => k.Id);
        foreach (var gone in were.Keys.Except(story.Cards.Select(k => k.Id)))
        {
            CardReadings.Forget(c, before.Id, gone);
        }
        CardReadings.Make(
            c,
            transcripts,
            before.Id,
            [
                .. story.Cards.Where(k =>
                    !were.TryGetValue(k.Id, out var was) || was.Range != k.Range || was.BiteId != k.BiteId || was.SittingId != k.SittingId
                ),
            ]
        );
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
    }

    private static void SavePieces(SqliteConnection c, long id, ImmutableList<Piece> before, ImmutableList<Piece> after)
    {
        foreach (
            var (place, (was, now)) in before
                .Cast<Piece?>()
                .Concat(Enumerable.Repeat<Piece?>(null, Math.Max(0, after.Count - before.Count)))
                .Zip(after.Cast<Piece?>().Concat(Enumerable.Repeat<Piece?>(null, Math.Max(0, before.Count - after.Count))))
                .Index()
        )
        {
            if (was == now)
            {
                continue;
            }
            if (was is not null)
            {
                c.Execute(
                    $"DELETE FROM {(was is Card ? "card" : "story_piece")} WHERE story_id = $story AND position = $p",
                    ("$story", id),
                    ("$p", place)
                );
            }
            if (now is Card card)
            {
                Insert(c, id, place, card);
            }
            else if (now is not null)
            {
                c.Execute(
                    "INSERT INTO story_piece VALUES ($story, $position, $id, $body)",
                    ("$story", id),
                    ("$position", place),
                    ("$id", now.Id.ToString()),
                    ("$body", JsonSerializer.Serialize(now))
                );
            }
        }
    }

    private static void Insert(SqliteConnection c, long story, int place, Card card) =>
        c.Execute(
            "INSERT INTO card VALUES ($story, $position, $id, $bite, $sitting, $in, $out, $angle, $others, $before, $after, $unmendedIn, "
                + "$unmendedOut, $overSource, $overIn, $overOut, $overAfter, $comesIn, $comesInHeard)",
            ("$story", story),
            ("$position", place),
            ("$id", card.Id.ToString()),
            ("$bite", card.BiteId),
            ("$sitting", card.SittingId),
            ("$in", card.Range.In.FromZero.Units),
            ("$out", card.Range.Out.FromZero.Units),
            ("$angle", card.Angle),
            ("$others", card.OtherTakes),
            ("$before", card.SpaceBefore),
            ("$after", card.SpaceAfter),
            ("$unmendedIn", card.Unmended?.In.FromZero.Units),
            ("$unmendedOut", card.Unmended?.Out.FromZero.Units),
            ("$overSource", card.Over?.SourceId),
            ("$overIn", card.Over?.Range.In.FromZero.Units),
            ("$overOut", card.Over?.Range.Out.FromZero.Units),
            ("$overAfter", card.Over?.After.Units),
            ("$comesIn", card.ComesIn?.Lasting.Units),
            ("$comesInHeard", card.ComesIn?.IsHeard == true ? 1 : 0)
        );

    private static SourceRange SourceRange(SqliteDataReader r, int column) =>
        new(new SourceTime(new MediaTime(r.GetInt64(column))), new SourceTime(new MediaTime(r.GetInt64(column + 1))));

    /// <summary>A time of the log.</summary>
    public static DateTimeOffset When(SqliteDataReader r, int column) =>
        DateTimeOffset.Parse(r.GetString(column), CultureInfo.InvariantCulture);
}
