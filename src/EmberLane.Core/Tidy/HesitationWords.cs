using System.Collections.Frozen;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tidy;

/// <summary>
/// The words by which hesitations are known, of one language: sounds that fill a pause are known in all. English comes with it; a
/// production adds its own.
/// </summary>
public sealed class HesitationWords
{
    /// <summary>Phrases of at most so many words.</summary>
    public const int LongestPhrase = 6;

    /// <summary>Phrases that are always hesitations, beside those that are it only in some places (<see cref="EnglishPhrases"/>).</summary>
    public IReadOnlyList<string[]> Phrases { get; }

    /// <summary>Whether English phrases are looked for, by what stands around them.</summary>
    public bool IsEnglish { get; }

    private HesitationWords(bool english, IReadOnlyList<string[]> phrases) => (IsEnglish, Phrases) = (english, phrases);

    /// <summary>
    /// Those of a language by its code (“en”, “en-GB”; empty where it is not known, which is taken for English), with further phrases of a
    /// production. Throws <see cref="EditRefusedException"/> where one is empty or too long.
    /// </summary>
    public static HesitationWords Of(string language, IEnumerable<string> more) =>
        new(language.Length == 0 || language.Split('-')[0].Equals("en", StringComparison.OrdinalIgnoreCase), [.. more.Select(Keys)]);

    private static string[] Keys(string phrase)
    {
        string[] keys =
        [
            .. phrase.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Select(WordErrorRate.Plain).Where(k => k.Length > 0),
        ];
        return keys.Length is > 0 and <= LongestPhrase
            ? keys
            : throw new EditRefusedException($"A hesitation is one to {LongestPhrase} words, not “{phrase}”.");
    }

    /// <summary>Words that are said twice for their weight and not by mistake.</summary>
    internal static FrozenSet<string> SaidTwiceOnPurpose { get; } =
        (
            "very really so much more no yes yeah never long far many big old good bye ha again on well now there wow hey "
            + "go come please right okay ok too deep slow slowly hard hundred thousand million one two three four five six "
            + "seven eight nine zero had that"
        )
            .Split(' ')
            .ToFrozenSet();
}
