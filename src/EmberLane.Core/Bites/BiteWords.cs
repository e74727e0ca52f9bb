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
                    }.Where(d => d.Length > 0)
                );
}
