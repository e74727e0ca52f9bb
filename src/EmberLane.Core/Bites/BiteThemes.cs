namespace EmberLane.Core.Bites;

/// <summary>The themes of a bite, written one behind the other with commas between.</summary>
public static class BiteThemes
{
    /// <summary>At most so many themes, each of so many characters.</summary>
    public const int Most = 12,
        Longest = 60;

    /// <summary>The themes that a person typed, in order, each once whatever its case; commas part them.</summary>
    public static IReadOnlyList<string> Of(string typed) =>
        [
            .. typed
                .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
                .Distinct(StringComparer.OrdinalIgnoreCase),
        ];

    /// <summary>Themes as they are written.</summary>
    public static string Written(IEnumerable<string> themes) => string.Join(", ", themes.Distinct(StringComparer.OrdinalIgnoreCase));

    /// <summary>What was typed as it is written.</summary>
    public static string Written(string typed) => Written(Of(typed));

    /// <summary>One more theme; a name that is there already in another case stays as it is.</summary>
    public static string With(string themes, string theme) => Written([.. Of(themes), .. Of(theme)]);

    /// <summary>Without a theme.</summary>
    public static string Without(string themes, string theme) =>
        Written(Of(themes).Where(t => !t.Equals(theme, StringComparison.OrdinalIgnoreCase)));

    /// <summary>One theme for another, in its place.</summary>
    public static string Instead(string themes, string from, string to) =>
        Written(Of(themes).SelectMany(t => t.Equals(from, StringComparison.OrdinalIgnoreCase) ? Of(to) : [t]));
}
