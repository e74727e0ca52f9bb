using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>How much a layer sets aside: in how many places, how many words and how long; and whether it is switched off.</summary>
public sealed record AsideTotal(MarkLayer Layer, int Places, int Words, MediaTime Time, bool IsOff);

/// <summary>Which stretches of a sitting are set aside.</summary>
public static class AsideStretches
{
    /// <summary>
    /// Those of all layers that are on, in order and apart: each run of words from its first word's start to its last one's end, and the
    /// time that was set aside between words. Linear in the words, but for the sorting of the stretches.
    /// </summary>
    public static IReadOnlyList<SittingRange> Of(Transcript text) =>
        Union([.. CarriedMarks.Runs(text, p => text.IsAside(text.At(p))), .. text.Cuts.Select(m => m.Range)]);

    /// <summary>
    /// What each layer holds, also those that are off, in their order; what lies over a stretch twice is counted once. Layers that hold
    /// nothing are left out.
    /// </summary>
    public static IReadOnlyList<AsideTotal> Totals(Transcript text)
    {
        var totals = new List<AsideTotal>();
        foreach (var layer in MarkLayer.All)
        {
            var marks = text.Layers.Marks.Values.Where(m => m.Kind.Layer == layer).ToList();
            if (marks.Count == 0)
            {
                continue;
            }
            var words = marks.Where(m => !m.IsOfTime).SelectMany(m => Places(m, text)).Distinct().Count();
            var time = Union([.. marks.Select(m => RangeOf(m, text))]).Aggregate(MediaTime.Zero, (sum, r) => sum + r.Length);
            totals.Add(new AsideTotal(layer, marks.Count, words, time, text.Layers.Off.Contains(layer.Key)));
        }
        return totals;
    }

    /// <summary>Stretches in order and apart: what overlaps or touches becomes one.</summary>
    public static IReadOnlyList<SittingRange> Union(IReadOnlyList<SittingRange> stretches)
    {
        var union = new List<SittingRange>();
        foreach (var stretch in stretches.Where(s => s.Length > MediaTime.Zero).OrderBy(s => s.In))
        {
            if (union.Count > 0 && stretch.In <= union[^1].Out)
            {
                union[^1] = new SittingRange(union[^1].In, union[^1].Out > stretch.Out ? union[^1].Out : stretch.Out);
            }
            else
            {
                union.Add(stretch);
            }
        }
        return union;
    }

    private static IEnumerable<TextPlace> Places(Mark mark, Transcript text) =>
        MarkPlace.Of(mark, text) is { } place ? TextPlace.Between(place.First, place.Last) : [];

    private static SittingRange RangeOf(Mark mark, Transcript text) =>
        !mark.IsOfTime && MarkPlace.Of(mark, text) is { } place ? text.RangeOf(place.First, place.Last) : mark.Range;
}
