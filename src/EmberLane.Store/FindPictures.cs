using EmberLane.Core.Finding;
using EmberLane.Core.Media;
using EmberLane.Core.Pictures;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Shots for a question: by what was measured of them, by what a tagger says, by who is seen, by the notes of best seconds. What stands on
/// a whole file is found as the file's. What was measured of files is read of those alone that come into question: it takes long to read.
/// </summary>
internal sealed class FindPictures(SqliteConnection c, FindQuestion question, FindSittings sittings, QuestionFit fit)
{
    /// <summary>From so many on all files are read at once.</summary>
    private const int Few = 200;

    private readonly FindLimits limits = question.Limits;

    // A tag that is less sure is not looked for.
    private static readonly PerMille Sure = new(500);

    public IEnumerable<FoundHit> All() =>
        limits is not { By: null, Theme: null, LeastGrade: null, Kept: null, Aside: null, InStory: null, Kind: null or FoundKind.Picture }
            ? []
        // By limits of pictures, or by their kind; else a shot is found only by what stands on it alone.
        : limits.Picture is not null || limits.Kind == FoundKind.Picture ? ByPicture()
        : question.Together.Count > 0 ? [.. ByTags(), .. ByLabels()]
        : [];

    private IEnumerable<FoundHit> ByPicture()
    {
        var like = limits.Picture?.Like is { } name ? Shots.Get(c, name)?.Facts.Look : null;
        if (limits.Picture?.Like is not null && like is null)
        {
            return [];
        }
        var fitting = Shots
            .All(c, sittings.Production)
            .Where(s => limits.IsLong(s.Facts.Length) && limits.Picture?.Fit(s.Facts) != false && limits.Picture?.Like != s.Name)
            .Select(s => (Shot: s, Apart: like?.Apart(s.Facts.Look).Value ?? 0))
            .Where(s => s.Apart <= PictureLimits.Furthest.Value)
            .ToList();
        var sources = Sources([.. fitting.Select(s => s.Shot.SourceId)]);
        return from s in fitting
               where sources.ContainsKey(s.Shot.SourceId)
               let source = sources[s.Shot.SourceId]
               let whole = Joined(WrittenOn.Of(source.Labels, source.Said ?? ""), OwnOf(source, s.Shot))
               let near = question.Together.Count > 0 ? fit.Apart($"{source.Name} {whole}") : 0
               where near is not null
               select HitOf(source, s.Shot, whole, s.Apart + near.Value);
    }

    // A word of a tag, or some of it and some of what stands on the file.
    private IEnumerable<FoundHit> ByTags()
    {
        var tagged = c.Query(
            "SELECT h.source_id, h.number, h.tags, s.name, s.labels, COALESCE(s.said, '') FROM shot h JOIN source s ON s.id = h.source_id "
                + "WHERE h.tags <> '[]' AND ($p IS NULL OR s.production_id = $p) ORDER BY h.source_id, h.number",
            r =>
                (
                    Shot: new ShotName(r.GetInt64(0), r.GetInt32(1)),
                    Tags: Shots.TagsOf(r.GetString(2)),
                    Written: $"{r.GetString(3)} {WrittenOn.Of(LabelsText.Read(r.GetString(4)), r.GetString(5))}"
                ),
            ("$p", sittings.Production)
        );
        var found = tagged
            .Select(t => (t.Shot, Apart: fit.Apart($"{t.Written} · {Words(t.Tags)}"), t.Written))
            .Where(t => t.Apart is not null && fit.Apart(t.Written) is null)
            .ToList();
        var sources = Sources([.. found.Select(f => f.Shot.Source)]);
        return from f in found
               where sources.ContainsKey(f.Shot.Source)
               let source = sources[f.Shot.Source]
               let shot = Shots.Get(c, f.Shot)!
               let whole = Joined(WrittenOn.Of(source.Labels, source.Said ?? ""), OwnOf(source, shot))
               select HitOf(source, shot, whole, f.Apart!.Value);
    }

    // Names of faces, and notes of best seconds.
    private IEnumerable<FoundHit> ByLabels()
    {
        var labelled = c.Query(
                "SELECT id, labels FROM source WHERE ($p IS NULL OR production_id = $p) AND (labels LIKE '%\"Best\":%' OR labels LIKE "
                    + "'%\"Seen\":%') ORDER BY id",
                r => (Id: r.GetInt64(0), Labels: LabelsText.Read(r.GetString(1))),
                ("$p", sittings.Production)
            )
            .Where(s =>
                NamedFace.Of(s.Labels).Any(n => fit.Apart(n.Name) is not null)
                || BestPart.Of(s.Labels).Any(p => fit.Apart(p.Note) is not null)
            );
        return Sources([.. labelled.Select(s => s.Id)])
            .Values.SelectMany(s =>
            {
                var shots = Shots.OfSource(c, s.Id);
                return SeenIn(s, shots).Concat(BestOf(s, shots));
            });
    }

    private IEnumerable<FoundHit> SeenIn(Source source, IReadOnlyList<StoredShot> shots) =>
        from shot in shots
        let own = OwnOf(source, shot)
        let apart = shot.People.Select(p => NamedFace.NameOf(source.Labels, shot.Facts.Range, p)).OfType<string>().Min(fit.Apart)
        where apart is not null && limits.IsLong(shot.Facts.Length)
        select HitOf(source, shot, Joined(WrittenOn.Of(source.Labels, source.Said ?? ""), own), apart.Value);

    private IEnumerable<FoundHit> BestOf(Source source, IReadOnlyList<StoredShot> shots) =>
        from part in BestPart.Of(source.Labels)
        where part.Note.Length > 0 && limits.IsLong(part.Range.Out - part.Range.In)
        let apart = fit.Apart(part.Note)
        where apart is not null
        let shot = shots.LastOrDefault(s => s.Facts.Range.In <= part.Range.In)?.Name.Number ?? 1
        select Hit(source, (shot, part.Range), (source.Name, part.Note, "best seconds"), apart.Value);

    // What is said of a shot alone: who is seen in it, and the tagger's words that are sure.
    private static string OwnOf(Source source, StoredShot shot) =>
        string.Join(
            ", ",
            shot.People.Select(p => NamedFace.NameOf(source.Labels, shot.Facts.Range, p))
                .OfType<string>()
                .Append(Words(shot.Tags))
                .Where(w => w.Length > 0)
        );

    private static string Words(IEnumerable<PictureTag> tags) => string.Join(", ", tags.Where(t => t.Certainty >= Sure).Select(t => t.Tag));

    private static string Joined(string written, string own) => written.Length > 0 && own.Length > 0 ? $"{written} · {own}" : written + own;

    // Those of these files that the question looks in.
    private Dictionary<long, Source> Sources(HashSet<long> ids) =>
        (
            ids.Count <= Few
                ? ids.Order().Select(id => Footage.OneSource(c, id)).OfType<Source>()
                : Footage.SourcesOfAll(c, sittings.Production)
        )
            .Where(s => ids.Contains(s.Id) && sittings.IsFilmed(s))
            .Where(s => s.SittingId is { } id ? sittings.Of(id) is not null : limits.Sitting is null)
            .ToDictionary(s => s.Id);

    private FoundHit HitOf(Source source, StoredShot shot, string whole, int apart) =>
        Hit(source, (shot.Name.Number, shot.Facts.Range), (source.Name, whole, ShotWords.Of(shot.Facts)), apart);

    private FoundHit Hit(Source source, (int Number, SourceRange Range) shot, (string, string, string) text, int apart) =>
        new(
            FoundKind.Picture,
            source.ProductionId,
            source.SittingId is { } id ? sittings.Of(id)!.Sitting : null,
            null,
            null,
            source is { SittingId: not null, Place: { } place }
                ? new SittingRange(place.ToSitting(shot.Range.In), place.ToSitting(shot.Range.Out))
                : null,
            "",
            text,
            source.Id,
            apart
        )
        {
            Shot = shot,
        };
}
