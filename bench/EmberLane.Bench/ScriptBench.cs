using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Tidy;

namespace EmberLane.Bench;

/// <summary>A made script of 100 lines, and three hours in which each of them is said up to ten times among other talk.</summary>
internal static class ScriptBench
{
    private const int Lines = 100,
        MostTakes = 10,
        Words = 27_000;

    public static void Run()
    {
        foreach (var tuning in new[] { true, false })
        {
            Console.WriteLine($"takes of a script of {Lines} lines in three hours, the half that is {(tuning ? "tuned on" : "reported")}");
            Show("word for word", tuning, new WrittenHow(true, 0), 0);
            Show("one word of ten another way", tuning, new WrittenHow(true, 0), 0.1);
            Show("and without stops, 8 of 100 words misheard", tuning, new WrittenHow(false, 0.08), 0.1);
        }
    }

    private static void Show(string what, bool tuning, WrittenHow how, double changed)
    {
        var (talk, script, takes) = new InterviewMaker(tuning ? 31 : 32, tuning, how).Scripted(Lines, MostTakes, Words, changed);
        var watch = Stopwatch.StartNew();
        var matched = ScriptTakes.Of(talk, script);
        var took = watch.Elapsed;
        var found = matched.SelectMany(m => m.Takes.Select(t => (m.Line.Number, t.First, t.Last))).ToList();
        var right = takes.Count(t => found.Any(f => f.Number == t.Line && PlacesInCommon.Of((f.First, f.Last), (t.First, t.Last)) >= 0.5));
        var wrong = found.Count(f => !takes.Any(t => f.Number == t.Line && PlacesInCommon.Of((f.First, f.Last), (t.First, t.Last)) >= 0.5));
        var whole = matched.Count(m =>
            m.Best is { } b
            && takes.Any(t => t.Line == m.Line.Number && t.Whole && t.First <= m.Takes[b].Last && m.Takes[b].First <= t.Last)
        );
        Console.WriteLine(
            string.Create(
                CultureInfo.InvariantCulture,
                $"  {what}: {takes.Count} takes, {(double)right / takes.Count:0.0%} given to the right line, {wrong} found that are none; "
                    + $"a whole take proposed for {whole} of {Lines} lines; {took.TotalSeconds:0.00} s"
            )
        );
    }
}
