namespace EmberLane.Core.Bites;

/// <summary>A change of a bite in words.</summary>
public static class BiteWords
{
    private const int Longest = 60;

    /// <summary>What was done, given with what takes it back and with what the bite says.</summary>
    public static string Of(BiteEdit edit, BiteEdit inverse, string said) => $"{Done(edit, inverse)}: “{Excerpt(said)}”";

    /// <summary>The beginning of what is said, cut between words.</summary>
    public static string Excerpt(string said) =>
        said.Length <= Longest ? said
        : said.LastIndexOf(' ', Longest) is > 0 and var cut ? said[..cut] + " …"
        : said[..Longest] + "…";

    /// <summary>What was done to several at once: what was done to the first of them, or to all where it is the same.</summary>
    public static string OfMany(BitesEdit edit, BitesEdit inverse, string saidByFirst)
    {
        var done = edit.Edits.Zip(inverse.Edits, Done).Distinct().ToList();
        return edit.Edits.Count == 1
            ? Of(edit.Edits[0], inverse.Edits[0], saidByFirst)
            : FormattableString.Invariant(
                $"{string.Join("; ", done.Take(3))}: “{Excerpt(saidByFirst)}” and {edit.Edits.Count - 1} more bites"
            );
    }

    private static string Moved(BitePlace? to, BitePlace? from) =>
        to is null || from is null || to == from ? ""
        : to.Range.In != from.Range.In && to.Range.Out != from.Range.Out ? "both ends moved"
        : to.Range.In < from.Range.In ? "begins earlier"
        : to.Range.In > from.Range.In ? "begins later"
        : to.Range.Out < from.Range.Out ? "ends earlier"
        : "ends later";

    private static string Done(BiteEdit edit, BiteEdit inverse) =>
        edit.Gone != inverse.Gone
            ? edit.Gone
                ? "not kept"
                : "kept"
            : edit.Aside != inverse.Aside
                ? edit.Aside
                    ? "set aside"
                    : "brought back"
                : string.Join(
                    ", ",
                    new[]
                    {
                        edit.Theme == inverse.Theme ? ""
                        : edit.Theme.Length == 0 ? "no theme"
                        : $"theme “{edit.Theme}”",
                        edit.Note == inverse.Note ? ""
                        : edit.Note.Length == 0 ? "no note"
                        : $"note “{Excerpt(edit.Note)}”",
                        edit.Grade == inverse.Grade ? "" : BiteGrade.Word(edit.Grade),
                        edit.Kind == inverse.Kind ? ""
                        : edit.Kind.Length == 0 ? "no kind"
                        : $"kind “{edit.Kind}”",
                        Moved(edit.Place, inverse.Place),
                    }.Where(d => d.Length > 0)
                );
}
