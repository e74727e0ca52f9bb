using System.Globalization;

namespace EmberLane.Core.Import;

/// <summary>Whom a typed text means by a name, so that a person of the production stays one person however a typist writes them.</summary>
public static class SpeakerName
{
    /// <summary>
    /// The known person of this name in any case, or the only one of whose name it is a word (<c>MAREN</c> for Maren Oakhurst); else the
    /// name as it is typed, where one all in capitals gets small letters.
    /// </summary>
    public static string Of(string typed, IReadOnlyCollection<string> people)
    {
        if (people.FirstOrDefault(p => p.Equals(typed, StringComparison.OrdinalIgnoreCase)) is { } known)
        {
            return known;
        }
        if (people.Where(p => p.Split(' ').Contains(typed, StringComparer.OrdinalIgnoreCase)).Take(2).ToList() is [var only])
        {
            return only;
        }
        return typed.Any(char.IsLower) || typed.Count(char.IsLetter) < 3
            ? typed
            : CultureInfo.InvariantCulture.TextInfo.ToTitleCase(typed.ToLowerInvariant());
    }
}
