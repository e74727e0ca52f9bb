using System.Collections.Immutable;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// A word of the record: what was recognised or imported, never changed. <see cref="Number"/> is its place in the record, counted from 0, and its id for ever.
/// Confidence is per mille, or null; the voice is a number within the transcript, and how sure it is is per mille, or null when nobody doubts it.
/// </summary>
public sealed record RecordWord(int Number, string Text, SittingRange Range, int? Confidence, int Voice, int? VoiceSure = null);

/// <summary>What people decided about a record, kept apart from it: retyped words by number, names by voice.</summary>
public sealed record Layers(ImmutableSortedDictionary<int, string> Retyped, ImmutableSortedDictionary<int, string> VoiceNames)
{
    /// <summary>Words that were given to another voice than the record's, by number.</summary>
    public ImmutableSortedDictionary<int, int> Given { get; init; } = ImmutableSortedDictionary<int, int>.Empty;

    /// <summary>Words that were taken out of the text, by number; their sound stays.</summary>
    public ImmutableSortedSet<int> Hidden { get; init; } = [];

    /// <summary>Words that are one word with the one before them, by number: nothing stands between the two, and each keeps its time.</summary>
    public ImmutableSortedSet<int> Joined { get; init; } = [];

    /// <summary>Whether both decide the same.</summary>
    public bool SameAs(Layers other) => Joined.SetEquals(other.Joined) && Retyped.SequenceEqual(other.Retyped) && VoiceNames.SequenceEqual(other.VoiceNames) && Given.SequenceEqual(other.Given) && Hidden.SetEquals(other.Hidden);

    public static Layers None { get; } = new(ImmutableSortedDictionary<int, string>.Empty, ImmutableSortedDictionary<int, string>.Empty);
}

/// <summary>A record with its layers, as it is read.</summary>
public sealed record Transcript(IReadOnlyList<RecordWord> Words, Layers Layers)
{
    /// <summary>A word is doubtful below this confidence (per mille) while nobody has retyped it.</summary>
    public const int DoubtBelow = 400;

    public string TextOf(RecordWord word) => Layers.Retyped.TryGetValue(word.Number, out var text) ? text : word.Text;

    public bool IsHidden(RecordWord word) => Layers.Hidden.Contains(word.Number);

    public bool IsDoubtful(RecordWord word) => word.Confidence < DoubtBelow && !Layers.Retyped.ContainsKey(word.Number) && !IsHidden(word);

    /// <summary>Whose word it is: as a person gave it, else as the record says.</summary>
    public int VoiceOf(RecordWord word) => Layers.Given.TryGetValue(word.Number, out var voice) ? voice : word.Voice;

    /// <summary>How sure it is whose word this is, per mille: quite, once a person gave it to a voice.</summary>
    public int SureOf(RecordWord word) => Layers.Given.ContainsKey(word.Number) ? 1000 : word.VoiceSure ?? 1000;

    /// <summary>The voices that speak, in the order in which they are first heard.</summary>
    public IReadOnlyList<int> Voices() => [.. Words.Select(VoiceOf).Distinct()];

    /// <summary>A number for a voice that did not speak before.</summary>
    public int FreshVoice() => Words.Select(w => w.Voice).Concat(Layers.Given.Values).Concat(Layers.VoiceNames.Keys).DefaultIfEmpty(-1).Max() + 1;

    /// <summary>The name a person gave, or “Voice A”, “Voice B” … by the voice's number.</summary>
    public string NameOf(int voice) => Layers.VoiceNames.TryGetValue(voice, out var name) ? name : $"Voice {Letter(voice)}";

    /// <summary>Whether a word stands as one with the one before it: joined by a person, and not parted since by a word taken out or by another voice.</summary>
    public bool IsJoined(RecordWord word) => Layers.Joined.Contains(word.Number) && Words[word.Number - 1] is var before && !IsHidden(before) && VoiceOf(before) == VoiceOf(word);

    /// <summary>What is said from one word to another, both included.</summary>
    public string Said(int first, int last) => Said(Words.Skip(first).Take(last - first + 1).Where(w => !IsHidden(w)));

    /// <summary>These words as they are read, in their order, with a blank between them unless they are joined.</summary>
    public string Said(IEnumerable<RecordWord> words) => string.Concat(words.Select((w, i) => (i == 0 || IsJoined(w) ? "" : " ") + TextOf(w)));

    private static string Letter(int voice) => voice < 26 ? ((char)('A' + voice)).ToString() : FormattableString.Invariant($"{voice + 1}");
}
