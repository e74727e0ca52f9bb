using System.Text.RegularExpressions;

namespace EmberLane.Core.Tidy;

/// <summary>Sounds that fill a pause while somebody looks for words: um, er, uh, hm, however they are spelt.</summary>
public static partial class FilledPause
{
    /// <summary>Whether a word without case and punctuation is one.</summary>
    public static bool Is(string key) => key.Length is > 0 and < 8 && Form().IsMatch(key);

    [GeneratedRegex("^(u+m+|u+h+m*|e+r+m*|e+h+m*|a+h+m+|h+m+|m{2,}|ö+h*m*|ä+h*m*|e+u+h+|euh)$", RegexOptions.CultureInvariant)]
    private static partial Regex Form();
}
