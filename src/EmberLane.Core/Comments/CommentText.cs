using System.Text;

namespace EmberLane.Core.Comments;

/// <summary>A part of a comment's text: plain, or the name of somebody who is mentioned.</summary>
public readonly record struct CommentPart(string Text, bool IsName);

/// <summary>What people type into a comment, and whom it mentions.</summary>
public static class CommentText
{
    /// <summary>The longest, in characters.</summary>
    public const int Longest = 2_000;

    private const int MostLines = 60;

    /// <summary>
    /// What is typed made fit: lines stay, other control characters go, ends are trimmed. Throws <see cref="EditRefusedException"/> for
    /// nothing and for too much.
    /// </summary>
    public static string Fit(string? typed)
    {
        var lines = (typed ?? "").ReplaceLineEndings("\n").Split('\n').Select(TypedText.OneLine).ToList();
        var text = string.Join('\n', lines).Trim('\n');
        return text.Length switch
        {
            0 => throw new EditRefusedException("Type what you want to say."),
            > Longest => throw new EditRefusedException($"A comment has at most {Longest} letters. Say it in two."),
            _ when lines.Count > MostLines => throw new EditRefusedException($"A comment has at most {MostLines} lines."),
            _ => text,
        };
    }

    /// <summary>
    /// The text in parts, in which each “@” with one of <paramref name="names"/> behind it is a name: the longest that fits, capital or
    /// small letters, and not where a word goes on. Cost grows with the text times the names.
    /// </summary>
    public static IReadOnlyList<CommentPart> Parts(string text, IReadOnlyCollection<string> names)
    {
        var longest = names.Where(n => n.Length > 0).OrderByDescending(n => n.Length).ToList();
        var parts = new List<CommentPart>();
        var plain = new StringBuilder();
        for (var at = 0; at < text.Length;)
        {
            if (text[at] == '@' && (at == 0 || !IsOfWord(text[at - 1])) && NameAt(text, at + 1, longest) is { } name)
            {
                if (plain.Length > 0)
                {
                    parts.Add(new CommentPart(plain.ToString(), false));
                    plain.Clear();
                }
                parts.Add(new CommentPart(name, true));
                at += 1 + name.Length;
                continue;
            }
            plain.Append(text[at++]);
        }
        if (plain.Length > 0)
        {
            parts.Add(new CommentPart(plain.ToString(), false));
        }
        return parts;
    }

    /// <summary>Who is mentioned, each once.</summary>
    public static IReadOnlyList<string> Mentioned(string text, IReadOnlyCollection<string> names) =>
        [.. Parts(text, names).Where(p => p.IsName).Select(p => p.Text).Distinct()];

    private static string? NameAt(string text, int at, IEnumerable<string> longest) =>
        longest.FirstOrDefault(n =>
            string.Compare(text, at, n, 0, n.Length, StringComparison.OrdinalIgnoreCase) == 0
            && (at + n.Length >= text.Length || !IsOfWord(text[at + n.Length]))
        );

    private static bool IsOfWord(char c) => char.IsLetterOrDigit(c) || c == '_';
}
