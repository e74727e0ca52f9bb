namespace EmberLane.Core.Tidy;

/// <summary>Finds stretches of what one voice says that may be takes of a line.</summary>
internal sealed class TakeSearch
{
    /// <summary>Runs of so many words of a line are looked for; lines with fewer must be a phrase of their own.</summary>
    private const int Run = 2;

    /// <summary>In words: two finds that lie so little out of line with each other are of one take.</summary>
    private const int OutOfLine = 3;

    /// <summary>A line's run of words that comes more often than this tells of no place by itself.</summary>
    private const int Often = 400;

    /// <summary>From this score on a stretch is a take.</summary>
    private const double Whole = 0.5;

    /// <summary>One that is broken off holds so many words of the line's begin, that weigh so much, and hardly others.</summary>
    private const int BrokenWords = 4;

    private const double BrokenTells = 1.5,
        BrokenAlike = 0.7;

    private readonly Talk talk;
    private readonly int[] places;
    private readonly int[] ids;
    private readonly double[] weighs;
    private readonly Dictionary<string, int> known = [];
    private readonly Dictionary<(int, int), List<int>> runs = [];
    private readonly ILookup<string, Phrase> phrases;

    public TakeSearch(Talk talk, WordWeights weights, int[] voice)
    {
        this.talk = talk;
        places = [.. voice.Where(p => weights.Of(p) > 0)];
        weighs = [.. places.Select(weights.Of)];
        ids = [.. places.Select(p => known.TryGetValue(Key(p), out var id) ? id : known[Key(p)] = known.Count)];
        for (var i = 0; i + Run <= ids.Length; i++)
        {
            (runs.TryGetValue((ids[i], ids[i + 1]), out var at) ? at : runs[(ids[i], ids[i + 1])] = []).Add(i);
        }
        var who = voice.Length == 0 ? -1 : talk.Words[voice[0]].Voice;
        phrases = talk.Phrases.Where(p => talk.Words[p.First].Voice == who).ToLookup(Said);

        string Key(int place) => talk.Words[place].Key;
    }

    /// <summary>Stretches that share words with the line, some of them twice, some sharing words with each other.</summary>
    public IEnumerable<ScriptTake> Of(ScriptLine line)
    {
        if (line.Keys.Count <= Run)
        {
            return phrases[string.Join(' ', line.Keys)].Select(p => new ScriptTake(p.First, p.Last, 1));
        }
        // A word that this voice never says is like no other.
        int[] words = [.. line.Keys.Select((k, i) => known.GetValueOrDefault(k, -1 - i))];
        double[] weigh = [.. line.Keys.Select(k => CommonWords.Has(k) ? 0.25 : 1)];
        return Begins(words).Select(b => Take(b, words, weigh)).OfType<ScriptTake>();
    }

    // Where the line would begin by the runs of it that are said, each once.
    private List<int> Begins(int[] words)
    {
        var begins = new List<int>();
        for (var i = 0; i + Run <= words.Length; i++)
        {
            if (runs.TryGetValue((words[i], words[i + 1]), out var at) && at.Count <= Often)
            {
                begins.AddRange(at.Select(p => p - i));
            }
        }
        begins.Sort();
        var apart = new List<int>();
        foreach (var begin in begins)
        {
            if (apart.Count == 0 || begin - apart[^1] > OutOfLine)
            {
                apart.Add(begin);
            }
        }
        return apart;
    }

    private ScriptTake? Take(int begin, int[] words, double[] weigh)
    {
        int from = Math.Clamp(begin - OutOfLine, 0, ids.Length),
            to = Math.Min(Anew(begin, words), Math.Clamp(begin + words.Length + (words.Length / 2) + OutOfLine, from, ids.Length));
        if (to <= from || LocalMatch.Of(words, weigh, ids.AsSpan(from, to - from), weighs.AsSpan(from, to - from)) is not { } match)
        {
            return null;
        }
        var (first, last) = Widened(from + match.OtherFirst, from + match.OtherLast, match.First, words.Length - 1 - match.Last);
        double line = weigh.Sum(),
            said = weighs[first..(last + 1)].Sum(),
            score = match.Same / Math.Max(line, said);
        // Broken off: the line's begin, nearly word for word, and then nothing.
        var broken =
            match.First <= 1
            && (!Goes(last) || !Goes(last + 1))
            && match.Words >= BrokenWords
            && match.Same >= BrokenTells
            && match.Same >= BrokenAlike * said;
        return score >= Whole || broken ? new ScriptTake(places[first], places[last], score) : null;
    }

    // Where the line is begun again after a place, which is another take.
    private int Anew(int begin, int[] words)
    {
        if (!runs.TryGetValue((words[0], words[1]), out var at))
        {
            return ids.Length;
        }
        var next = at.BinarySearch(begin + OutOfLine + 1);
        next = next < 0 ? ~next : next;
        return next < at.Count ? at[next] : ids.Length;
    }

    // Words said in the place of the line's first and last ones belong to the take, as far as its phrase goes.
    private (int First, int Last) Widened(int first, int last, int before, int after)
    {
        for (; before > 0 && first > 0 && Goes(first - 1); before--)
        {
            first--;
        }
        for (; after > 0 && Goes(last); after--)
        {
            last++;
        }
        return (first, last);
    }

    // Whether the speaker goes on after a word without a stop or a breath.
    private bool Goes(int word) =>
        word + 1 < ids.Length
        && !talk.Words[places[word]].EndsSentence
        && !talk.Words[places[word]].BreaksOff
        && talk.Between(places[word], places[word + 1]) < Pieces.Catch;

    private string Said(Phrase phrase) =>
        string.Join(' ', phrase.Places.ToArray().Select(p => talk.Words[p].Key).Where(k => k.Length > 0 && !FilledPause.Is(k)));
}
