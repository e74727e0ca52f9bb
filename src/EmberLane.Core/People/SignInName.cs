namespace EmberLane.Core.People;

/// <summary>The name that somebody signs in with, and that stands beside what they change.</summary>
public static class SignInName
{
    /// <summary>The longest, in characters.</summary>
    public const int Longest = 40;

    /// <summary>
    /// What is typed made fit, or null with why it can not be a name. Brackets are refused: who comes by a link is named with one, and
    /// nobody shall pass for another.
    /// </summary>
    public static (string? Name, string? Why) Fit(string? typed)
    {
        var name = TypedText.OneLine(typed ?? "");
        return name.Length switch
        {
            0 => (null, "Type the name that shall stand beside what you do."),
            > Longest => (null, $"A name has at most {Longest} letters."),
            _ when !char.IsLetterOrDigit(name[0]) => (null, "A name begins with a letter or a digit."),
            _ when name.Any(c => !char.IsLetterOrDigit(c) && !char.IsSurrogate(c) && !" .'’-_@".Contains(c, StringComparison.Ordinal)) => (
                null,
                "A name is of letters, digits, blanks and . ' - _ @ only."
            ),
            _ => (name, null),
        };
    }

    /// <summary>The form in which two names are compared: capital and small letters are the same.</summary>
    public static string Key(string name) => name.Normalize(System.Text.NormalizationForm.FormKC).ToUpperInvariant();

    /// <summary>Who comes by a link that was made for <paramref name="label"/>.</summary>
    public static string ByLink(string label) => $"{label} (link)";
}
