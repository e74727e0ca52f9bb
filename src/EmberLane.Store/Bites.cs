using EmberLane.Core;
using EmberLane.Core.Bites;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>How long a person's words last in the bites of a theme.</summary>
public sealed record ThemeShare(string Theme, string Name, MediaTime Said);

/// <summary>
/// The bites that people kept. Keeping, describing and setting aside are in the production's log and are taken back by the person who did
/// them.
/// </summary>
public sealed partial class Bites(Database database, Transcripts transcripts, TimeProvider clock)
{
    private const string Select =
        $"SELECT {Marks.MarkColumns}, b.sitting_id, m.transcript_id, b.theme, b.aside, b.grade, b.kind FROM bite b JOIN mark m ON m.id = "
        + "b.id JOIN sitting s ON s.id = b.sitting_id ";

    /// <summary>The kept bites of a production, in the order of their sittings and times. Cost grows with all of them.</summary>
    public IReadOnlyList<Bite> Of(long productionId) =>
        database.Read(c =>
            c.Query(
                Select + "WHERE s.production_id = $p AND b.gone = 0 ORDER BY b.sitting_id, m.time_in, b.id",
                ReadBite,
                ("$p", productionId)
            )
        );

    private const string Filtered = """
        JOIN bite_reading r ON r.bite_id = b.id
        WHERE s.production_id = $p AND b.gone = 0 AND b.aside = $aside
            AND ($sitting IS NULL OR b.sitting_id = $sitting)
            AND ($theme IS NULL OR ($theme = '' AND b.theme = '')
                OR EXISTS (SELECT 1 FROM bite_theme t WHERE t.bite_id = b.id AND t.theme = $theme COLLATE NOCASE))
            AND ($person IS NULL
                OR EXISTS (SELECT 1 FROM bite_voice v WHERE v.bite_id = b.id AND v.name = $person COLLATE NOCASE))
            AND b.grade >= $grade
            AND ($laid IS NULL OR (b.id IN (SELECT bite_id FROM card WHERE story_id = $story)) = $laid)
            AND ($words = '' OR instr(lower(r.said || ' ' || m.note || ' ' || b.theme || ' ' || b.kind), lower($words)) > 0) 
        """;

    private static (string, object?)[] ValuesOf(long productionId, BiteFilter filter) =>
        [
            ("$p", productionId),
            ("$aside", filter.Aside ? 1 : 0),
            ("$sitting", filter.Sitting),
            ("$theme", filter.Theme),
            ("$person", filter.Person),
            ("$grade", filter.LeastGrade),
            (
                "$laid",
                filter.InStory is { } laid
                    ? laid
                        ? 1
                        : 0
                    : null
            ),
            ("$story", filter.Story),
            ("$words", filter.Words),
        ];

    /// <summary>
    /// Some of the bites of a production, behind the first <paramref name="skip"/>, at most <paramref name="most"/>: by sittings and times,
    /// or by who speaks first in them.
    /// </summary>
    public IReadOnlyList<Bite> Some(long productionId, BiteFilter filter, int skip, int most, bool byPerson = false) =>
        database.Read(c =>
            c.Query(
                Select
                    + Filtered
                    + "ORDER BY "
                    + (byPerson ? "(SELECT v.name FROM bite_voice v WHERE v.bite_id = b.id ORDER BY v.said DESC LIMIT 1), " : "")
                    + "b.sitting_id, m.time_in, b.id LIMIT $most OFFSET $skip",
                ReadBite,
                [.. ValuesOf(productionId, filter), ("$most", most), ("$skip", skip)]
            )
        );

    /// <summary>How many bites pass a filter, and how long what is in use of them lasts together.</summary>
    public (int Kept, MediaTime Length) Figures(long productionId, BiteFilter filter) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*), COALESCE(SUM(r.length), 0) FROM bite b JOIN mark m ON m.id = b.id JOIN sitting s ON s.id = "
                        + "b.sitting_id "
                        + Filtered,
                    r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))),
                    ValuesOf(productionId, filter)
                )
                .Single()
        );

    /// <summary>How many bites of a production are kept, not set aside, and not in a story.</summary>
    public int Unused(long productionId, long story) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*) FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND "
                        + "b.aside = 0 AND b.id NOT IN (SELECT bite_id FROM card WHERE story_id = $story)",
                    r => r.GetInt32(0),
                    ("$p", productionId),
                    ("$story", story)
                )
                .Single()
        );

    /// <summary>How long each person's words last in the kept bites of each theme, those set aside left out.</summary>
    public IReadOnlyList<ThemeShare> Shares(long productionId)
    {
        var shares = database.Read(c =>
            c.Query(
                """
                SELECT COALESCE(t.theme, ''), v.name, SUM(v.said), MIN(b.id)
                FROM bite b JOIN sitting s ON s.id = b.sitting_id JOIN bite_voice v ON v.bite_id = b.id
                    LEFT JOIN bite_theme t ON t.bite_id = b.id
                WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0
                GROUP BY COALESCE(t.theme, '') COLLATE NOCASE, v.name ORDER BY MIN(b.id)
                """,
                r => new ThemeShare(r.GetString(0), r.GetString(1), new MediaTime(r.GetInt64(2))),
                ("$p", productionId)
            )
        );
        // A theme is spelled as with the first bite that has it, whoever speaks.
        var spelled = new Dictionary<string, string>(StringComparer.OrdinalIgnoreCase);
        shares.ForEach(s => spelled.TryAdd(s.Theme, s.Theme));
        return [.. shares.Select(s => s with { Theme = spelled[s.Theme] })];
    }

    /// <summary>The themes of kept bites, those set aside left out; also the empty one, where some have none.</summary>
    public IReadOnlyList<string> Themes(long productionId) =>
        database.Read(c =>
            c.Query(
                "SELECT COALESCE(t.theme, '') FROM bite b JOIN sitting s ON s.id = b.sitting_id LEFT JOIN bite_theme t ON t.bite_id = b.id "
                    + "WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0 GROUP BY COALESCE(t.theme, '') COLLATE NOCASE ORDER BY "
                    + "MIN(b.id)",
                r => r.GetString(0),
                ("$p", productionId)
            )
        );

    /// <summary>These bites, in any order. Cost grows with their number.</summary>
    public IReadOnlyList<Bite> Of(IReadOnlyCollection<long> ids) =>
        database.Read(c => c.Query(Select + $"WHERE b.id IN ({string.Join(',', ids)})", ReadBite));

    /// <summary>How many bites of a production are kept and not set aside, and how long what is in use of them lasts together.</summary>
    public (int Kept, MediaTime Length) Figures(long productionId) =>
        database.Read(c =>
            c.Query(
                    "SELECT COUNT(*), COALESCE(SUM(r.length), 0) FROM bite b JOIN sitting s ON s.id = b.sitting_id JOIN bite_reading r ON "
                        + "r.bite_id = b.id WHERE s.production_id = $p AND b.gone = 0 AND b.aside = 0",
                    r => (r.GetInt32(0), new MediaTime(r.GetInt64(1))),
                    ("$p", productionId)
                )
                .Single()
        );

    /// <summary>The bites of a production that were set aside.</summary>
    public IReadOnlySet<long> SetAsideOf(long productionId) =>
        database
            .Read(c =>
                c.Query(
                    "SELECT b.id FROM bite b JOIN sitting s ON s.id = b.sitting_id WHERE s.production_id = $p AND b.gone = 0 AND b.aside "
                        + "= 1",
                    r => r.GetInt64(0),
                    ("$p", productionId)
                )
            )
            .ToHashSet();

    /// <summary>A bite that is kept; null when there is none.</summary>
    public Bite? Get(long id) =>
        database.Read(c => c.Query(Select + "WHERE b.id = $id AND b.gone = 0", ReadBite, ("$id", id))).SingleOrDefault();

    /// <summary>All bites of a sitting, also those that were set aside or whose keeping was taken back.</summary>
    internal static List<Bite> OfSitting(SqliteConnection c, long sittingId) =>
        c.Query(Select + "WHERE b.sitting_id = $s ORDER BY b.id", ReadBite, ("$s", sittingId));

    private static Bite ReadBite(SqliteDataReader r) =>
        new(
            Marks.Read(r),
            r.GetInt64(Marks.Count),
            r.GetInt64(Marks.Count + 1),
            r.GetString(Marks.Count + 2),
            r.GetInt64(Marks.Count + 3) == 1
        )
        {
            Grade = r.GetInt32(Marks.Count + 4),
            Kind = r.GetString(Marks.Count + 5),
        };
}
