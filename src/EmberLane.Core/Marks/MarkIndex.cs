using System.Collections.Immutable;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Marks;

/// <summary>
/// What the marks of a text say of each of its words. Made once for a text and its marks; linear in the words and in what the marks cover.
/// </summary>
internal sealed class MarkIndex
{
    private readonly IReadOnlyList<RecordWord> words;
    private readonly ImmutableSortedDictionary<long, Mark> marks;
    private readonly MarkKind?[] aside;
    private readonly bool[] settled;
    private readonly ILookup<TextPlace, Mark> before;

    public MarkIndex(Transcript text)
    {
        (words, marks) = (text.Words, text.Layers.Marks);
        aside = new MarkKind?[words.Count];
        settled = new bool[words.Count];
        var flags = new List<(TextPlace Place, Mark Mark)>();
        foreach (var mark in marks.Values)
        {
            if (MarkPlace.Of(mark, text) is not { } place)
            {
                continue;
            }
            switch (mark.Kind.Use)
            {
                case MarkUse.SetsAside:
                    foreach (var at in TextPlace.Between(place.First, place.Last))
                    {
                        aside[at.Value] ??= mark.Kind;
                    }
                    break;
                case MarkUse.Settles:
                    Array.Fill(settled, true, place.First.Value, TextPlace.Count(place.First, place.Last));
                    break;
                case MarkUse.Flags:
                    flags.Add((place.First, mark));
                    break;
                default:
                    break;
            }
        }
        before = flags.ToLookup(f => f.Place, f => f.Mark);
    }

    public bool Is(IReadOnlyList<RecordWord> ofWords, ImmutableSortedDictionary<long, Mark> withMarks) =>
        ReferenceEquals(words, ofWords) && ReferenceEquals(marks, withMarks);

    /// <summary>By what kind of mark the word at a place is set aside, the oldest first; null when it is in use.</summary>
    public MarkKind? AsideAt(TextPlace place) => aside[place.Value];

    public bool IsSettledAt(TextPlace place) => settled[place.Value];

    /// <summary>The flags before the word at a place, the oldest first.</summary>
    public IEnumerable<Mark> FlagsAt(TextPlace place) => before[place];
}
