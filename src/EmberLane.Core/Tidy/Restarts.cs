using System.Collections.Frozen;

namespace EmberLane.Core.Tidy;

/// <summary>English words by which somebody says that it comes again, or that somebody else said it.</summary>
internal static class Restarts
{
    private static readonly FrozenSet<string> Asked = "ask asks asked asking wonder wonders wondered question questions"
        .Split(' ')
        .ToFrozenSet();

    private static readonly FrozenSet<string> Subjects = "i we you he she they it there".Split(' ').ToFrozenSet(),
        Verbs = "was were is are am had have has would could should will can did do does might must went got".Split(' ').ToFrozenSet();

    private static readonly string[][] Sayings =
    [
        .. new[]
        {
            "let me say that again",
            "let me say it again",
            "let me start again",
            "let me try that again",
            "i'll say that again",
            "i'll start again",
            "say that again",
            "once more",
            "once more please",
            "one more time",
            "start over",
            "start again",
            "from the top",
            "another go",
            "take two",
            "take three",
            "sorry",
        }.Select(s => s.Split(' ')),
    ];

    private static readonly FrozenSet<string> Begins = Sayings.Select(s => s[0]).ToFrozenSet(),
        Last = "again sorry no wait pardon".Split(' ').ToFrozenSet();

    /// <summary>
    /// What of some words, by their keys, is no saying that it comes again: stretches between those, without a “no” or an “again” at their
    /// ends.
    /// </summary>
    public static IEnumerable<(int From, int To)> Without(IReadOnlyList<string> keys)
    {
        var from = 0;
        for (var i = 0; i <= keys.Count; i++)
        {
            var saying = i < keys.Count ? Saying(keys, i) : 0;
            if (saying == 0 && i < keys.Count)
            {
                continue;
            }
            var to = i;
            while (to > from + 1 && Last.Contains(keys[to - 1]))
            {
                to--;
            }
            if (to > from)
            {
                yield return (from, to);
            }
            i += Math.Max(0, saying - 1);
            from = i + 1;
        }
    }

    // How many words the longest saying has that stands at a place; 0 where none does.
    private static int Saying(IReadOnlyList<string> keys, int at) =>
        Begins.Contains(keys[at]) ? Sayings.Where(s => IsAt(keys, at, s)).Select(s => s.Length).DefaultIfEmpty(0).Max() : 0;

    private static bool IsAt(IReadOnlyList<string> keys, int at, string[] saying) =>
        saying.Length <= keys.Count - at && saying.Select((w, k) => keys[at + k] == w).All(t => t);

    /// <summary>A word that tells of a question.</summary>
    public static bool IsAsked(string key) => Asked.Contains(key);

    /// <summary>
    /// Whether two words, “we were”, are given up for others that begin with the first of them, “we had”. A verb after which a sentence may
    /// begin (“I think I”) gives nothing up.
    /// </summary>
    public static bool IsBegunAgain(Talk talk, int[] places, int i) =>
        i + 3 < places.Length
        && Subjects.Contains(talk.Words[places[i]].Key)
        && talk.Words[places[i + 2]].Key == talk.Words[places[i]].Key
        && Verbs.Contains(talk.Words[places[i + 1]].Key)
        && talk.Words[places[i + 3]].Key != talk.Words[places[i + 1]].Key
        && places[i + 3] - places[i] == 3
        && Enumerable.Range(i, 3).All(k => !talk.Words[places[k]].EndsSentence && !talk.Words[places[k]].HasComma);

    /// <summary>Whether words are the first two of a question.</summary>
    public static bool IsQuestion(string first, string second) =>
        first is "how" or "why" or "who" or "whose" or "which"
        || (
            first is "what" or "when" or "where"
            && second is "do" or "does" or "did" or "is" or "are" or "was" or "were" or "will" or "would"
        )
        || (first is "tell" or "show" && second is "me" or "us")
        || (first is "do" or "does" or "did" or "can" or "could" or "would" && second is "you" or "he" or "she" or "they" or "it");

    /// <summary>Whether anybody says between these two places that it comes again.</summary>
    public static bool Between(Talk talk, int before, int after)
    {
        string[] keys = [.. Enumerable.Range(before + 1, Math.Max(0, after - before - 1)).Select(i => talk.Words[i].Key)];
        return keys.Contains("again") || Enumerable.Range(0, keys.Length).Any(i => Saying(keys, i) > 0);
    }
}
