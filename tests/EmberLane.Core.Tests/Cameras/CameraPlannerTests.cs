using EmberLane.Core.Cameras;
using static EmberLane.Core.Tests.Cameras.MadeSittings;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>The plan costs least, keeps the rules, and says why each shot begins.</summary>
public sealed class CameraPlannerTests
{
    private static readonly MediaTime Hair = Ms(1);

    [Fact]
    public void A_plan_costs_as_little_as_the_best_of_all_plans_there_are()
    {
        var random = new Random(171);
        var tried = 0;
        for (var n = 0; n < 6_000; n++)
        {
            var problem = Small(random);
            var ground = CameraGround.Of(problem.Checked());
            if (ground.Steps > 7)
            {
                continue;
            }
            tried++;
            Assert.Equal(Least(ground, problem.Rules), CameraPlanner.Plan(problem).Hundredths);
        }
        Assert.True(tried > 2_000, $"only {tried} were small enough");
    }

    // Tries every sequence of shots.
    private static Int128 Least(CameraGround ground, CameraRules rules)
    {
        Int128? least = null;
        Go([], 0);
        return least!.Value;

        void Go(List<(int Angle, int From, int To)> shots, int from)
        {
            if (from == ground.Steps)
            {
                var cost = CameraPlanner.CostOf(ground, rules, shots);
                least = least is { } known && known < cost ? known : cost;
                return;
            }
            for (var angle = 0; angle < ground.Angles; angle++)
            {
                var isSame = shots.Count > 0 && shots[^1].Angle == angle;
                if (isSame && !ground.IsSeam[from])
                {
                    continue;
                }
                for (var to = from + 1; to <= ground.Steps && ground.May(angle, to - 1); to++)
                {
                    shots.Add((angle, from, to));
                    Go(shots, to);
                    shots.RemoveAt(shots.Count - 1);
                    if (to < ground.Steps && ground.IsSeam[to])
                    {
                        break;
                    }
                }
            }
        }
    }

    [Fact]
    public void Shots_follow_each_other_keep_their_lengths_roll_and_leave_locks_alone()
    {
        var random = new Random(172);
        for (var n = 0; n < 60; n++)
        {
            var problem = Talk(random, random.Next(40, 900), random.Next(2, 4));
            var rules = problem.Rules;
            var shots = CameraPlanner.Plan(problem).Shots;
            Assert.Equal(MediaTime.Zero, shots[0].Range.In);
            Assert.Equal(problem.Length, shots[^1].Range.Out);
            Assert.All(shots.Zip(shots.Skip(1)), pair => Assert.Equal(pair.First.Range.Out, pair.Second.Range.In));
            Assert.All(shots.Zip(shots.Skip(1)), pair => Assert.NotEqual(pair.First.Angle, pair.Second.Angle));
            Assert.All(shots, s => Assert.Contains(problem.Angles[s.Angle].Rolls, r => r.In <= s.Range.In && s.Range.Out <= r.Out));
            Assert.All(shots.Where(s => s.Range.Length < rules.Shortest), s => Assert.True(IsForced(problem, s), $"{n}: {s}"));
            // The wide view and one of the others always roll, so that no shot need be too long.
            Assert.All(
                shots.Where(s => s.Range.Length > rules.Longest + Hair),
                s => Assert.DoesNotContain(problem.Angles, a => a.Name != problem.Angles[s.Angle].Name && Rolls(a, s.Range))
            );
            foreach (var own in problem.Locked)
            {
                Assert.All(shots.Where(s => s.Range.Meets(own.Range)), s => Assert.Equal(own.Angle, problem.Angles[s.Angle].Name));
            }
            foreach (var crowd in problem.Crowd)
            {
                Assert.DoesNotContain(shots, s => crowd.In < s.Range.In && s.Range.In < crowd.Out);
            }
            Assert.All(shots, s => Assert.NotEmpty(s.Reason));
        }
    }

    // Whether a shot ends or begins where a lock or a camera does.
    private static bool IsForced(CameraProblem problem, PlannedShot shot) =>
        problem
            .Locked.Select(l => l.Range)
            .Concat(problem.Angles.SelectMany(a => a.Rolls))
            .Any(r => r.In == shot.Range.Out || r.Out == shot.Range.In || r.In == shot.Range.In || r.Out == shot.Range.Out);

    private static bool Rolls(PlanAngle angle, PlanRange range) => angle.Rolls.Any(r => r.In <= range.In && range.Out <= r.Out);

    [Fact]
    public void Who_speaks_long_is_seen_alone_short_words_are_not_cut_to_and_everybody_who_talks_at_once_is_seen()
    {
        var problem = Interview(
            new PlanTurn("A", Range(0, 12_000)),
            new PlanTurn("B", Range(5_000, 5_600)),
            new PlanTurn("B", Range(12_500, 24_000)),
            new PlanTurn("A", Range(24_000, 30_000)),
            new PlanTurn("B", Range(24_500, 30_000))
        );
        var plan = CameraPlanner.Plan(problem with { Rules = problem.Rules with { WideEvery = MediaTime.Zero } });
        Assert.Equal(["close A", "close B", "wide"], plan.Shots.Select(s => problem.Angles[s.Angle].Name));
        Assert.Equal(Ms(12_300), plan.Shots[1].Range.In);
        Assert.Equal(["the beginning", "B begins to speak", "B and A talk"], plan.Shots.Select(s => s.Reason));
    }

    [Fact]
    public void The_wide_view_returns_listeners_are_shown_in_long_answers_and_what_is_chosen_by_hand_stays()
    {
        var problem = Interview(new PlanTurn("A", Range(0, 30_000)));
        var rules = problem.Rules with { WideEvery = Ms(19_500), WideFor = Ms(3_000), ListenAfter = Ms(9_000), ListenEvery = Ms(60_000) };
        var plan = CameraPlanner.Plan(problem with { Rules = rules });
        Assert.Equal(["wide", "close A", "close B", "close A", "wide", "close A"], plan.Shots.Select(s => problem.Angles[s.Angle].Name));
        Assert.Equal("opens with the wide view", plan.Shots[0].Reason);
        Assert.Equal("a listener, while A goes on", plan.Shots[2].Reason);
        Assert.Equal("the wide view returns", plan.Shots[4].Reason);
        var chosen = CameraPlanner.Plan(problem with { Rules = rules, Locked = [new LockedAngle("close B", Range(20_000, 24_000))] });
        Assert.Contains(chosen.Shots, s => s.Angle == 2 && s.Range == Range(20_000, 24_000) && s.Reason == "chosen by hand");
    }

    [Fact]
    public void A_tighter_framing_comes_as_often_as_asked_and_only_then_where_no_other_rule_wants_a_cut()
    {
        const string talk = """
            {"seconds":60,"speech":[{"who":"A","in":0,"out":60}],"rules":{"longest":60,"punchEvery":15,"punchFor":5},
             "angles":[{"name":"one","covers":["A"]},{"name":"one, closer","covers":["A"],"punch":true}]}
            """;
        var problem = CamerasJson.Read(talk);
        var plan = CameraPlanner.Plan(problem);
        Assert.Equal(
            [(0, 0), (1, 15), (0, 20), (1, 30), (0, 35), (1, 45), (0, 50)],
            plan.Shots.Select(s => (s.Angle, s.Range.In.ToMillisecondsRounded() / 1_000))
        );
        Assert.All(plan.Shots.Where(s => s.Angle == 1), s => Assert.Equal("a closer view, as often as asked", s.Reason));
        Assert.Single(CameraPlanner.Plan(problem with { Rules = problem.Rules with { PunchEvery = MediaTime.Zero } }).Shots);
        // While people laugh nothing is wanted.
        Assert.Equal(5, CameraPlanner.Plan(problem with { Crowd = [Range(29_000, 36_000)] }).Shots.Count);
    }

    [Fact]
    public void Where_it_is_seen_narrow_the_speaker_is_shown_alone_though_that_costs_cuts()
    {
        var problem = Interview([
            .. Enumerable.Range(0, 10).Select(i => new PlanTurn(i % 2 == 0 ? "A" : "B", Range(i * 4_000, (i * 4_000) + 3_800))),
        ]);
        problem = problem with { Rules = CameraRules.Even with { WideEvery = MediaTime.Zero } };
        MediaTime Wide(CameraRules rules) =>
            new(CameraPlanner.Plan(problem with { Rules = rules }).Shots.Where(s => s.Angle == 0).Sum(s => s.Range.Length.Units));
        Assert.True(Wide(problem.Rules) > Ms(20_000));
        Assert.True(Wide(problem.Rules.Narrow) < Ms(10_000));
    }

    [Fact]
    public void A_camera_that_turns_is_read_with_its_marks()
    {
        var problem = CamerasJson.Read(
            """
            {"seconds":40,"speech":[{"who":"B","in":20,"out":40}],
             "angles":[{"name":"far"},{"name":"roving","covers":["A"],"turns":[{"at":22,"covers":["B"]},{"at":20.5,"covers":[]}]}]}
            """
        );
        Assert.Equal([Range(20_500, 22_000), Range(22_000, 40_000)], problem.Angles[1].Changes.Select(c => c.Range));
        Assert.Equal(
            [
                [],
                ["B"],
            ],
            problem.Angles[1].Changes.Select(c => c.People)
        );
    }

    [Fact]
    public void An_angle_that_goes_to_and_fro_shows_whom_it_is_at()
    {
        var problem = new CameraProblem(
            Ms(40_000),
            [
                new PlanAngle("roving", ["A"], [Range(0, 40_000)]) { Changes = [new CoveredAt(Range(20_000, 40_000), ["B"])] },
                new PlanAngle("close A", ["A"], [Range(0, 40_000)]),
            ],
            [new PlanTurn("B", Range(0, 40_000))],
            [],
            [],
            CameraRules.Even with
            {
                ListenAfter = MediaTime.Zero,
            }
        );
        Assert.Equal(0, CameraPlanner.Plan(problem).Shots[^1].Angle);
    }

    [Fact]
    public void At_a_seam_the_same_angle_does_not_cut_to_itself_where_another_serves()
    {
        var problem = Interview(new PlanTurn("A", Range(0, 30_000))) with { Seams = [Ms(10_000), Ms(20_000)] };
        var shots = CameraPlanner.Plan(problem).Shots;
        Assert.Contains(shots, s => s.Range.In == Ms(10_000));
        Assert.All(shots.Zip(shots.Skip(1)), pair => Assert.NotEqual(pair.First.Angle, pair.Second.Angle));
        var alone = CameraPlanner.Plan(problem with { Angles = [problem.Angles[1]] }).Shots;
        Assert.Equal(3, alone.Count);
        Assert.Equal("the next piece; no other angle serves", alone[1].Reason);
    }

    [Fact]
    public void What_covers_nobody_or_does_not_roll_is_shown_only_where_nothing_else_is_and_nothing_is_shown_where_nothing_rolls()
    {
        var problem = new CameraProblem(
            Ms(30_000),
            [new PlanAngle("boat", [], [Range(0, 25_000)]), new PlanAngle("close A", ["A"], [Range(0, 20_000)])],
            [new PlanTurn("A", Range(0, 30_000))],
            [],
            [],
            CameraRules.Even
        );
        var shots = CameraPlanner.Plan(problem).Shots;
        Assert.Equal([(1, Range(0, 20_000)), (0, Range(20_000, 25_000))], shots.Select(s => (s.Angle, s.Range)));
        Assert.Equal("“close A” does not go on", shots[1].Reason);
        Assert.Empty(CameraPlanner.Plan(problem with { Angles = [] }).Shots);
        Assert.Single(CameraPlanner.Plan(problem with { Angles = [problem.Angles[1]] }).Shots);
    }

    [Fact]
    public void What_contradicts_itself_is_refused_by_its_name()
    {
        var problem = Interview(new PlanTurn("A", Range(0, 30_000)));
        Refused(problem with { Rules = problem.Rules with { Shortest = Ms(30_000) } }, "shortest");
        Refused(problem with { Rules = problem.Rules with { WideEvery = Ms(1_000) } }, "wideFor");
        Refused(problem with { Rules = problem.Rules with { ListenFor = Ms(90_000) } }, "listenFor");
        Refused(problem with { Rules = problem.Rules with { WideEvery = new MediaTime(1), WideFor = MediaTime.Zero } }, "wideEvery");
        Refused(problem with { Rules = problem.Rules with { ListenEvery = Ms(2), ListenFor = Ms(1) } }, "listenEvery");
        Refused(problem with { Rules = problem.Rules with { PunchEvery = Ms(4_000), PunchFor = Ms(4_000) } }, "punchFor");
        Refused(problem with { Rules = problem.Rules with { PunchEvery = Ms(2) } }, "punchEvery");
        Refused(problem with { Rules = problem.Rules with { MicTail = -Ms(1) } }, "micTail");
        Refused(problem with { Locked = [new LockedAngle("gone", Range(0, 1))] }, "gone");
        Refused(
            problem with
            {
                Locked = [new LockedAngle("wide", Range(0, 3_000)), new LockedAngle("close A", Range(2_000, 4_000))],
            },
            "both locked"
        );
        Refused(problem with { Length = MediaTime.Zero }, "seconds");
        Refused(problem with { Angles = [problem.Angles[0], problem.Angles[0]] }, "wide");

        static void Refused(CameraProblem problem, string names) =>
            Assert.Contains(names, Assert.Throws<FormatException>(() => CameraPlanner.Plan(problem)).Message, StringComparison.Ordinal);
    }

    [Fact]
    public void Thousands_of_locks_too_short_for_a_shot_are_all_kept()
    {
        var locks = Enumerable
            .Range(0, 150_000)
            .Select(i => new LockedAngle(i % 2 == 0 ? "close A" : "close B", Range(i * 20, (i + 1) * 20)));
        var problem = Interview() with { Length = Ms(3_000_000), Locked = [.. locks] };
        var shots = CameraPlanner
            .Plan(problem with { Angles = [.. problem.Angles.Select(a => a with { Rolls = [Range(0, 3_000_000)] })] })
            .Shots;
        Assert.Equal(150_000, shots.Count);
        Assert.All(shots.Index(), s => Assert.Equal(1 + (s.Index % 2), s.Item.Angle));
    }

    // Two people for half a minute: a wide view and one of each.
    private static CameraProblem Interview(params PlanTurn[] turns) =>
        new(
            Ms(30_000),
            [
                new PlanAngle("wide", ["A", "B"], [Range(0, 30_000)]),
                new PlanAngle("close A", ["A"], [Range(0, 30_000)]),
                new PlanAngle("close B", ["B"], [Range(0, 30_000)]),
            ],
            turns,
            [],
            [],
            CameraRules.Lively with
            {
                Longest = Ms(25_000),
                Shortest = Ms(2_500),
                Ignore = Ms(1_000),
                Lead = Ms(200),
            }
        );
}
