using EmberLane.Core.Cameras;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>Random sittings to be planned.</summary>
internal static class MadeSittings
{
    public static MediaTime Ms(long milliseconds) => MediaTime.FromMilliseconds(milliseconds);

    public static PlanRange Range(long from, long to) => new(Ms(from), Ms(to));

    /// <summary>A small one, for brute force: a few seconds on a coarse grid.</summary>
    public static CameraProblem Small(Random random)
    {
        string[] people = ["A", "B", "C"];
        var length = random.Next(3, 8) * 1_000L;
        var angles = Enumerable
            .Range(0, random.Next(1, 4))
            .Select(i => new PlanAngle(
                $"angle {i}",
                [.. people.Where(_ => random.Next(2) == 0)],
                random.Next(3) == 0 ? [Range(0, random.Next(0, (int)length)), Range(length / 2, length)] : [Range(0, length)]
            )
            {
                Changes =
                    random.Next(4) == 0 ? [new CoveredAt(Range(length / 2, length), [.. people.Where(_ => random.Next(2) == 0)])] : [],
                Tighter = random.Next(3) == 0 ? [Range(0, length)] : [],
            })
            .ToList();
        var locks = angles.Where(a => a.Rolls.Count == 1 && random.Next(4) == 0).Take(1);
        var shortest = random.Next(0, 4) * 500;
        return new CameraProblem(
            Ms(length),
            angles,
            [.. Enumerable.Range(0, random.Next(0, 6)).Select(_ => Turn(people, length, random))],
            random.Next(4) == 0 ? [Range(length / 3, length * 2 / 3)] : [],
            [.. locks.Select(a => new LockedAngle(a.Name, Range(1_000, random.Next(1_500, 3_500))))],
            CameraRules.Even with
            {
                Shortest = Ms(shortest),
                Longest = Ms(shortest + random.Next(1, 5_000)),
                Ignore = Ms(random.Next(0, 600)),
                WideEvery = Ms(random.Next(2) * 3_000),
                WideFor = Ms(1_000),
                ListenAfter = Ms(random.Next(2) * 1_500),
                ListenEvery = Ms(2_000),
                ListenFor = Ms(700),
                PunchEvery = Ms(random.Next(2) * 1_200),
                PunchFor = Ms(600),
                Together = random.Next(2) == 0 ? Meanwhile.Hold : Meanwhile.Wide,
                Silence = random.Next(2) == 0 ? Meanwhile.Hold : Meanwhile.Wide,
                SilenceAfter = Ms(500),
                Cut = new(random.Next(0, 2_000)),
            }
        )
        {
            Grid = Ms(2_000),
            Seams = random.Next(3) == 0 ? [Ms(length / 2)] : [],
        };
    }

    private static PlanTurn Turn(string[] people, long length, Random random)
    {
        var from = random.Next(0, (int)length);
        return new PlanTurn(people[random.Next(people.Length)], Range(from, from + random.Next(1, 3_000)));
    }

    /// <summary>A talk of some minutes: a wide view and one of each, some of which stop for a while.</summary>
    public static CameraProblem Talk(Random random, int seconds, int people)
    {
        var who = Enumerable.Range(0, people).Select(i => $"P{i}").ToList();
        var speech = new List<PlanTurn>();
        for (var at = 1_000L; at < (seconds * 1_000L) - 5_000;)
        {
            var lasts = new[] { 400, 1_000, 3_000, 8_000, 25_000 }[random.Next(5)] * random.Next(7, 13) / 10;
            var ends = Math.Min((seconds * 1_000L) - 1_000, at + lasts);
            speech.Add(new PlanTurn(who[random.Next(people)], Range(at, ends)));
            at = Math.Max(at + 200, at + lasts + new[] { -300, 200, 800, 2_500 }[random.Next(4)]);
        }
        var length = seconds * 1_000L;
        return new CameraProblem(
            Ms(length),
            [
                new PlanAngle("wide", who, [Range(0, length)]),
                .. who.Select(w => new PlanAngle(
                    $"close {w}",
                    [w],
                    random.Next(3) == 0
                        ? [Range(random.Next(6_000), length * 6 / 10), Range(length * 63 / 100, length)]
                        : [Range(random.Next(6_000), length)]
                )),
            ],
            speech,
            random.Next(2) == 0 ? [Range(length / 2, (length / 2) + 8_000)] : [],
            random.Next(3) == 0 ? [new LockedAngle("wide", Range(length / 5, (length / 5) + 6_000))] : [],
            CameraRules.Even
        );
    }
}
