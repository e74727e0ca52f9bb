using System.Globalization;
using System.Text;

namespace EmberLane.Core.Finding;

/// <summary>Text as it is compared when something is looked for: without case, accents and width.</summary>
public static class Folded
{
    /// <summary>Without case and accents.</summary>
    public static string Of(string text)
    {
        var folded = new StringBuilder(text.Length);
        foreach (var c in text.Normalize(NormalizationForm.FormKD))
        {
            if (CharUnicodeInfo.GetUnicodeCategory(c) != UnicodeCategory.NonSpacingMark)
            {
                folded.Append(char.ToLowerInvariant(c));
            }
        }
        return folded.ToString();
    }

    /// <summary>Whether every word of what is asked for is somewhere in the fields. Nothing asked for fits everything.</summary>
    public static bool Fits(string asked, IEnumerable<string> fields)
    {
        var text = string.Join('\n', fields.Select(Of));
        return Of(asked)
            .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
            .All(word => text.Contains(word, StringComparison.Ordinal));
    }
}
