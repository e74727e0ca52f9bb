using EmberLane.Core.Speech;
using EmberLane.Core.Transcripts;
using EmberLane.Core.Typed;

namespace EmberLane.Core.Mends;

/// <summary>Proposes the names and terms of a production where something is heard that sounds like them.</summary>
public static class NameMends
{
    /// <summary>So alike must doubtful words be, and so alike words that the recogniser does not doubt.</summary>
    private const double Doubtful = 0.66, Surely = 0.84;

    /// <summary>
    /// In order of the words, none overlapping another, the most alike first taken. Terms are names or expressions of one to five words; heard words may be one fewer or more. Cost is the words times the terms.
    /// </summary>
    public static IReadOnlyList<Mend> Propose(Transcript transcript, IReadOnlyCollection<string> terms)
    {
        var words = transcript.Words.Where(w => !transcript.IsHidden(w)).ToList();
        var found = new List<(double Alike, Mend Mend)>();
        foreach (var term in terms.Select(Core.TypedText.OneLine).Where(t => t.Length > 2).Distinct())
        {
            var count = term.Split(' ').Length;
            for (var length = Math.Max(1, count - 1); length <= count + 1; length++)
            {
                for (var i = 0; i + length <= words.Count; i++)
                {
                    if (Look(transcript, words, i, length, term) is { } mend)
                    {
                        found.Add(mend);
                    }
                }
            }
        }
        // What stands there as it is written already is not touched, nor a word beside it swallowed.
        var taken = terms.SelectMany(t => WordSearch.Find(transcript, t, whole: true, matchCase: true)).SelectMany(f => Enumerable.Range(f.First, f.Last - f.First + 1)).ToHashSet();
        var chosen = new List<Mend>();
        foreach (var (_, mend) in found.OrderByDescending(f => f.Alike))
        {
            var numbers = Enumerable.Range(mend.First, mend.Last - mend.First + 1).ToList();
            if (!numbers.Any(taken.Contains))
            {
                taken.UnionWith(numbers);
                chosen.Add(mend);
            }
        }
        return [.. chosen.OrderBy(m => m.First)];
    }

    private static (double, Mend)? Look(Transcript transcript, List<RecordWord> words, int first, int length, string term)
    {
        var part = words.GetRange(first, length);
        // Nobody changes voice within a name.
        var place = transcript.PlaceOf(part[0].Number)!.Value;
        if (part.Any(w => transcript.VoiceOf(w) != transcript.VoiceOf(part[0])) || transcript.PlaceOf(part[^1].Number) != place + length - 1)
        {
            return null;
        }
        var said = transcript.Said(part);
        var (before, bare, after) = Bare(said);
        if (bare == term || bare.Length == 0)
        {
            return null;
        }
        var sameLetters = WordErrors.Plain(bare.Replace(" ", "", StringComparison.Ordinal)) == WordErrors.Plain(term.Replace(" ", "", StringComparison.Ordinal));
        var alike = sameLetters ? 1 : SoundsLike.Of(bare.Replace(" ", "", StringComparison.Ordinal), term.Replace(" ", "", StringComparison.Ordinal));
        var doubted = part.Any(transcript.IsDoubtful);
        if (alike < (doubted ? Doubtful : Surely))
        {
            return null;
        }
        var why = sameLetters ? "a name of the production, as it is written" : FormattableString.Invariant($"sounds like {term} ({100 * alike:0} of 100){(doubted ? ", and was doubtful" : "")}");
        return (alike, new Mend(place, place + length - 1, (part[0].Number, part[^1].Number), before + term + after, why, alike >= Surely));
    }

    private static (string Before, string Bare, string After) Bare(string said)
    {
        int first = 0, end = said.Length;
        while (first < end && !char.IsLetterOrDigit(said[first]))
        {
            first++;
        }
        while (end > first && !char.IsLetterOrDigit(said[end - 1]))
        {
            end--;
        }
        return (said[..first], said[first..end], said[end..]);
    }
}
