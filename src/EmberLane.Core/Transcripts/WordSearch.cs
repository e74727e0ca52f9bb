namespace EmberLane.Core.Transcripts;

/// <summary>Where something is said: the places of its first and last word.</summary>
public readonly record struct Found(TextPlace First, TextPlace Last);

/// <summary>Finds words in a transcript as it is read, and replaces them.</summary>
public static class WordSearch
{
    /// <summary>
    /// Every place, in order, none overlapping another. Asked for are words divided by blanks; whole words may have punctuation around
    /// them, else the first may begin and the last end within a word. Joined words are one. Linear in the words.
    /// </summary>
    public static IReadOnlyList<Found> Find(Transcript transcript, string asked, bool whole, bool matchCase)
    {
        var wanted = TypedText.OneLine(asked).Split(' ', StringSplitOptions.RemoveEmptyEntries);
        var units = transcript.Units();
        var texts = units.Select(u => u.Count == 1 ? transcript.TextOf(u[0]) : transcript.Said(u)).ToList();
        var how = matchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        var found = new List<Found>();
        for (var i = 0; wanted.Length > 0 && i + wanted.Length <= units.Count;)
        {
            if (Enumerable.Range(0, wanted.Length).All(n => Fits(texts[i + n], wanted[n], n == 0, n == wanted.Length - 1, whole, how)))
            {
                found.Add(
                    new Found(
                        transcript.PlaceOf(units[i][0].Number)!.Value,
                        transcript.PlaceOf(units[i + wanted.Length - 1][^1].Number)!.Value
                    )
                );
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
    /// Replaces what was asked for where the first words have these numbers; punctuation around a word stays, and <see cref="Respell"/>
    /// gives the new words their times. Throws <see cref="EditRefusedException"/> when a place no longer holds it, or the new text is empty
    /// or too long.
    /// </summary>
    public static TranscriptEdit Replace(
        Transcript transcript,
        string asked,
        string by,
        bool whole,
        bool matchCase,
        IReadOnlyCollection<WordNumber> firstNumbers
    )
    {
        string from = TypedText.OneLine(asked),
            to = TypedText.OneLine(by);
        if (to.Length is 0 or > Retype.LongestText)
        {
            throw new EditRefusedException(
                $"Type what shall stand there, at most {Retype.LongestText} characters. To take words out of the text, select them."
            );
        }
        var places = Find(transcript, from, whole, matchCase).Where(f => firstNumbers.Contains(transcript.At(f.First).Number)).ToList();
        if (places.Count == 0 || places.Count != firstNumbers.Distinct().Count())
        {
            throw new EditRefusedException("Some of these places have changed meanwhile. Look again.");
        }
        var how = matchCase ? StringComparison.Ordinal : StringComparison.OrdinalIgnoreCase;
        return Respell.All(transcript, places.Select(p => (p.First, p.Last, Around(transcript, p, from.Split(' '), to, how))))
            ?? throw new EditRefusedException("These places read so already.");
    }

    // The new text with what stands before and behind the old one in its first and last word.
    private static string Around(Transcript transcript, Found place, string[] from, string to, StringComparison how)
    {
        var units = transcript.Units(place.First, place.Last);
        string first = transcript.Said(units[0]),
            last = transcript.Said(units[^1]);
        return first[..(units.Count == 1 ? first.IndexOf(from[0], how) : first.LastIndexOf(from[0], how))]
            + to
            + last[(last.IndexOf(from[^1], how) + from[^1].Length)..];
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

    private static string Bare(string text) =>
        text.Trim()
            .TrimStart([.. text.TakeWhile(c => !char.IsLetterOrDigit(c))])
            .TrimEnd([.. text.Reverse().TakeWhile(c => !char.IsLetterOrDigit(c))]);
}
