using System.Collections.Frozen;

namespace EmberLane.Core.Tidy;

/// <summary>English words by which somebody says that it comes again, or that somebody else said it.</summary>
internal static class Restarts
{
    private static readonly FrozenSet<string> Asked = "ask asks asked asking wonder wonders wondered question questions"
        .Split(' ')
        .ToFrozenSet();

    private static readonly string[][] Sayings =
    [
        ["again"],
        ["sorry"],
        ["once", "more"],
        ["one", "more", "time"],
        ["start", "over"],
        ["from", "the", "top"],
        ["another", "go"],
        ["take", "two"],
        ["take", "three"],
        ["say", "that", "differently"],
        ["try", "that"],
    ];

    /// <summary>A word that tells of a question.</summary>
    public static bool IsAsked(string key) => Asked.Contains(key);

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
        for (var i = before + 1; i < after; i++)
        {
            if (Sayings.Any(s => s.Length <= after - i && s.Select((w, k) => talk.Words[i + k].Key == w).All(t => t)))
            {
                return true;
            }
        }
        return false;
    }
}
