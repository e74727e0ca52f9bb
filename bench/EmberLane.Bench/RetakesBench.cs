using System.Diagnostics;
using System.Globalization;
using EmberLane.Core.Tidy;

namespace EmberLane.Bench;

/// <summary>Retakes found in made interviews, of which it is known where they are: how many, how many wrongly, and how quickly.</summary>
internal static class RetakesBench
{
    /// <summary>A stretch is found when so much of what it and the true one hold is common to both.</summary>
    private const double Found = 0.5;

    public static void Run()
    {
        foreach (var tuning in new[] { true, false })
        {
            Console.WriteLine($"retakes in made interviews, the half that is {(tuning ? "tuned on" : "reported")}");
            Show("with stops", tuning, new WrittenHow(true, 0));
            Show("with stops, 8 of 100 words misheard", tuning, new WrittenHow(true, 0.08));
            Show("without stops", tuning, new WrittenHow(false, 0));
            Show("without stops, 8 of 100 words misheard", tuning, new WrittenHow(false, 0.08));
        }
        foreach (var hours in new[] { 1, 2, 4, 6, 8 })
        {
            const int wordsAnHour = 9_000;
            var interview = new InterviewMaker(5, tuning: false, new WrittenHow(false, 0.08)).Make(hours * wordsAnHour);
            var watch = Stopwatch.StartNew();
            var found = Retakes.Of(interview.Talk);
            Console.WriteLine(Line($"  {hours} h of talk: {found.Count} retakes in {watch.Elapsed.TotalSeconds:0.00} s"));
        }
    }

    private static void Show(string what, bool tuning, WrittenHow how)
    {
        int truly = 0,
            found = 0,
            right = 0,
            wrong = 0;
        var missed = new Dictionary<string, (int Missed, int All)>();
        for (var n = 0; n < 6; n++)
        {
            var interview = new InterviewMaker((tuning ? 100 : 200) + n, tuning, how).Make(6_000);
            var answers = Retakes.Of(interview.Talk);
            foreach (var (kind, attempts) in interview.Retakes)
            {
                var hit = answers.Any(a => Fits(a, attempts));
                var (m, all) = missed.GetValueOrDefault(kind);
                missed[kind] = (m + (hit ? 0 : 1), all + 1);
                (truly, found) = (truly + 1, found + (hit ? 1 : 0));
            }
            foreach (var answer in answers)
            {
                var hit = interview.Retakes.Any(r => Fits(answer, r.Attempts));
                (right, wrong) = (right + (hit ? 1 : 0), wrong + (hit ? 0 : 1));
            }
        }
        Console.WriteLine(
            Line($"  {what}: {truly} planted, recall {(double)found / truly:0.0%}, precision {right / Math.Max(1.0, right + wrong):0.0%}")
        );
        Console.WriteLine(
            "    missed: " + string.Join(", ", missed.OrderBy(m => m.Key).Select(m => Line($"{m.Key} {m.Value.Missed} of {m.Value.All}")))
        );
    }

    private static bool Fits(Retake answer, IReadOnlyList<(int First, int Last)> attempts) =>
        attempts.Count(t => answer.Attempts.Any(a => PlacesInCommon.Of((a.First, a.Last), t) >= Found)) >= 2;

    private static string Line(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
