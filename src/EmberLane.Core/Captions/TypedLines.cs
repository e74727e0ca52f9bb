namespace EmberLane.Core.Captions;

/// <summary>The lines of a caption that somebody typed.</summary>
public static class TypedLines
{
    /// <summary>
    /// Its lines as they were typed; a text in one line that is too long is broken into as few and as even lines as there can be. A line
    /// that begins with a dash is the next one's who speaks.
    /// </summary>
    public static IReadOnlyList<CaptionLine> Of(string text, IReadOnlyList<string?> speakers, int most)
    {
        var typed = text.Split('\n').Select(TypedText.OneLine).Where(l => l.Length > 0).ToList();
        var speaker = 0;
        var lines = new List<CaptionLine>();
        foreach (var (i, line) in (typed.Count == 1 ? Even(typed[0], most) : typed).Index())
        {
            var isDashed = line.StartsWith(CaptionMaker.Dash, StringComparison.Ordinal) || line.StartsWith("- ", StringComparison.Ordinal);
            if (isDashed && i > 0 && speaker + 1 < speakers.Count)
            {
                speaker++;
            }
            lines.Add(new CaptionLine(speakers.ElementAtOrDefault(speaker), isDashed ? line[2..].TrimStart() : line, isDashed));
        }
        return lines;
    }

    /// <summary>Who speaks in words, each once where they begin.</summary>
    public static IReadOnlyList<string?> Speakers(IReadOnlyList<CaptionWord> words) =>
        [.. words.Select(w => w.Word.Voice).Where((who, i) => i == 0 || who != words[i - 1].Word.Voice)];

    private static List<string> Even(string text, int most)
    {
        var words = WordMerge.WordsOf(text);
        var fewest = Filled(words, most);
        // The narrowest in which it takes no more lines.
        var width = Math.Max(1, text.Length / fewest.Count);
        while (width < most && Filled(words, width).Count > fewest.Count)
        {
            width++;
        }
        return width < most ? Filled(words, width) : fewest;
    }

    private static List<string> Filled(string[] words, int most)
    {
        var lines = new List<string>();
        foreach (var word in words)
        {
            if (lines.Count > 0 && lines[^1].Length + 1 + word.Length <= most)
            {
                lines[^1] += " " + word;
            }
            else
            {
                lines.Add(word);
            }
        }
        return lines;
    }
}
