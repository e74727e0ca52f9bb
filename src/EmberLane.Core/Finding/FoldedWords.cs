using System.Globalization;
using System.Text;

namespace EmberLane.Core.Finding;

/// <summary>Words as they are looked for: without case, accents and punctuation.</summary>
public static class FoldedWords
{
    /// <summary>A longer run of letters is no word; what is behind so many of them is left out.</summary>
    private const int Longest = 64;

    /// <summary>
    /// The words of a text in their order, each of letters and digits only: “Tern-Hollow’s” gives “tern” and “hollows”. An apostrophe
    /// within a word is left out. Linear in the text.
    /// </summary>
    public static IReadOnlyList<string> Of(string text)
    {
        var words = new List<string>();
        var word = new StringBuilder();
        foreach (var rune in Decomposed(text).EnumerateRunes())
        {
            if (IsAccent(rune) || (word.Length > 0 && rune.Value is '\'' or '’'))
            {
                continue;
            }
            if (IsOfWord(rune))
            {
                if (word.Length < Longest)
                {
                    word.Append(Rune.ToLowerInvariant(rune).ToString());
                }
            }
            else
            {
                End();
            }
        }
        End();
        return words;

        void End()
        {
            if (word.Length > 0)
            {
                words.Add(word.ToString());
                word.Clear();
            }
        }
    }

    /// <summary>
    /// Text with its letters and their marks apart, and signs as what they are made of. Half a pair of surrogates, which is no text, is
    /// left out.
    /// </summary>
    internal static string Decomposed(string text)
    {
        if (Ascii.IsValid(text))
        {
            return text;
        }
        try
        {
            return text.Normalize(NormalizationForm.FormKD);
        }
        catch (ArgumentException)
        {
            return string.Concat(text.Where(c => !char.IsSurrogate(c))).Normalize(NormalizationForm.FormKD);
        }
    }

    // Accents, and the points of Hebrew and Arabic, which are written or not. Marks of other scripts are letters of their words.
    private static bool IsAccent(Rune rune) =>
        rune.Value is >= 0x300 and <= 0x36F or >= 0x591 and <= 0x5C7 or >= 0x610 and <= 0x61A or >= 0x64B and <= 0x65F or 0x670;

    private static bool IsOfWord(Rune rune) =>
        Rune.IsLetterOrDigit(rune)
        || Rune.GetUnicodeCategory(rune)
            is UnicodeCategory.SpacingCombiningMark
                or UnicodeCategory.NonSpacingMark
                or UnicodeCategory.LetterNumber
                or UnicodeCategory.OtherNumber;
}
