namespace EmberLane.Core.Media;

/// <summary>
/// Reel names as decision lists allow them: A–Z, 0–9 and _, at most 8 characters in the strict form and 32 in the long form.
/// </summary>
public static class ReelName
{
    /// <summary>So many characters every reader of lists takes.</summary>
    public const int StrictLength = 8;

    /// <summary>So many characters most readers of lists take.</summary>
    public const int LongLength = 32;

    /// <summary>The reel of a file: its own tag, else its name without the ending. Never empty.</summary>
    public static string From(string? tag, string fileName, int length)
    {
        var text = Clean(tag ?? "");
        if (text.Length == 0)
        {
            text = Clean(Path.GetFileNameWithoutExtension(fileName));
        }
        return text.Length == 0 ? "REEL" : text[..Math.Min(text.Length, length)].TrimEnd('_');
    }

    /// <summary>
    /// One reel for each source, in order: a name already taken gets _2, _3 … at its end, so that two sources never share a reel.
    /// </summary>
    public static IReadOnlyList<string> Distinct(IEnumerable<(string? Tag, string FileName)> sources, int length)
    {
        var taken = new HashSet<string>(StringComparer.Ordinal);
        // Numbers that were taken stay taken: where many files have one name, none is tried twice.
        var next = new Dictionary<string, int>(StringComparer.Ordinal);
        var reels = new List<string>();
        foreach (var (tag, fileName) in sources)
        {
            string stem = From(tag, fileName, length),
                reel = stem;
            while (!taken.Add(reel))
            {
                var n = next[stem] = next.GetValueOrDefault(stem, 1) + 1;
                var ending = FormattableString.Invariant($"_{n}");
                reel = stem[..Math.Min(stem.Length, length - ending.Length)] + ending;
            }
            reels.Add(reel);
        }
        return reels;
    }

    private static string Clean(string text) =>
        string.Concat(text.ToUpperInvariant().Select(c => c is >= 'A' and <= 'Z' or >= '0' and <= '9' ? c : '_')).Trim('_');
}
