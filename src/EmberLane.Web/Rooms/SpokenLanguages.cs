using System.Globalization;

namespace EmberLane.Web.Rooms;

/// <summary>The languages that a recogniser may be asked for.</summary>
public static class SpokenLanguages
{
    /// <summary>Two letters and a name each, English first.</summary>
    public static IReadOnlyList<(string Code, string Name)> All { get; } =
    [
        .. new[]
        {
            "en",
            "ar",
            "bn",
            "cs",
            "da",
            "de",
            "el",
            "es",
            "fa",
            "fi",
            "fr",
            "he",
            "hi",
            "hu",
            "id",
            "it",
            "ja",
            "ko",
            "nl",
            "no",
            "pl",
            "pt",
            "ro",
            "ru",
            "sv",
            "th",
            "tr",
            "uk",
            "ur",
            "vi",
            "zh",
        }
            .Select(code => (code, CultureInfo.GetCultureInfo(code).EnglishName))
            .OrderBy(l => l.code != "en")
            .ThenBy(l => l.EnglishName, StringComparer.Ordinal),
    ];
}
