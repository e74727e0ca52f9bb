using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Import;

/// <summary>
/// A place where two texts of one sitting differ: from when to when, the words that each has there by number, none where it says nothing,
/// and the number of our word before it (null at the beginning).
/// </summary>
public sealed record Differing(
    SittingRange Range,
    WordNumber? After,
    IReadOnlyList<WordNumber> Ours,
    IReadOnlyList<WordNumber> Theirs,
    string OursSaid,
    string TheirsSaid
)
{
    /// <summary>So many words on one side and hardly any on the other: a passage is missing, not a word misheard.</summary>
    public bool IsPassage =>
        Math.Max(Ours.Count, Theirs.Count) >= 6 && Math.Min(Ours.Count, Theirs.Count) * 3 < Math.Max(Ours.Count, Theirs.Count);

    /// <summary>What it is known by while nobody changes these words.</summary>
    public string Key => FormattableString.Invariant($"{After}:{Ends(Ours)}:{Ends(Theirs)}:{TheirsSaid.Length}");

    private static string Ends(IReadOnlyList<WordNumber> words) => string.Join(',', words.Take(1).Concat(words.TakeLast(1)));
}

/// <summary>Two texts of one sitting beside each other. Case and punctuation do not count.</summary>
public sealed record TextDifference(int Same, IReadOnlyList<Differing> Places)
{
    /// <summary>Cost as <see cref="WordAlignment.Of"/>. Words taken out of a text are not in it, and joined words are one.</summary>
    public static TextDifference Between(Transcript ours, Transcript theirs)
    {
        IReadOnlyList<IReadOnlyList<RecordWord>> a = ours.Units(),
            b = theirs.Units();
        string[] said = [.. a.Select(ours.Said)],
            other = [.. b.Select(theirs.Said)];
        var beside = WordAlignment.Of(said, other);
        var places = new List<Differing>();
        int same = 0,
            fromA = 0,
            fromB = 0;
        for (var i = 0; i <= a.Count; i++)
        {
            if (i < a.Count && (beside[i] < 0 || WordErrorRate.Plain(said[i]) != WordErrorRate.Plain(other[beside[i]])))
            {
                continue;
            }
            var j = i < a.Count ? beside[i] : b.Count;
            if (i > fromA || j > fromB)
            {
                List<RecordWord> mine = [.. a.Take(i).Skip(fromA).SelectMany(u => u)],
                    its = [.. b.Take(j).Skip(fromB).SelectMany(u => u)];
                var shown = mine.Count > 0 ? mine : its;
                places.Add(
                    new Differing(
                        new SittingRange(shown[0].Range.In, Latest(shown[0].Range.In, shown[^1].Range.Out)),
                        fromA > 0 ? a[fromA - 1][^1].Number : null,
                        [.. mine.Select(w => w.Number)],
                        [.. its.Select(w => w.Number)],
                        string.Join(' ', said[fromA..i]),
                        string.Join(' ', other[fromB..j])
                    )
                );
            }
            (same, fromA, fromB) = (same + (i < a.Count ? 1 : 0), i + 1, j + 1);
        }
        return new TextDifference(same, places);
    }

    private static SittingTime Latest(SittingTime one, SittingTime other) => one > other ? one : other;
}
