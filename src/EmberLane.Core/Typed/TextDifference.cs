using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;

namespace EmberLane.Core.Typed;

/// <summary>A place where two texts of one sitting differ: when, and what each says there; either may say nothing.</summary>
public sealed record Differing(SittingTime At, string Ours, string Theirs, int OursCount, int TheirsCount)
{
    /// <summary>So many words on one side and hardly any on the other: a passage is missing, not a word misheard.</summary>
    public bool IsPassage => Math.Max(OursCount, TheirsCount) >= 6 && Math.Min(OursCount, TheirsCount) * 3 < Math.Max(OursCount, TheirsCount);
}

/// <summary>Two texts of one sitting beside each other. Case and punctuation do not count.</summary>
public sealed record TextDifference(int Same, IReadOnlyList<Differing> Places)
{
    /// <summary>Cost as <see cref="WordAlignment.Of"/>. Words taken out of a text are not in it.</summary>
    public static TextDifference Between(Transcript ours, Transcript theirs)
    {
        List<RecordWord> a = [.. ours.Words.Where(w => !ours.IsHidden(w))], b = [.. theirs.Words.Where(w => !theirs.IsHidden(w))];
        string[] said = [.. a.Select(ours.TextOf)], other = [.. b.Select(theirs.TextOf)];
        var beside = WordAlignment.Of(said, other);
        var places = new List<Differing>();
        int same = 0, fromA = 0, fromB = 0;
        for (var i = 0; i <= a.Count; i++)
        {
            if (i < a.Count && (beside[i] < 0 || WordErrors.Plain(said[i]) != WordErrors.Plain(other[beside[i]])))
            {
                continue;
            }
            var j = i < a.Count ? beside[i] : b.Count;
            if (i > fromA || j > fromB)
            {
                var at = i > fromA ? a[fromA].Range.In : b[fromB].Range.In;
                places.Add(new Differing(at, string.Join(' ', said[fromA..i]), string.Join(' ', other[fromB..j]), i - fromA, j - fromB));
            }
            (same, fromA, fromB) = (same + (i < a.Count ? 1 : 0), i + 1, j + 1);
        }
        return new TextDifference(same, places);
    }
}
