using System.Globalization;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;
using EmberLane.Engines;

namespace EmberLane.Bench;

/// <summary>
/// Our scorers of who speaks when and of words, held against Debian's sctk (md-eval.pl and sclite) on answers that are drawn by chance:
/// turns that overlap, are moved, missed, split and given to others; words that are left out, put in and changed.
/// </summary>
internal static class ScorersBench
{
    private const string Tools = "/usr/lib/sctk/bin";
    private const int Draws = 40;

    public static async Task RunAsync()
    {
        var folder = Directory.CreateTempSubdirectory("ember-scorers").FullName;
        try
        {
            double turns = 0,
                words = 0;
            List<double> rates = [],
                errors = [];
            for (var n = 0; n < Draws; n++)
            {
                var random = new Random(n);
                var truth = Turns(random);
                var found = Guessed(truth, random);
                var ours = 100 * DiarisationError.Between(truth, found, 25).Rate;
                turns = Math.Max(turns, Math.Abs(ours - await MdEvalAsync(folder, truth, found)));
                rates.Add(ours);
                var said = Words(random);
                var heard = Misheard(said, random);
                var rate = WordErrorRate.Between(said, heard);
                var share = 100.0 * rate.Errors / rate.TrueWords;
                words = Math.Max(words, Math.Abs(share - await ScliteAsync(folder, said, heard)));
                errors.Add(share);
            }
            Console.WriteLine(Line($"scorers against sctk, {Draws} answers drawn by chance"));
            Console.WriteLine(
                Line($"  who speaks when, {rates.Min():0.0} to {rates.Max():0.0} %: at most {turns:0.000} points from md-eval.pl")
            );
            Console.WriteLine(Line($"  words, {errors.Min():0.0} to {errors.Max():0.0} %: at most {words:0.000} points from sclite"));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    private static List<Spoken> Turns(Random random)
    {
        var truth = new List<Spoken>();
        int voices = random.Next(1, 6),
            at = 100;
        var free = new int[voices];
        while (at < 60_000)
        {
            var voice = random.Next(voices);
            int first = Math.Max(at, free[voice]),
                end = first + random.Next(30, 1_500);
            truth.Add(new Spoken(voice, new Step(first), new Step(end)));
            free[voice] = end + 10;
            at = Math.Max(100, end + random.Next(-150, 200));
        }
        return truth;
    }

    // Borders moved by up to half a second, one turn in eight missed or given to another, some cut in two, and talk where there is none.
    private static List<Spoken> Guessed(List<Spoken> truth, Random random)
    {
        var moved = new List<Spoken>();
        var voices = truth.Max(t => t.Voice) + random.Next(0, 2);
        foreach (var turn in truth.Where(_ => random.Next(8) > 0))
        {
            int first = Math.Max(0, turn.First.Value + random.Next(-50, 50)),
                end = Math.Max(first + 5, turn.End.Value + random.Next(-50, 50)),
                middle = random.Next(4) == 0 ? (first + end) / 2 : end,
                voice = random.Next(8) == 0 ? random.Next(voices + 1) : turn.Voice;
            moved.Add(new Spoken(voice, new Step(first), new Step(middle)));
            if (middle < end)
            {
                moved.Add(new Spoken(random.Next(voices + 1), new Step(middle), new Step(end)));
            }
        }
        moved.AddRange(
            Enumerable
                .Range(0, 5)
                .Select(_ => random.Next(60_000))
                .Select(f => new Spoken(random.Next(voices + 1), new Step(f), new Step(f + 120)))
        );
        // One voice does not speak over itself.
        return
        [
            .. moved
                .GroupBy(m => m.Voice)
                .SelectMany(g =>
                    StepRuns
                        .Of(62_000, i => g.Any(m => m.First.Value <= i && i < m.End.Value))
                        .Runs.Select(r => new Spoken(g.Key, r.First, r.End))
                ),
        ];
    }

    private static List<string> Words(Random random) =>
        [.. Enumerable.Range(0, random.Next(400, 1_200)).Select(_ => Line($"w{(int)(60 * Math.Pow(random.NextDouble(), 2))}"))];

    private static List<string> Misheard(List<string> said, Random random)
    {
        var worse = random.Next(2, 14);
        return
        [
            .. said.SelectMany(w =>
                random.Next(100) switch
                {
                    var n when n < worse => [],
                    var n when n < 3 * worse => [Line($"w{random.Next(80)}")],
                    var n when n < 4 * worse => [w, Line($"w{random.Next(80)}")],
                    _ => (string[])[w],
                }
            ),
        ];
    }

    private static async Task<double> MdEvalAsync(string folder, List<Spoken> truth, List<Spoken> found)
    {
        string real = Path.Combine(folder, "real.rttm"),
            heard = Path.Combine(folder, "heard.rttm"),
            all = Path.Combine(folder, "all.uem");
        await File.WriteAllLinesAsync(real, truth.Select(Rttm));
        await File.WriteAllLinesAsync(heard, found.Select(Rttm));
        await File.WriteAllTextAsync(all, Line($"sitting 1 0 {truth.Concat(found).Max(t => t.End.Value) / 100.0}\n"));
        var told = await Tool.ReadAsync(
            Path.Combine(Tools, "md-eval.pl"),
            ["-c", "0.25", "-u", all, "-r", real, "-s", heard],
            TimeSpan.FromMinutes(2),
            CancellationToken.None
        );
        double Part(string name) =>
            double.Parse(
                told.Split('\n').First(l => l.Contains(name, StringComparison.Ordinal)).Split('=')[1].TrimStart().Split(' ')[0],
                CultureInfo.InvariantCulture
            );
        // Its own share has two digits: reckoned again from its times.
        var wrong = Part("MISSED SPEAKER TIME") + Part("FALARM SPEAKER TIME") + Part("SPEAKER ERROR TIME");
        return 100 * wrong / Part("SCORED SPEAKER TIME");
    }

    private static string Rttm(Spoken turn) =>
        Line($"SPEAKER sitting 1 {turn.First.Value / 100.0:0.00} {(turn.End - turn.First) / 100.0:0.00} <NA> <NA> v{turn.Voice} <NA>");

    private static async Task<double> ScliteAsync(string folder, List<string> said, List<string> heard)
    {
        string real = Path.Combine(folder, "said.trn"),
            guess = Path.Combine(folder, "heard.trn");
        await File.WriteAllTextAsync(real, string.Join(' ', said) + " (a-1)\n");
        await File.WriteAllTextAsync(guess, string.Join(' ', heard) + " (a-1)\n");
        var told = await Tool.ReadAsync(
            Path.Combine(Tools, "sclite"),
            ["-r", real, "trn", "-h", guess, "trn", "-i", "rm", "-o", "rsum", "stdout"],
            TimeSpan.FromMinutes(2),
            CancellationToken.None
        );
        // The line of sums in counts: sentences, words | right, changed, left out, put in, errors, sentences with errors.
        var sums = told.Split('\n').First(l => l.Contains("Sum", StringComparison.Ordinal)).Split('|', StringSplitOptions.TrimEntries);
        int[] counts =
        [
            .. sums[^2].Split(' ', StringSplitOptions.RemoveEmptyEntries).Select(n => int.Parse(n, CultureInfo.InvariantCulture)),
        ];
        return 100.0 * counts[4] / said.Count;
    }

    private static string Line(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
