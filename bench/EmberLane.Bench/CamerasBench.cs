using System.Globalization;
using EmberLane.Core.Cameras;

namespace EmberLane.Bench;

/// <summary>
/// Camera plans of made talks: how long they take, and how they compare with cutting to whoever speaks as soon as the shortest shot allows.
/// </summary>
internal static class CamerasBench
{
    private const int Times = 7;

    public static void Run()
    {
        foreach (var (minutes, people) in new[] { (33, 2), (60, 2), (120, 7), (240, 7) })
        {
            var talk = Talk(new Random(minutes), minutes * 60_000L, people);
            var median = Median(() => CameraPlanner.Plan(talk));
            Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"  {minutes} minutes, {people + 1} angles: {median:0} ms"));
        }
        Story();
        foreach (var (name, rules) in CameraRules.Paces)
        {
            Compare(name, rules);
        }
    }

    // A thousand cards of twenty seconds, of ten sittings of two hours.
    private static void Story()
    {
        var random = new Random(12);
        var sittings = Enumerable
            .Range(1, 10)
            .ToDictionary(
                id => (long)id,
                id =>
                {
                    var talk = Talk(new Random(id), 7_200_000, 2);
                    return new StorySitting([.. talk.Angles.Select((a, i) => new StoryAngle(i, a.Covers, a.Rolls))], talk.Speech, [], []);
                }
            );
        var parts = Enumerable
            .Range(0, 1_000)
            .Select(_ =>
            {
                var from = MediaTime.FromMilliseconds(random.Next(0, 7_170_000));
                return new StoryPart(
                    Guid.NewGuid(),
                    random.Next(1, 11),
                    new PlanRange(from, from + MediaTime.FromMilliseconds(random.Next(3_000, 30_000))),
                    null
                );
            })
            .ToList();
        var median = Median(() => StoryCameras.Plan(parts, sittings, CameraRules.Even));
        Console.WriteLine(
            string.Create(CultureInfo.InvariantCulture, $"  a story of 1000 cards of ten sittings, 3 angles each: {median:0} ms")
        );
    }

    private static void Compare(string name, CameraRules rules)
    {
        var (planned, loudest) = (new Seen(), new Seen());
        for (var n = 0; n < 60; n++)
        {
            var talk = Talk(new Random(9_000 + n), 600_000, 2 + (n % 3)) with { Rules = rules };
            var shots = CameraPlanner.Plan(talk).Shots;
            planned.Add(
                talk,
                shots.Select(s => (s.Angle, s.Range)).ToList(),
                [.. shots.Select(s => s.Reason.StartsWith("a listener", StringComparison.Ordinal))]
            );
            var greedy = Loudest(talk);
            loudest.Add(talk, greedy, new bool[greedy.Count]);
        }
        Console.WriteLine($"  {name}, 60 talks of ten minutes: {planned}; whoever speaks: {loudest}");
    }

    private sealed class Seen
    {
        private long cuts,
            said,
            seen,
            alone,
            reactions;

        public void Add(CameraProblem talk, List<(int Angle, PlanRange Range)> shots, bool[] listeners)
        {
            cuts += shots.Count - 1;
            var first = 0;
            foreach (var turn in talk.Speech.OrderBy(t => t.Range.In))
            {
                said += turn.Range.Length.Units;
                while (first < shots.Count && shots[first].Range.Out <= turn.Range.In - MediaTime.FromMilliseconds(60_000))
                {
                    first++;
                }
                for (var i = first; i < shots.Count && shots[i].Range.In < turn.Range.Out; i++)
                {
                    reactions += listeners[i] ? shots[i].Range.Shared(turn.Range).Units : 0;
                    var covers = talk.Angles[shots[i].Angle].Covers;
                    if (covers.Contains(turn.Who))
                    {
                        seen += shots[i].Range.Shared(turn.Range).Units;
                        alone += covers.Count == 1 ? shots[i].Range.Shared(turn.Range).Units : 0;
                    }
                }
            }
        }

        public override string ToString() =>
            string.Create(
                CultureInfo.InvariantCulture,
                $"{cuts} cuts, the speaker seen in {100m * seen / (said - reactions):0.0} % of what is said without listeners, "
                    + $"alone in {100m * alone / said:0.0} %"
            );
    }

    // To the own angle of whoever begins, as soon as the shot before is long enough.
    private static List<(int Angle, PlanRange Range)> Loudest(CameraProblem talk)
    {
        var shots = new List<(int Angle, PlanRange Range)> { (0, new PlanRange(MediaTime.Zero, talk.Length)) };
        foreach (var turn in talk.Speech)
        {
            var own = talk.Angles.Index().First(a => a.Item.Covers.Count == 1 && a.Item.Covers[0] == turn.Who).Index;
            var (angle, range) = shots[^1];
            var at = MediaTime.Max(turn.Range.In, range.In + talk.Rules.Shortest);
            if (angle != own && at < turn.Range.Out)
            {
                shots[^1] = (angle, range with { Out = at });
                shots.Add((own, new PlanRange(at, talk.Length)));
            }
        }
        return shots;
    }

    private static CameraProblem Talk(Random random, long length, int people)
    {
        var who = Enumerable.Range(0, people).Select(i => $"P{i}").ToList();
        var all = new PlanRange(MediaTime.Zero, MediaTime.FromMilliseconds(length));
        var speech = new List<PlanTurn>();
        for (var at = 1_000L; at < length - 5_000;)
        {
            var lasts = new[] { 400, 1_000, 3_000, 8_000, 25_000 }[random.Next(5)] * random.Next(7, 13) / 10;
            speech.Add(
                new PlanTurn(
                    who[random.Next(people)],
                    new PlanRange(MediaTime.FromMilliseconds(at), MediaTime.FromMilliseconds(Math.Min(length - 1_000, at + lasts)))
                )
            );
            at = Math.Max(at + 200, at + lasts + new[] { -300, 200, 800, 2_500 }[random.Next(4)]);
        }
        return new CameraProblem(
            all.Out,
            [new PlanAngle("wide", who, [all]), .. who.Select(w => new PlanAngle($"close {w}", [w], [all]))],
            speech,
            [],
            [],
            CameraRules.Even
        );
    }

    private static double Median(Action act)
    {
        var times = new List<double>();
        for (var i = 0; i < Times; i++)
        {
            var watch = System.Diagnostics.Stopwatch.StartNew();
            act();
            times.Add(watch.Elapsed.TotalMilliseconds);
        }
        return times.Order().ElementAt(Times / 2);
    }
}
