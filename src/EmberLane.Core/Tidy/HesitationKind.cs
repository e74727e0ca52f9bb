namespace EmberLane.Core.Tidy;

/// <summary>What somebody says while looking for words.</summary>
public enum HesitationKind
{
    /// <summary>Um, er, uh, hm.</summary>
    Filled,

    /// <summary>“You know”, “I mean”, “sort of”, and what a production adds to them.</summary>
    Phrase,

    /// <summary>“Like”, where it is no verb and compares nothing.</summary>
    Like,

    /// <summary>A word or a few said twice; the first time is the hesitation.</summary>
    Twice,

    /// <summary>A word that was not said to its end.</summary>
    Broken,

    /// <summary>A sentence that was given up for another.</summary>
    FalseStart,
}

/// <summary>A hesitation: the places of its first and last word. Both are words of one voice.</summary>
public sealed record Hesitation(HesitationKind Kind, int First, int Last);
