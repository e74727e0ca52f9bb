using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using EmberLane.Core.Import;
using EmberLane.Core.Speech;
using EmberLane.Core.Time;
using EmberLane.Core.Transcripts;

namespace EmberLane.Bench;

/// <summary>Typed text laid onto the sound, against the true times of the demonstration's words; and how long long texts take.</summary>
internal static class TypedBench
{
    private const int Long = 30_000;

    public static void Run(string repository)
    {
        Console.WriteLine(
            "typed: the demonstration's true text, one word in twenty changed and a paragraph of forty words left out, laid onto the "
                + "recogniser's words"
        );
        int near = 0,
            all = 0;
        foreach (var name in new[] { "first-crossing", "school-hut" })
        {
            var truth = Words(File.ReadAllText(Path.Combine(repository, "demo", "footage", $"{name}.truth.json")));
            var heard = WordsJson
                .Read(File.ReadAllText(Path.Combine(repository, "demo", "transcripts", $"{name}.words.json")))
                .Words.Select((w, i) => new RecordWord(new(i), w.Text, On(w.Range), w.Confidence, 0))
                .ToList();
            var random = new Random(5);
            var typed = truth
                .Where((_, i) => i is < 200 or >= 240)
                .Select((w, i) => (w.Start, Word: new TypedWord(random.Next(20) == 0 ? "something" : w.Text, i + 1, null)))
                .ToList();
            var laid = AlignedText.Lay([.. typed.Select(t => t.Word)], heard);
            var late = laid.Words.Zip(typed).Select(p => Math.Abs(p.First.Range.In.FromZero.ToSecondsInexact() - p.Second.Start)).ToList();
            (near, all) = (near + late.Count(l => l <= 0.08), all + late.Count);
            var misfits = laid.Misfits.Select(m => $"{(m.Typed ? "typed" : "heard")} {m.Last - m.First + 1} words from {m.Range.In}");
            Console.WriteLine(
                Line($"  {name}: {(double)late.Count(l => l <= 0.08) / late.Count:0.0%} of {late.Count} word starts within 80 ms, ")
                    + Line($"median {late.Order().ElementAt(late.Count / 2) * 1000:0} ms; ")
                    + Line($"of words heard the same {Share(laid, late, new(950))}; ")
                    + $"not fitting: {string.Join(", ", misfits)}"
            );
        }
        Console.WriteLine(Line($"  together {(double)near / all:0.0%} within 80 ms"));
        Sentences(repository);
        LongTexts(repository);
    }

    // The true words without capitals and marks; how many of the ends of sentences within a turn are proposed, and how many of the proposed
    // are true. Where the voice changes a sentence ends anyway.
    private static void Sentences(string repository)
    {
        int right = 0,
            proposed = 0,
            truth = 0;
        foreach (var name in new[] { "bridge-walk", "first-crossing", "school-hut" })
        {
            using var document = JsonDocument.Parse(File.ReadAllText(Path.Combine(repository, "demo", "footage", $"{name}.truth.json")));
            var words = document
                .RootElement.GetProperty("words")
                .EnumerateArray()
                .Select(w =>
                    (Start: w.GetProperty("s").GetDecimal(), End: w.GetProperty("e").GetDecimal(), Who: w.GetProperty("v").GetString()!)
                )
                .ToList();
            var written = Written(Path.Combine(repository, "demo", "script", $"{name}.txt"));
            var said = words.Select(w => written[w.Who.Split(' ')[0].ToUpperInvariant()].Dequeue()).ToList();
            var people = words.Select(w => w.Who).Distinct().ToList();
            SittingTime At(decimal seconds) => new(MediaTime.FromSecondsRounded(seconds));
            var bare = new Transcript(
                [
                    .. words.Select(
                        (w, i) =>
                            new RecordWord(
                                new(i),
                                WordErrorRate.Plain(said[i]),
                                new SittingRange(At(w.Start), At(w.End)),
                                null,
                                people.IndexOf(w.Who)
                            )
                    ),
                ],
                Layers.None
            );
            var ends = Core.Mends.SentenceMends.Propose(bare).Where(m => m.By[^1] is '.' or '?').Select(m => m.Last).ToHashSet();
            var within = Enumerable.Range(0, words.Count - 1).Where(i => words[i].Who == words[i + 1].Who).ToList();
            var closed = within.Where(i => said[i][^1] is '.' or '?' or '!').ToHashSet();
            (right, proposed, truth) = (
                right + within.Count(i => closed.Contains(i) && ends.Contains(new(i))),
                proposed + within.Count(i => ends.Contains(new(i))),
                truth + closed.Count
            );
        }
        Console.WriteLine(
            Line($"  ends of sentences within turns, by rule: {right} of {truth} found, {proposed - right} of {proposed} proposed wrongly")
        );
    }

    // What each person of a script says, word by word with its marks.
    private static Dictionary<string, Queue<string>> Written(string script) =>
        File.ReadLines(script)
            .Where(l => l.Length > 0 && char.IsUpper(l[0]) && l.Contains(": ", StringComparison.Ordinal))
            .GroupBy(l => l.Split(' ')[0])
            .ToDictionary(
                g => g.Key,
                g => new Queue<string>(
                    g.SelectMany(l =>
                        l[(l.IndexOf(": ", StringComparison.Ordinal) + 2)..].Split(' ', StringSplitOptions.RemoveEmptyEntries)
                    )
                )
            );

    private static string Share(LaidText laid, List<double> late, PerMille sure)
    {
        var those = laid.Words.Zip(late).Where(p => p.First.Sure >= sure).ToList();
        return Line($"{(double)those.Count(t => t.Second <= 0.08) / those.Count:0.0%} of {those.Count}");
    }

    private static void LongTexts(string repository)
    {
        var vocabulary = Directory
            .EnumerateFiles(Path.Combine(repository, "demo", "footage"), "*.truth.json")
            .SelectMany(f => Words(File.ReadAllText(f)))
            .Select(w => w.Text)
            .ToList();
        var random = new Random(1);
        List<string> text = [.. Enumerable.Range(0, Long).Select(_ => vocabulary[random.Next(vocabulary.Count)])];
        var heard = text.Select(
                (t, i) =>
                    new RecordWord(
                        new(i),
                        random.Next(4) == 0 ? vocabulary[random.Next(vocabulary.Count)] : t,
                        new SittingRange(
                            new SittingTime(MediaTime.FromMilliseconds(i * 400L)),
                            new SittingTime(MediaTime.FromMilliseconds((i * 400L) + 380))
                        ),
                        null,
                        0
                    )
            )
            .ToList();
        var typed = text.Select((t, i) => new TypedWord(t, i, null)).ToList();
        var before = GC.GetTotalAllocatedBytes(true);
        var took = Enumerable
            .Range(0, 3)
            .Select(_ =>
            {
                var watch = Stopwatch.StartNew();
                AlignedText.Lay(typed, heard);
                return watch.Elapsed.TotalSeconds;
            })
            .Order()
            .ElementAt(1);
        Console.WriteLine(
            Line($"  {Long} words onto as many with a quarter misheard: median {took:0.00} s, ")
                + Line($"{(GC.GetTotalAllocatedBytes(true) - before) / 3 / 1_048_576} MiB allocated in all")
        );
    }

    private static List<(string Text, double Start)> Words(string json)
    {
        using var document = JsonDocument.Parse(json);
        return
        [
            .. document
                .RootElement.GetProperty("words")
                .EnumerateArray()
                .Select(w => (w.GetProperty("t").GetString()!, w.GetProperty("s").GetDouble())),
        ];
    }

    private static SittingRange On(SourceRange range) => new(new SittingTime(range.In.FromZero), new SittingTime(range.Out.FromZero));

    private static string Line(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
