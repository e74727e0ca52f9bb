namespace EmberLane.Core.Transcripts;

/// <summary>A place where something is said: its first and last word.</summary>
public readonly record struct Found(int First, int Last);

/// <summary>Finds words in a transcript as it is read, and replaces them.</summary>
public static class WordSearch
{
    private const int Longest = 200;

    /// <summary>
    /// Every place, in order, none overlapping another. Asked for are words divided by blanks; whole words may have punctuation around them, else the first may begin and the last end within a word. Linear in the words.
    /// </summary>
    public static IReadOnlyList<Found> Find(Transcript transcript, string asked, bool whole, bool matchCase)
    {
        var wanted = TypedText.OneLine(asked).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var words = transcript.Words.Where(w => !transcript.IsHidden(w)).ToList();
        var how = matchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        var found = new List<Found>();
        for (var i = 0; wanted.Length > 0 && i + wanted.Length <= words.Count;)
        {
            if (Enumerable.Range(0, wanted.Length).All(n => Fits(transcript.TextOf(words[i + n]), wanted[n], n == 0, n == wanted.Length - 1, whole, how)))
            {
                found.Add(new Found(words[i].Number, words[i + wanted.Length - 1].Number));
                i += wanted.Length;
            }
            else
            {
                i++;
            }
        }
        return found;
    }

    /// <summary>
    /// Replaces what was asked for at these places; punctuation around a word stays. As many words as before keep their times each; otherwise the first word takes the whole text and the others leave the text.
    /// Throws <see cref="EditRefusedException"/> when a place no longer holds it, or the new text is empty or too long.
    /// </summary>
    public static TranscriptEdit Replace(Transcript transcript, string asked, string by, bool whole, bool matchCase, IReadOnlyCollection<int> firsts)
    {
        string from = TypedText.OneLine(asked), to = TypedText.OneLine(by);
        if (to.Length is 0 or > Longest)
        {
            throw new EditRefusedException("Type what shall stand there, at most 200 characters. To take words out of the text, select them.");
        }
        var places = Find(transcript, from, whole, matchCase).Where(f => firsts.Contains(f.First)).ToList();
        if (places.Count == 0 || places.Count != firsts.Distinct().Count())
        {
            throw new EditRefusedException("Some of these places have changed meanwhile. Look again.");
        }
        return new Together([.. places.SelectMany(p => At(transcript, p, from.Split(' '), to.Split(' '), matchCase))]);
    }

    private static IEnumerable<TranscriptEdit> At(Transcript transcript, Found place, string[] from, string[] to, bool matchCase)
    {
        var words = transcript.Words.Skip(place.First).Take(place.Last - place.First + 1).Where(w => !transcript.IsHidden(w)).ToList();
        var how = matchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        string first = transcript.TextOf(words[0]), last = transcript.TextOf(words[^1]);
        string before = first[..(words.Count == 1 ? first.IndexOf(from[0], how) : first.LastIndexOf(from[0], how))], after = last[(last.IndexOf(from[^1], how) + from[^1].Length)..];
        if (to.Length != words.Count)
        {
            yield return new Retype(words[0].Number, before + string.Join(' ', to) + after);
            foreach (var word in words.Skip(1))
            {
                yield return new HideWord(word.Number, true);
            }
            yield break;
        }
        for (var n = 0; n < words.Count; n++)
        {
            yield return new Retype(words[n].Number, (n == 0 ? before : "") + to[n] + (n == words.Count - 1 ? after : ""));
        }
    }

    private static bool Fits(string text, string wanted, bool isFirst, bool isLast, bool whole, StringComparison how)
    {
        if (whole)
        {
            return text.Equals(wanted, how) || Bare(text).Equals(wanted, how);
        }
        return (isFirst, isLast) switch
        {
            (true, true) => text.Contains(wanted, how),
            (true, false) => text.EndsWith(wanted, how),
            (false, true) => text.StartsWith(wanted, how),
            _ => Bare(text).Equals(wanted, how),
        };
    }

    private static string Bare(string text) => text.Trim().TrimStart([.. text.TakeWhile(c => !char.IsLetterOrDigit(c))]).TrimEnd([.. text.Reverse().TakeWhile(c => !char.IsLetterOrDigit(c))]);
}
