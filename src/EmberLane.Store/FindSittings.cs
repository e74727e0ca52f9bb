using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Core.Transcripts;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>The sittings in which a question looks, each with what its limits need of it, read when it is asked for.</summary>
internal sealed class FindSittings
{
    private readonly Dictionary<long, FindSitting> sittings;
    private readonly SqliteConnection c;
    private readonly FindLimits limits;

    public FindSittings(SqliteConnection c, FindLimits limits, long? production, Func<long, bool>? mayRead)
    {
        (this.c, this.limits, Production) = (c, limits, production);
        Sources = limits.AreOfFiles ? Footage.SourcesOfAll(c, production) : [];
        var filmed = Sources.Where(IsFilmed).Select(s => s.SittingId).OfType<long>().ToHashSet();
        sittings = c.Query(
                "SELECT s.id, s.production_id, s.title, s.sound_source_id, s.transcript_id FROM sitting s WHERE s.gone = 0 AND "
                    + "($p IS NULL OR s.production_id = $p)",
                r => new Sitting(r.GetInt64(0), r.GetInt64(1), r.GetString(2), r.Number(3), r.Number(4)),
                ("$p", production)
            )
            .Where(s => mayRead?.Invoke(s.ProductionId) ?? true)
            .Where(s => limits.Sitting is null || Holds(s.Title, limits.Sitting))
            .Where(s => !limits.AreOfFiles || filmed.Contains(s.Id))
            .ToDictionary(s => s.Id, s => new FindSitting(c, s, limits));
    }

    /// <summary>The production that is asked for; null for all.</summary>
    public long? Production { get; }

    /// <summary>The sources of all of them, where a limit asks for cameras or days.</summary>
    public IReadOnlyList<Source> Sources { get; }

    /// <summary>All of them.</summary>
    public IEnumerable<FindSitting> All => sittings.Values;

    /// <summary>The sitting with this id; null when it is not looked in.</summary>
    public FindSitting? Of(long id) => sittings.GetValueOrDefault(id);

    /// <summary>The ids between which they lie, the second one exclusive.</summary>
    public (long First, long End) Span() => sittings.Count == 0 ? (0, 0) : (sittings.Keys.Min(), sittings.Keys.Max() + 1);

    /// <summary>Whether a source is of the camera, the reel, the scene and the day that are asked for.</summary>
    public bool IsFilmed(Source source) =>
        (limits.Camera is null || Holds(source.Camera, limits.Camera))
        && (limits.Reel is null || Holds(source.Labels.ReelOf(source.Facts), limits.Reel))
        && (limits.Scene is null || Holds(source.Labels.SceneOf(source.Facts), limits.Scene))
        && (limits.Day is null || source.Day.StartsWith(limits.Day, StringComparison.Ordinal));

    /// <summary>The names that fit the person who is asked for, as entries hold them.</summary>
    public IReadOnlyList<string> NameKeys() =>
        [
            .. c.Query("SELECT DISTINCT name FROM voice_name", r => r.GetString(0))
                .Concat(Enumerable.Range(0, 26).Select(i => $"Voice {(char)('A' + i)}"))
                .Where(n => Holds(n, limits.By!))
                .Select(FindIndex.NameKey)
                .Distinct(),
        ];

    /// <summary>Whether each of the folded words begins a word of a text.</summary>
    public static bool Holds(string text, string asked) =>
        FoldedWords.Of(text) is var words && asked.Split(' ').All(a => words.Any(w => w.StartsWith(a, StringComparison.Ordinal)));
}

/// <summary>A sitting in which a question looks.</summary>
internal sealed class FindSitting(SqliteConnection c, Sitting sitting, FindLimits limits)
{
    private SaidSlices? slices;
    private IReadOnlyList<SittingRange>? aside;
    private IReadOnlyList<(SittingRange Range, string Theme, int Grade)>? bites;
    private IReadOnlyList<SittingRange>? cards;

    /// <summary>The sitting.</summary>
    public Sitting Sitting => sitting;

    /// <summary>The text that it is read by. Throws where it has none.</summary>
    public long TextId => sitting.TranscriptId!.Value;

    /// <summary>Its text, some words at a time.</summary>
    public SaidSlices Slices => slices ??= new SaidSlices(c, TextId);

    /// <summary>Whether a voice of its text is the person that is asked for.</summary>
    public bool Says(int voice) => FindSittings.Holds(Slices.NameOf(voice), limits.By!);

    /// <summary>The time from the begin of one word to the end of another, by number.</summary>
    public SittingRange RangeOf(int first, int last)
    {
        var begins = TimeOf(first);
        var ends = first == last ? begins : TimeOf(last);
        return new SittingRange(begins.In, ends.Out > begins.Out ? ends.Out : begins.Out);
    }

    /// <summary>Whether a stretch fits what is asked about bites, stories and what is set aside.</summary>
    public bool Fits(FindLimits asked, Func<SittingRange> stretch)
    {
        if (asked is { Aside: null, Kept: null, InStory: null, Theme: null, LeastGrade: null })
        {
            return true;
        }
        var range = stretch();
        return (asked.Aside is not { } isAside || isAside == IsAside(range))
            && (asked.Kept is not { } isKept || isKept == IsKept(range))
            && (asked is { Theme: null, LeastGrade: null } || Bites.Any(b => Meets(b.Range, range) && IsAsked(asked, b.Theme, b.Grade)))
            && (asked.InStory is not { } inStory || inStory == IsInStory(range));
    }

    /// <summary>Whether a bite has the theme and the grade that are asked for, where they are.</summary>
    public static bool IsAsked(FindLimits asked, string theme, int grade) =>
        (asked.Theme is null || FindSittings.Holds(theme, asked.Theme)) && grade >= (asked.LeastGrade ?? 0);

    /// <summary>Whether some of a stretch is shown in a story that is not put away.</summary>
    public bool IsInStory(SittingRange range) =>
        (
            cards ??= c.Query(
                "SELECT k.time_in, k.time_out FROM card k JOIN story s ON s.id = k.story_id WHERE k.sitting_id = $s AND s.away = 0",
                r => Columns.Range(r, 0),
                ("$s", sitting.Id)
            )
        ).Any(k => Meets(k, range));

    /// <summary>Whether some of a stretch is kept in a bite that is not set aside.</summary>
    public bool IsKept(SittingRange range) => Bites.Any(b => Meets(b.Range, range));

    /// <summary>Whether all of a stretch is set aside.</summary>
    public bool IsAside(SittingRange range) => Aside.Any(a => Covers(a, range));

    private IReadOnlyList<SittingRange> Aside =>
        aside ??= c.Query(
            "SELECT time_in, time_out FROM aside_stretch WHERE sitting_id = $s ORDER BY position",
            r => Columns.Range(r, 0),
            ("$s", sitting.Id)
        );

    private IReadOnlyList<(SittingRange Range, string Theme, int Grade)> Bites =>
        bites ??= c.Query(
            "SELECT m.time_in, m.time_out, b.theme, b.grade FROM bite b JOIN mark m ON m.id = b.id WHERE b.sitting_id = $s AND "
                + "b.gone = 0 AND b.aside = 0",
            r => (Columns.Range(r, 0), r.GetString(2), r.GetInt32(3)),
            ("$s", sitting.Id)
        );

    private SittingRange TimeOf(int number) =>
        c.Query(
            "SELECT time_in, time_out FROM word WHERE transcript_id = $t AND number = $n UNION ALL SELECT time_in, time_out FROM "
                + "added WHERE transcript_id = $t AND number = $n",
            r => Columns.Range(r, 0),
            ("$t", TextId),
            ("$n", number)
        )[0];

    private static bool Meets(SittingRange one, SittingRange other) => one.In < other.Out && other.In < one.Out;

    // By the middle of what is asked for: the ends of words reach into what lies beside them.
    private static bool Covers(SittingRange aside, SittingRange range) =>
        range.In + new MediaTime(range.Length.Units / 2) is var middle && aside.In <= middle && middle < aside.Out;
}
