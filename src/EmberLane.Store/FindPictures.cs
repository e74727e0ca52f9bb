using EmberLane.Core.Finding;
using EmberLane.Core.Pictures;
using Microsoft.Data.Sqlite;

namespace EmberLane.Store;

/// <summary>
/// Shots for a question: by what was measured of them, by what a tagger says, by who is seen, by the notes of best seconds. What stands on
/// a whole file is found as the file's.
/// </summary>
internal sealed class FindPictures(SqliteConnection c, FindQuestion question, FindSittings sittings, QuestionFit fit)
{
    private readonly FindLimits limits = question.Limits;

    // A tag that is less sure is not looked for.
    private static readonly PerMille Sure = new(500);

    public IEnumerable<FoundHit> All()
    {
        if (
            limits
                is not { By: null, Theme: null, LeastGrade: null, Kept: null, Aside: null, InStory: null, Kind: null or FoundKind.Picture }
            || (!IsAskedFor && question.Together.Count == 0)
        )
        {
            return [];
        }
        var sources = (IsAskedFor ? Footage.SourcesOfAll(c, sittings.Production) : Said())
            .Where(s => s.Facts.Picture is not null && sittings.IsFilmed(s))
            .Where(s => s.SittingId is { } id ? sittings.Of(id) is not null : limits.Sitting is null)
            .ToDictionary(s => s.Id);
        var like = limits.Picture?.Like is { } name ? Shots.Get(c, name)?.Facts.Look : null;
        var shots = sources.Count == 0 ? [] : Shots.All(c, sittings.Production).Where(s => sources.ContainsKey(s.SourceId)).ToList();
        return
        [
            .. limits.Picture?.Like is not null && like is null ? [] : shots.SelectMany(s => HitOf(sources[s.SourceId], s, like)),
            .. IsAskedFor ? [] : sources.Values.SelectMany(s => BestOf(s, [.. shots.Where(h => h.SourceId == s.Id)])),
        ];
    }

    // By limits of pictures, or by their kind; else a shot is found only by what stands on it alone.
    private bool IsAskedFor => limits.Picture is not null || limits.Kind == FoundKind.Picture;

    // Those that have something said of a part of them: what was measured of all the others takes long to read.
    private IEnumerable<Source> Said() =>
        c.Query(
                "SELECT s.id FROM source s WHERE ($p IS NULL OR s.production_id = $p) AND (s.labels LIKE '%\"Best\":%' OR s.labels LIKE "
                    + "'%\"Seen\":%' OR EXISTS (SELECT 1 FROM shot h WHERE h.source_id = s.id AND h.tags <> '[]')) ORDER BY s.id",
                r => r.GetInt64(0),
                ("$p", sittings.Production)
            )
            .Select(id => Footage.OneSource(c, id))
            .OfType<Source>();

    private IEnumerable<FoundHit> HitOf(Source source, StoredShot shot, PictureLook? like)
    {
        var facts = shot.Facts;
        if (!limits.IsLong(facts.Length) || limits.Picture?.Fit(facts) == false)
        {
            return [];
        }
        var apart = 0;
        if (like is not null)
        {
            apart = like.Apart(facts.Look).Value;
            if (apart > PictureLimits.Furthest.Value || limits.Picture!.Like == shot.Name)
            {
                return [];
            }
        }
        var written = WrittenOn.Of(source.Labels, source.Said ?? "");
        var seen = shot.People.Select(p => NamedFace.NameOf(source.Labels, facts.Range, p)).OfType<string>();
        var own = string.Join(", ", seen.Concat(shot.Tags.Where(t => t.Certainty >= Sure).Select(t => t.Tag)));
        var whole = string.Join(" · ", new[] { written, own }.Where(w => w.Length > 0));
        if (question.Together.Count > 0)
        {
            if (fit.Apart($"{source.Name} {whole}") is not { } near || (!IsAskedFor && fit.Apart($"{source.Name} {written}") is not null))
            {
                return [];
            }
            apart += near;
        }
        return [Hit(source, (shot.Name.Number, facts.Range), (source.Name, whole, ShotWords.Of(facts)), apart)];
    }

    private IEnumerable<FoundHit> BestOf(Source source, IReadOnlyList<StoredShot> shots) =>
        from part in BestPart.Of(source.Labels)
        where part.Note.Length > 0 && limits.IsLong(part.Range.Out - part.Range.In)
        let apart = fit.Apart(part.Note)
        where apart is not null
        let shot = shots.LastOrDefault(s => s.Facts.Range.In <= part.Range.In)?.Name.Number ?? 1
        select Hit(source, (shot, part.Range), (source.Name, part.Note, "best seconds"), apart.Value);

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
