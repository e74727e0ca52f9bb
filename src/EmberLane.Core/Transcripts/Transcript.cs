using System.Collections.Immutable;
using EmberLane.Core.Marks;

namespace EmberLane.Core.Transcripts;

/// <summary>
/// A word of the record: what was recognised or imported, never changed. <see cref="Number"/> is its id for ever: its place in the record,
/// counted from 0; words that people add have numbers behind the record's. Confidence is null when unknown; the voice is a number within
/// the transcript, and how sure it is is null when nobody doubts it.
/// </summary>
public sealed record RecordWord(
    WordNumber Number,
    string Text,
    SittingRange Range,
    PerMille? Confidence,
    int Voice,
    PerMille? VoiceSure = null
)
{
    /// <summary>The moment between its start and its end, by which it belongs to a stretch or not.</summary>
    public SittingTime Middle => Range.In + new MediaTime(Range.Length.Units / 2);
}

/// <summary>What people decided about a record, kept apart from it: retyped words by number, names by voice.</summary>
public sealed record Layers(ImmutableSortedDictionary<WordNumber, string> Retyped, ImmutableSortedDictionary<int, string> VoiceNames)
{
    /// <summary>Words that were given to another voice than the record's, by number.</summary>
    public ImmutableSortedDictionary<WordNumber, int> Given { get; init; } = ImmutableSortedDictionary<WordNumber, int>.Empty;

    /// <summary>Words that were taken out of the text, by number; their sound stays.</summary>
    public ImmutableSortedSet<WordNumber> Hidden { get; init; } = [];

    /// <summary>
    /// Words that are one word with the one before them, by number: nothing stands between the two, and each keeps its time.
    /// </summary>
    public ImmutableSortedSet<WordNumber> Joined { get; init; } = [];

    /// <summary>Words that were added to what was heard, by number, withdrawn ones too.</summary>
    public ImmutableSortedDictionary<WordNumber, AddedWord> Added { get; init; } = ImmutableSortedDictionary<WordNumber, AddedWord>.Empty;

    /// <summary>The marks that lie over the text, by id: what is set aside, flags, what was found right. Bites are kept apart.</summary>
    public ImmutableSortedDictionary<long, Mark> Marks { get; init; } = ImmutableSortedDictionary<long, Mark>.Empty;

    /// <summary>The layers that are switched off, by key: what they set aside is in use.</summary>
    public ImmutableSortedSet<string> Off { get; init; } = [];

    /// <summary>An id that no mark has had. Not part of what was decided.</summary>
    public long NextMark { get; init; } = 1;

    /// <summary>Whether both decide the same.</summary>
    public bool SameAs(Layers other) =>
        Marks.SequenceEqual(other.Marks)
        && Off.SetEquals(other.Off)
        && Added.SequenceEqual(other.Added)
        && Joined.SetEquals(other.Joined)
        && Hidden.SetEquals(other.Hidden)
        && Retyped.SequenceEqual(other.Retyped)
        && VoiceNames.SequenceEqual(other.VoiceNames)
        && Given.SequenceEqual(other.Given);

    /// <summary>Nobody has decided anything.</summary>
    public static Layers None { get; } =
        new(ImmutableSortedDictionary<WordNumber, string>.Empty, ImmutableSortedDictionary<int, string>.Empty);
}

/// <summary>
/// A record with its layers, as it is read. A word is named by its number, which is kept; its place among the words that are read changes
/// as words are added before it.
/// </summary>
public sealed record Transcript(IReadOnlyList<RecordWord> Record, Layers Layers)
{
    private ReadingOrder? order;

    private MarkIndex? marked;

    /// <summary>A word is doubtful below this confidence while nobody has retyped it or found it right.</summary>
    public static readonly PerMille DoubtBelow = new(400);

    /// <summary>
    /// The words in the order in which they are read: the record's and those that people added. A word that was split ends where its next
    /// part begins.
    /// </summary>
    public IReadOnlyList<RecordWord> Words => Order.Words;

    /// <summary>The place of the last word; before the first in a text without words.</summary>
    public TextPlace Last => new(Words.Count - 1);

    /// <summary>Whether a word is read at this place.</summary>
    public bool Has(TextPlace place) => place >= TextPlace.First && place <= Last;

    /// <summary>The word at a place. Throws <see cref="ArgumentOutOfRangeException"/> where there is none.</summary>
    public RecordWord At(TextPlace place) => Words[place.Value];

    /// <summary>The words from one place to another, both included, as far as they are there.</summary>
    public IEnumerable<RecordWord> Between(TextPlace first, TextPlace last) =>
        Words.Take(Math.Max(0, first.Value)..Math.Clamp(last.Value + 1, 0, Words.Count));

    /// <summary>All words as they are read, joined ones as one, without those that were taken out of the text.</summary>
    public IReadOnlyList<IReadOnlyList<RecordWord>> Units() => Units(TextPlace.First, Last);

    private ReadingOrder Order =>
        order is { } known && known.Is(Record, Layers.Added) ? known : order = ReadingOrder.Of(Record, Layers.Added);

    private MarkIndex Marked => marked is { } known && known.Is(this) ? known : marked = new MarkIndex(this);

    /// <summary>The place of the word with this number among <see cref="Words"/>; null when there is none.</summary>
    public TextPlace? PlaceOf(WordNumber number) => Order.PlaceOf(number);

    /// <summary>
    /// The places of the first and last of these words, by number. Throws <see cref="EditRefusedException"/> when one is not there, or they
    /// are the wrong way round.
    /// </summary>
    public (TextPlace First, TextPlace Last) PlacesOf(WordNumber firstNumber, WordNumber lastNumber) =>
        PlaceOf(firstNumber) is { } first && PlaceOf(lastNumber) is { } last && first <= last
            ? (first, last)
            : throw new EditRefusedException("These words are not in the text as it is now. Select them again.");

    /// <summary>A number that no word has had.</summary>
    public WordNumber FreshNumber() => Layers.Added.IsEmpty ? new(Record.Count) : Layers.Added.Keys.Last().Next;

    /// <summary>As a person retyped it, else as it was recognised.</summary>
    public string TextOf(RecordWord word) => Layers.Retyped.TryGetValue(word.Number, out var text) ? text : word.Text;

    /// <summary>Whether it was taken out of the text; its sound stays.</summary>
    public bool IsHidden(RecordWord word) => Layers.Hidden.Contains(word.Number);

    /// <summary>Set aside with the passage that it stands in: out of use, and brought back at any time.</summary>
    public bool IsAside(RecordWord word) => AsideBy(word) is not null;

    /// <summary>Whether somebody asked that it be left out: it is in nothing that leaves.</summary>
    public bool IsHeld(RecordWord word) => AsideBy(word) is { IsHeld: true };

    /// <summary>By what kind of mark a word is set aside, off the record before all; null when it is in use.</summary>
    public MarkKind? AsideBy(RecordWord word) =>
        Layers.Marks.IsEmpty || PlaceOf(word.Number) is not { } place ? null : Marked.AsideAt(place);

    /// <summary>Whether a person listened to the word and found it right as it stands.</summary>
    public bool IsSettled(RecordWord word) => !Layers.Marks.IsEmpty && PlaceOf(word.Number) is { } place && Marked.IsSettledAt(place);

    /// <summary>The flags that stand before a word, the oldest first.</summary>
    public IEnumerable<Mark> FlagsBefore(RecordWord word) =>
        Layers.Marks.IsEmpty || PlaceOf(word.Number) is not { } place ? [] : Marked.FlagsAt(place);

    /// <summary>The marks that set time aside before a word and behind the one before it, the oldest first.</summary>
    public IEnumerable<Mark> CutsBefore(RecordWord word) =>
        Layers.Marks.IsEmpty || PlaceOf(word.Number) is not { } place ? [] : Marked.CutsAt(place);

    /// <summary>All marks that set time aside, whose layers are on.</summary>
    public IEnumerable<Mark> Cuts => Layers.Marks.IsEmpty ? [] : Marked.Cuts;

    /// <summary>Recognised without confidence, in use, and not yet retyped or found right by a person.</summary>
    public bool IsDoubtful(RecordWord word) =>
        word.Confidence < DoubtBelow && !Layers.Retyped.ContainsKey(word.Number) && !IsSettled(word) && !IsHidden(word) && !IsAside(word);

    /// <summary>From the start of the word at one place to the latest end of it and those up to another, which is included.</summary>
    public SittingRange RangeOf(TextPlace first, TextPlace last) => new(At(first).Range.In, Between(first, last).Max(w => w.Range.Out));

    /// <summary>Whose word it is: as a person gave it, else as the record says.</summary>
    public int VoiceOf(RecordWord word) => Layers.Given.TryGetValue(word.Number, out var voice) ? voice : word.Voice;

    /// <summary>How sure it is whose word this is: quite, once a person gave it to a voice.</summary>
    public PerMille SureOf(RecordWord word) => Layers.Given.ContainsKey(word.Number) ? PerMille.All : word.VoiceSure ?? PerMille.All;

    /// <summary>The voices that speak, in the order in which they are first heard.</summary>
    public IReadOnlyList<int> Voices() => [.. Words.Select(VoiceOf).Distinct()];

    /// <summary>A number for a voice that did not speak before.</summary>
    public int FreshVoice() =>
        Record.Select(w => w.Voice).Concat(Layers.Given.Values).Concat(Layers.VoiceNames.Keys).DefaultIfEmpty(-1).Max() + 1;

    /// <summary>The name a person gave, or “Voice A”, “Voice B” … by the voice's number.</summary>
    public string NameOf(int voice) => Layers.VoiceNames.TryGetValue(voice, out var name) ? name : $"Voice {Letter(voice)}";

    /// <summary>
    /// Whether a word stands as one with the one before it: joined by a person, and not parted since by a word taken out or by another
    /// voice.
    /// </summary>
    public bool IsJoined(RecordWord word) =>
        Layers.Joined.Contains(word.Number)
        && PlaceOf(word.Number) is { } place
        && place > TextPlace.First
        && At(place - 1) is var before
        && !IsHidden(before)
        && VoiceOf(before) == VoiceOf(word);

    /// <summary>
    /// The words as they are read from one place to another, both included: joined ones are one. Words taken out of the text are left out
    /// unless they are asked for; what is set aside is there unless it is not asked for.
    /// </summary>
    public IReadOnlyList<IReadOnlyList<RecordWord>> Units(TextPlace first, TextPlace last, bool withHidden = false, bool withAside = true)
    {
        var units = new List<List<RecordWord>>();
        foreach (var word in Between(first, last))
        {
            if ((IsHidden(word) && !withHidden) || (IsAside(word) && !withAside))
            {
                continue;
            }
            if (units.Count > 0 && IsJoined(word))
            {
                units[^1].Add(word);
            }
            else
            {
                units.Add([word]);
            }
        }
        return units;
    }

    /// <summary>What is said from one place to another, both included.</summary>
    public string Said(TextPlace first, TextPlace last) => Said(Between(first, last).Where(w => !IsHidden(w)));

    /// <summary>What is said from one place to another, both included, and in so many words before and behind.</summary>
    public (string Before, string Said, string After) SaidAround(TextPlace first, TextPlace last, int words) =>
        (Said(first - words, first - 1), Said(first, last), Said(last + 1, last + words));

    /// <summary>These words as they are read, in their order, with a blank between them unless they are joined.</summary>
    public string Said(IEnumerable<RecordWord> words) =>
        string.Concat(words.Select((w, i) => (i == 0 || IsJoined(w) ? "" : " ") + TextOf(w)));

    private static string Letter(int voice) => voice < 26 ? ((char)('A' + voice)).ToString() : FormattableString.Invariant($"{voice + 1}");
}
