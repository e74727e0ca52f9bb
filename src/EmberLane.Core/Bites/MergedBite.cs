using EmberLane.Core.Edits;

namespace EmberLane.Core.Bites;

/// <summary>One bite in place of several.</summary>
public static class MergedBite
{
    /// <summary>
    /// From the first one's first word to the last word of whichever ends last, with all their themes and notes, each once, the best grade,
    /// and the first kind that one has. Throws <see cref="EditRefusedException"/> where there are fewer than two, or they are of several
    /// sittings or texts.
    /// </summary>
    public static BiteState Of(IReadOnlyList<Bite> bites)
    {
        if (bites.Count < 2)
        {
            throw new EditRefusedException("Choose two bites at least to make one of them.");
        }
        if (bites.Select(b => b.SittingId).Distinct().Count() > 1)
        {
            throw new EditRefusedException("These bites are of several sittings. One bite lies in one sitting.");
        }
        if (bites.Select(b => b.TranscriptId).Distinct().Count() > 1)
        {
            throw new EditRefusedException(
                "These bites were marked on several texts of the sitting. Move an end of each by a word first, so that they lie on the one "
                    + "that is read now."
            );
        }
        var first = bites.MinBy(b => b.Range.In)!;
        var last = bites.MaxBy(b => b.Range.Out)!;
        return new BiteState(
            BiteThemes.Written(bites.SelectMany(b => b.Themes)),
            string.Join(" · ", bites.Select(b => b.Note).Where(n => n.Length > 0).Distinct()),
            false,
            false
        )
        {
            Grade = bites.Max(b => b.Grade),
            Kind = bites.Select(b => b.Kind).FirstOrDefault(k => k.Length > 0) ?? "",
            Place = new BitePlace(first.TranscriptId, first.FirstWord, last.LastWord, new SittingRange(first.Range.In, last.Range.Out)),
        };
    }
}
