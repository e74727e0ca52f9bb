using System.Globalization;

namespace EmberLane.Core.Speech;

/// <summary>A language that may be spoken in a sitting: its code, as <c>en</c>, and its English name.</summary>
public sealed record SpokenLanguage(string Code, string Name)
{
    /// <summary>The code that stands for: whichever the recogniser finds.</summary>
    public const string Found = "auto";

    /// <summary>The languages that neural speech models of many languages know.</summary>
    private const string Codes =
        "en af am ar as az ba be bg bn bo br bs ca cs cy da de el es et eu fa fi fo fr gl gu ha haw he hi hr ht hu hy "
        + "id is it ja jw ka kk km kn ko la lb ln lo lt lv mg mi mk ml mn mr ms mt my ne nl nn no oc pa pl ps pt ro ru "
        + "sa sd si sk sl sn so sq sr su sv sw ta te tg th tk tl tr tt uk ur uz vi yi yo zh";

    /// <summary>Languages that are written without spaces between words.</summary>
    private static readonly string[] Unspaced = ["zh", "ja", "th", "lo", "km", "my", "bo"];

    /// <summary>All, English first, the others by name.</summary>
    public static IReadOnlyList<SpokenLanguage> All { get; } =
    [
        .. Codes
            .Split(' ')
            .Select(code => new SpokenLanguage(code, NameOf(code)))
            .OrderBy(l => l.Code != "en")
            .ThenBy(l => l.Name, StringComparer.Ordinal),
    ];

    /// <summary>The code where it is one of these, or stands for whichever is found; null for anything else.</summary>
    public static string? Of(string? code) => code == Found || All.Any(l => l.Code == code) ? code : null;

    /// <summary>Whether a space stands between its words.</summary>
    public static bool HasSpaces(string code) => !Unspaced.Contains(code);

    /// <summary>
    /// The English name of a language by its code; models have one of their own for Javanese. Of whichever is found, that it is.
    /// </summary>
    public static string NameOf(string code) =>
        code == Found ? "found by the recogniser" : CultureInfo.GetCultureInfo(code == "jw" ? "jv" : code).EnglishName;
}
