using EmberLane.Core;
using EmberLane.Core.Comments;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>Which talks are listed.</summary>
public enum ListedTalks
{
    /// <summary>Those that are open.</summary>
    Open,

    /// <summary>Those that are open, in which somebody is mentioned or which they began.</summary>
    Mine,

    /// <summary>Those that were settled.</summary>
    Settled,
}

/// <summary>
/// What people say of words, bites and cards of a production. Nothing of it is ever lost: what is taken away comes back as it was.
/// </summary>
public sealed class Comments(Database database, TimeProvider clock)
{
    /// <summary>So many answers a talk may have.</summary>
    public const int MostAnswers = 200;

    private const int LongestQuote = 400;

    private const string Select =
        "SELECT c.id, c.answers, c.quote, c.who, c.at, c.body, c.away, c.settled_by, c.sitting_id, c.transcript_id, c.first_word, "
        + "c.last_word, c.range_in, c.range_out, c.bite_id, c.story_id, c.card FROM comment c ";

    // Begun, and not taken away before anybody answered.
    private const string Begun =
        "c.answers IS NULL AND (c.away = 0 OR EXISTS (SELECT 1 FROM comment a WHERE a.answers = c.id AND a.away = 0)) ";

    /// <summary>
    /// Begins a talk; its id. <paramref name="names"/> are those who can be mentioned. Throws <see cref="EditRefusedException"/> for a text
    /// that is none or too long.
    /// </summary>
    public long Begin(long productionId, CommentPlace place, string quote, string? body, string who, IReadOnlyCollection<string> names) =>
        database.Write(c => Insert(c, productionId, null, place, quote, CommentText.Fit(body), who, names));

    /// <summary>
    /// Answers a talk, which opens it again; the answer's id. Throws <see cref="EditRefusedException"/> where there is none, and as
    /// <see cref="Begin"/> does.
    /// </summary>
    public long Answer(long productionId, long to, string? body, string who, IReadOnlyCollection<string> names) =>
        database.Write(c =>
        {
            var begun = First(c, productionId, to);
            if (c.Query("SELECT COUNT(*) FROM comment WHERE answers = $a", r => r.GetInt64(0), ("$a", to)).Single() >= MostAnswers)
            {
                throw new EditRefusedException($"This talk has {MostAnswers} answers. Begin another.");
            }
            c.Execute("UPDATE comment SET settled_by = '', settled_at = NULL WHERE id = $id", ("$id", to));
            return Insert(c, productionId, to, begun.Place, begun.Quote, CommentText.Fit(body), who, names);
        });

    /// <summary>Settles a talk, or opens it again. Throws <see cref="EditRefusedException"/> where there is none.</summary>
    public void Settle(long productionId, long id, bool settled, string who) =>
        database.Write(c =>
        {
            First(c, productionId, id);
            c.Execute(
                "UPDATE comment SET settled_by = $by, settled_at = $at WHERE id = $id",
                ("$by", settled ? who : ""),
                ("$at", settled ? clock.GetUtcNow().ToString("O") : null),
                ("$id", id)
            );
        });

    /// <summary>
    /// Takes a comment away, or brings it back; the talk's id. Only who said it may. Throws <see cref="EditRefusedException"/> for others.
    /// </summary>
    public long TakeAway(long productionId, long id, bool away, string who) =>
        database.Write(c =>
        {
            var found =
                c.Query(Select + "WHERE c.id = $id AND c.production_id = $p", Read, ("$id", id), ("$p", productionId)).SingleOrDefault()
                ?? throw new EditRefusedException("That comment is not there.");
            if (found.Who != who)
            {
                throw new EditRefusedException($"{found.Who} said that; only they take it away.");
            }
            c.Execute("UPDATE comment SET away = $a WHERE id = $id", ("$a", away ? 1 : 0), ("$id", id));
            return found.Answers ?? found.Id;
        });

    /// <summary>The talk that a comment began, in a production; null when there is none.</summary>
    public CommentThread? Thread(long productionId, long id) =>
        Threads(productionId, "c.id = $id AND ", "", 1, ("$id", id)).SingleOrDefault();

    /// <summary>The talks of one thing, the oldest first; of words, those that share some of their time.</summary>
    public IReadOnlyList<CommentThread> Of(long productionId, CommentPlace place) =>
        place switch
        {
            BitePlace bite => Threads(productionId, "c.bite_id = $bite AND ", "c.id", MostListed, ("$bite", bite.BiteId)),
            CardPlace card => Threads(productionId, "c.card = $card AND ", "c.id", MostListed, ("$card", card.Card.ToString())),
            WordsPlace words => Threads(
                productionId,
                "c.sitting_id = $s AND c.range_in < $out AND c.range_out > $in AND ",
                "c.id",
                MostListed,
                ("$s", words.SittingId),
                ("$in", words.Range.In.FromZero.Units),
                ("$out", words.Range.Out.FromZero.Units)
            ),
            _ => [],
        };

    /// <summary>So many talks are listed at most.</summary>
    public const int MostListed = 200;

    /// <summary>The open talks of a sitting's words, in the order of the sitting.</summary>
    public IReadOnlyList<CommentThread> OfSitting(long productionId, long sittingId) =>
        Threads(productionId, "c.sitting_id = $s AND c.settled_by = '' AND ", "c.range_in, c.id", MostListed, ("$s", sittingId));

    /// <summary>The open talks of a story's pieces, the oldest first.</summary>
    public IReadOnlyList<CommentThread> OfStory(long productionId, long storyId) =>
        Threads(productionId, "c.story_id = $s AND c.settled_by = '' AND ", "c.id", MostListed, ("$s", storyId));

    /// <summary>Talks of a production, those with the newest word first.</summary>
    public IReadOnlyList<CommentThread> Listed(long productionId, ListedTalks which, string who) =>
        Threads(
            productionId,
            which switch
            {
                ListedTalks.Settled => "c.settled_by <> '' AND ",
                ListedTalks.Mine =>
                    "c.settled_by = '' AND (c.who = $who OR EXISTS (SELECT 1 FROM comment_mention m JOIN comment a ON a.id = "
                        + "m.comment_id WHERE m.name = $who AND a.away = 0 AND (a.id = c.id OR a.answers = c.id))) AND ",
                _ => "c.settled_by = '' AND ",
            },
            "(SELECT COALESCE(MAX(a.id), c.id) FROM comment a WHERE a.answers = c.id) DESC",
            MostListed,
            ("$who", who)
        );

    /// <summary>How many open talks there are of each bite and each piece of a story, by “bite-3” and “card-…”.</summary>
    public IReadOnlyDictionary<string, int> Counts(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT CASE WHEN c.bite_id IS NOT NULL THEN 'bite-' || c.bite_id ELSE 'card-' || c.card END, COUNT(*) FROM comment c "
                        + "WHERE c.production_id = $p AND c.sitting_id IS NULL AND c.settled_by = '' AND "
                        + Begun
                        + "GROUP BY 1",
                    r => (r.GetString(0), r.GetInt32(1)),
                    ("$p", productionId)
                )
            )
            .ToDictionary();

    /// <summary>What others than <paramref name="who"/> said after a comment, the newest first, and whether it mentions them.</summary>
    public IReadOnlyList<(Comment Comment, bool MentionsThem)> After(long productionId, long after, string who, int most) =>
        database.Read(c =>
            c.Query(
                Select + "WHERE c.production_id = $p AND c.id > $after AND c.who <> $who AND c.away = 0 ORDER BY c.id DESC LIMIT $most",
                r => (Read(r), IsMentioned(c, r.GetInt64(0), who)),
                ("$p", productionId),
                ("$after", after),
                ("$who", who),
                ("$most", most)
            )
        );

    /// <summary>Who said something in a production.</summary>
    public IReadOnlyList<string> People(long productionId) =>
        database.Read(c =>
            c.Query("SELECT DISTINCT who FROM comment WHERE production_id = $p ORDER BY who", r => r.GetString(0), ("$p", productionId))
        );

    private static bool IsMentioned(SqliteConnection c, long comment, string who) =>
        c.Query("SELECT 1 FROM comment_mention WHERE comment_id = $c AND name = $n", r => r.GetInt64(0), ("$c", comment), ("$n", who)).Count
        > 0;

    private List<CommentThread> Threads(
        long productionId,
        string asked,
        string order,
        int most,
        params (string Name, object? Value)[] values
    ) =>
        database.Read(c =>
        {
            var begun = c.Query(
                Select + "WHERE c.production_id = $p AND " + asked + Begun + (order.Length > 0 ? "ORDER BY " + order : "") + " LIMIT $most",
                Read,
                [.. values, ("$p", productionId), ("$most", most)]
            );
            return begun
                .Select(b => new CommentThread(b, c.Query(Select + "WHERE c.answers = $a ORDER BY c.id", Read, ("$a", b.Id))))
                .ToList();
        });

    private static Comment First(SqliteConnection c, long productionId, long id) =>
        c.Query(Select + "WHERE c.id = $id AND c.production_id = $p AND c.answers IS NULL", Read, ("$id", id), ("$p", productionId))
            .SingleOrDefault()
        ?? throw new EditRefusedException("That talk is not there.");

    private long Insert(
        SqliteConnection c,
        long productionId,
        long? answers,
        CommentPlace place,
        string quote,
        string body,
        string who,
        IReadOnlyCollection<string> names
    )
    {
        var words = place as WordsPlace;
        var id = c.Insert(
            "INSERT INTO comment (production_id, answers, sitting_id, transcript_id, first_word, last_word, range_in, range_out, bite_id, "
                + "story_id, card, quote, who, at, body) VALUES ($p, $answers, $s, $t, $first, $last, $in, $out, $bite, $story, $card, "
                + "$quote, $who, $at, $body)",
            ("$p", productionId),
            ("$answers", answers),
            ("$s", words?.SittingId),
            ("$t", words?.TextId),
            ("$first", words?.First),
            ("$last", words?.Last),
            ("$in", words?.Range.In.FromZero.Units),
            ("$out", words?.Range.Out.FromZero.Units),
            ("$bite", (place as BitePlace)?.BiteId),
            ("$story", (place as CardPlace)?.StoryId),
            ("$card", (place as CardPlace)?.Card.ToString()),
            ("$quote", quote.Length > LongestQuote ? quote[..LongestQuote] + "…" : quote),
            ("$who", who),
            ("$at", clock.GetUtcNow().ToString("O")),
            ("$body", body)
        );
        foreach (var name in CommentText.Mentioned(body, names))
        {
            c.Execute("INSERT OR IGNORE INTO comment_mention VALUES ($c, $n)", ("$c", id), ("$n", name));
        }
        return id;
    }

    private static Comment Read(SqliteDataReader r) =>
        new(
            r.GetInt64(0),
            r.Number(1),
            r.Number(8) is { } sitting
                    ? new WordsPlace(sitting, r.GetInt64(9), Columns.Word(r, 10), Columns.Word(r, 11), Columns.Range(r, 12))
                : r.Number(14) is { } bite ? new BitePlace(bite)
                : new CardPlace(r.GetInt64(15), Guid.Parse(r.GetString(16))),
            r.GetString(2),
            r.GetString(3),
            ChangeLog.Moment(r, 4),
            r.GetString(5),
            r.GetInt64(6) != 0,
            r.GetString(7)
        );
}
