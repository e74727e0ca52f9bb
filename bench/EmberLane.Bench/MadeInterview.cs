using EmberLane.Core.Tidy;

namespace EmberLane.Bench;

/// <summary>A made interview as words with times, and where in it somebody says a thing more than once to get it right.</summary>
internal sealed record MadeInterview(Talk Talk, IReadOnlyList<(string Kind, IReadOnlyList<(int First, int Last)> Attempts)> Retakes);

/// <summary>How an interview is written down: with or without stops and commas, with so many words misheard.</summary>
internal sealed record WrittenHow(bool WithMarks, double Misheard);

/// <summary>
/// Lays made sentences out as an interview of two: answers of several sentences, attempts planted among them, and what comes again for
/// other reasons: refrains, lists that open alike, questions that are quoted and echoed, “yes, yes”.
/// </summary>
internal sealed class InterviewMaker(int seed, bool tuning, WrittenHow how)
{
    private const int Guest = 0,
        Host = 1;

    private readonly Random random = new(seed);
    private readonly MadeSentences sentences = new(new Random(seed + 1), tuning);
    private readonly List<TalkWord> words = [];
    private readonly List<(string Kind, List<(int First, int Last)> Attempts)> planted = [];
    private readonly List<string[]> refrains = [];
    private readonly List<(List<string[]> Answer, int Group)> later = [];
    private long at;

    /// <summary>About so many words, with a planted retake in about every third answer.</summary>
    public MadeInterview Make(int count)
    {
        refrains.AddRange([
            ["the", "river", "always", "wins"],
            ["and", "that", "was", "the", "ferry", "for", "you"],
        ]);
        while (words.Count < count)
        {
            Say(Host, sentences.Question());
            switch (random.Next(12))
            {
                case 0:
                    Again(same: true);
                    break;
                case 1:
                    Again(same: false);
                    break;
                case 2:
                    BrokenOff();
                    break;
                case 3:
                    Later(count);
                    break;
                case 4:
                    Framed();
                    break;
                case 5:
                    List();
                    break;
                case 6:
                    Quoted();
                    break;
                case 7:
                    Yes();
                    break;
                default:
                    Ordinary(random.Next(3, 8));
                    break;
            }
            if (random.Next(4) == 0)
            {
                Say(Guest, refrains[random.Next(refrains.Count)]);
            }
        }
        foreach (var (answer, group) in later)
        {
            Say(Host, sentences.Question());
            planted[group].Attempts.Add(SayAll(answer));
            Ordinary(2);
        }
        return new MadeInterview(new Talk(words), [.. planted.Select(p => (p.Kind, (IReadOnlyList<(int, int)>)p.Attempts))]);
    }

    /// <summary>A script, and talk of about so many words in which its lines are said again and again, some broken off.</summary>
    public (Talk Talk, IReadOnlyList<ScriptLine> Script, List<(int Line, int First, int Last, bool Whole)> Takes) Scripted(
        int lines,
        int mostTakes,
        int count,
        double changed
    )
    {
        List<string[]> texts = [.. Enumerable.Range(0, lines).Select(_ => sentences.Long())];
        var script = ScriptText.Read(string.Join('\n', texts.Select(t => string.Join(' ', t))));
        var takes = new List<(int Line, int First, int Last, bool Whole)>();
        for (var line = 0; line < lines; line++)
        {
            for (var n = random.Next(1, mostTakes + 1); n > 0; n--)
            {
                var text = changed > 0 ? sentences.Changed(texts[line], changed) : texts[line];
                var broken = n > 1 && random.Next(4) == 0;
                var (first, last) = Say(Guest, broken ? text[..Math.Max(5, text.Length * 2 / 3)] : text, broken);
                takes.Add((line + 1, first, last, !broken));
            }
            while (words.Count < (long)count * (line + 1) / lines)
            {
                Say(random.Next(4) == 0 ? Host : Guest, sentences.Next());
            }
        }
        return (new Talk(words), script, takes);
    }

    private void Ordinary(int count)
    {
        for (var i = 0; i < count; i++)
        {
            Say(Guest, sentences.Next());
        }
    }

    private void Again(bool same)
    {
        Ordinary(random.Next(0, 3));
        var sentence = sentences.Long();
        var group = Group(same ? "the same words" : "changed words");
        group.Add(Say(Guest, sentence));
        for (var i = random.Next(1, 3); i > 0; i--)
        {
            Announced();
            group.Add(Say(Guest, same ? sentence : sentences.Changed(sentence, 0.3)));
        }
        Ordinary(random.Next(0, 4));
    }

    private void BrokenOff()
    {
        Ordinary(random.Next(0, 3));
        var sentence = sentences.Long();
        var group = Group("broken off");
        for (var i = random.Next(1, 3); i > 0; i--)
        {
            var length = random.Next(4, Math.Max(5, sentence.Length - 2));
            group.Add(Say(Guest, sentence[..length], broken: true));
            if (random.Next(3) == 0)
            {
                Announced();
            }
        }
        group.Add(Say(Guest, sentence));
        Ordinary(random.Next(0, 4));
    }

    private void Later(int count)
    {
        List<string[]> answer = [.. Enumerable.Range(0, random.Next(2, 5)).Select(_ => sentences.Long())];
        var group = Group(words.Count > count / 2 ? "far apart" : "far apart, an hour");
        group.Add(SayAll(answer));
        later.Add(([.. answer.Select(s => sentences.Changed(s, 0.15))], planted.Count - 1));
        Ordinary(random.Next(1, 4));
    }

    // A thought that closes with the words that it opened with.
    private void Framed()
    {
        var sentence = sentences.Long();
        var group = Group("opens and closes alike");
        group.Add(Say(Guest, sentence));
        Ordinary(random.Next(2, 5));
        group.Add(Say(Guest, sentence));
    }

    private void List()
    {
        Ordinary(1);
        string[] opening = random.Next(2) == 0 ? ["we", "had"] : ["I", "remember"];
        for (var listed = new HashSet<string>(); listed.Count < 4;)
        {
            var thing = sentences.Thing().Split(' ');
            if (listed.Add(thing[^1]))
            {
                Say(Guest, [.. opening, .. thing]);
            }
        }
        Ordinary(2);
    }

    private void Quoted()
    {
        var question = sentences.Question();
        Ordinary(1);
        Say(Guest, ["people", "always", "ask", "me", .. question]);
        if (random.Next(2) == 0)
        {
            Say(Guest, question, mark: "?");
        }
        Ordinary(3);
    }

    private void Yes()
    {
        Say(Guest, ["yes", "yes"]);
        Say(Host, ["no", "no", "no", "go", "on"]);
        Ordinary(3);
    }

    private void Announced()
    {
        switch (random.Next(5))
        {
            case 0:
                Say(Guest, ["sorry"]);
                break;
            case 1:
                Say(Guest, ["let", "me", "say", "that", "again"]);
                break;
            case 2:
                Say(Host, ["once", "more", "please"]);
                break;
            default:
                break;
        }
    }

    private List<(int First, int Last)> Group(string kind)
    {
        planted.Add((kind, []));
        return planted[^1].Attempts;
    }

    private (int First, int Last) SayAll(List<string[]> answer)
    {
        var said = answer.Select(s => Say(Guest, s)).ToList();
        return (said[0].First, said[^1].Last);
    }

    private (int First, int Last) Say(int voice, string[] sentence, bool broken = false, string? mark = null)
    {
        const long ms = MediaTime.UnitsPerSecond / 1000;
        // Marks tell the end of a sentence; without them only a pause does, and not always.
        at += ms * (broken || random.Next(how.WithMarks ? 3 : 8) == 0 ? random.Next(120, 500) : random.Next(600, 1500));
        var first = words.Count;
        for (var i = 0; i < sentence.Length; i++)
        {
            if (random.Next(60) == 0)
            {
                words.Add(new TalkWord("um", new MediaTime(at), new MediaTime(at + (250 * ms)), voice));
                at += ms * random.Next(260, 500);
            }
            var word = random.NextDouble() < how.Misheard ? sentences.Thing().Split(' ')[^1] : sentence[i];
            var last = i == sentence.Length - 1;
            if (how.WithMarks)
            {
                word =
                    (i == 0 ? char.ToUpperInvariant(word[0]) + word[1..] : word)
                    + (
                        last
                            ? mark
                                ?? (
                                    broken
                                        ? random.Next(2) == 0
                                            ? "—"
                                            : "..."
                                        : voice == Host
                                            ? "?"
                                            : "."
                                )
                            : ""
                    );
            }
            var length = ms * (90 + (45 * word.Length) + random.Next(60));
            words.Add(new TalkWord(word, new MediaTime(at), new MediaTime(at + length), voice));
            at += length + (ms * random.Next(0, 60));
        }
        return (first, words.Count - 1);
    }
}
