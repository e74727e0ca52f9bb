using System.Collections.Immutable;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// A word of the record: what was recognised or imported, never changed. <see cref="Number"/> is its place in the record, counted from 0, and its id for ever.
/// Confidence is per mille, or null; the voice is a number within the transcript.
/// </summary>
public sealed record RecordWord(int Number, string Text, SittingRange Range, int? Confidence, int Voice);

/// <summary>What people decided about a record, kept apart from it: retyped words by number, names by voice.</summary>
public sealed record Layers(ImmutableSortedDictionary<int, string> Retyped, ImmutableSortedDictionary<int, string> VoiceNames)
{
    public static Layers None { get; } = new(ImmutableSortedDictionary<int, string>.Empty, ImmutableSortedDictionary<int, string>.Empty);
}

/// <summary>A record with its layers, as it is read.</summary>
public sealed record Transcript(IReadOnlyList<RecordWord> Words, Layers Layers)
{
    /// <summary>A word is doubtful below this confidence (per mille) while nobody has retyped it.</summary>
    public const int DoubtBelow = 400;

    public string TextOf(RecordWord word) => Layers.Retyped.TryGetValue(word.Number, out var text) ? text : word.Text;

    public bool IsDoubtful(RecordWord word) => word.Confidence < DoubtBelow && !Layers.Retyped.ContainsKey(word.Number);

    /// <summary>The voices that speak, in the order in which they are first heard.</summary>
    public IReadOnlyList<int> Voices() => [.. Words.Select(w => w.Voice).Distinct()];

    /// <summary>The name a person gave, or “Voice A”, “Voice B” … by the voice's number.</summary>
    public string NameOf(int voice) => Layers.VoiceNames.TryGetValue(voice, out var name) ? name : $"Voice {Letter(voice)}";

    /// <summary>What is said from one word to another, both included.</summary>
    public string Said(int first, int last) => string.Join(' ', Words.Skip(first).Take(last - first + 1).Select(TextOf));

    private static string Letter(int voice) => voice < 26 ? ((char)('A' + voice)).ToString() : FormattableString.Invariant($"{voice + 1}");
}
