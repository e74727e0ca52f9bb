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
    private readonly ImmutableSortedSet<string> off;
    private readonly MarkKind?[] aside;
    private readonly bool[] settled;
    private readonly ILookup<TextPlace, Mark> before,
        times;

    public MarkIndex(Transcript text)
    {
        (words, marks, off) = (text.Words, text.Layers.Marks, text.Layers.Off);
        aside = new MarkKind?[words.Count];
        settled = new bool[words.Count];
        List<(TextPlace Place, Mark Mark)> flags = [],
            cuts = [];
        foreach (var mark in marks.Values.Where(m => m.Kind.Layer is null or { IsHeld: true } || !off.Contains(m.Kind.Layer.Key)))
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
                        aside[at.Value] = aside[at.Value] is { } before && !mark.Kind.IsHeld ? before : mark.Kind;
                    }
                    break;
                case MarkUse.SetsTimeAside:
                    cuts.Add((place.Last, mark));
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
        times = cuts.ToLookup(c => c.Place, c => c.Mark);
    }

    public bool Is(Transcript text) =>
        ReferenceEquals(words, text.Words) && ReferenceEquals(marks, text.Layers.Marks) && ReferenceEquals(off, text.Layers.Off);

    /// <summary>By what kind of mark a word is set aside: off the record before all, then the oldest; null when it is in use.</summary>
    public MarkKind? AsideAt(TextPlace place) => aside[place.Value];

    public bool IsSettledAt(TextPlace place) => settled[place.Value];

    /// <summary>The flags before the word at a place, the oldest first.</summary>
    public IEnumerable<Mark> FlagsAt(TextPlace place) => before[place];

    /// <summary>What sets time aside before the word at a place, or behind the last word, the oldest first.</summary>
    public IEnumerable<Mark> CutsAt(TextPlace place) => times[place];

    /// <summary>All that sets time aside.</summary>
    public IEnumerable<Mark> Cuts => times.SelectMany(t => t);
}
