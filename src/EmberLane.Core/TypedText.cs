using System.Text;

namespace EmberLane.Core;

/// <summary>What a person typed, made fit to keep.</summary>
public static class TypedText
{
    /// <summary>
    /// On one line: control characters and runs of blanks become one blank, the ends are trimmed, the letters are composed (NFC).
    /// </summary>
    public static string OneLine(string text)
    {
        var kept = new StringBuilder(text.Length);
        foreach (var c in text)
        {
            if (char.IsWhiteSpace(c) || char.IsControl(c))
            {
                if (kept.Length > 0 && kept[^1] != ' ')
                {
                    kept.Append(' ');
                }
            }
            else
            {
                kept.Append(c);
            }
        }
        return Composed(kept.ToString().Trim());
    }

    private static string Composed(string text)
    {
        try
        {
            return text.Normalize(NormalizationForm.FormC);
        }
        catch (ArgumentException)
        {
            // Half of a surrogate pair: drop every half, which no person can see anyway.
            return string.Concat(text.Where(c => !char.IsSurrogate(c)));
        }
    }
}
