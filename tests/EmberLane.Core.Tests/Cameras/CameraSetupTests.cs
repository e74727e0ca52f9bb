using EmberLane.Core.Cameras;
using static EmberLane.Core.Tests.Cameras.MadeSittings;
using CameraEdit = EmberLane.Core.Edits.ChoiceEdit<EmberLane.Core.Cameras.CameraSetup>;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>What people choose for cameras, and what is guessed.</summary>
public sealed class CameraSetupTests
{
    private static CameraSetup After(CameraSetup setup, CameraEdit edit) => edit.Apply(setup).State;

    [Fact]
    public void What_is_chosen_last_is_shown_and_what_lies_beside_it_stays()
    {
        var setup = After(CameraSetup.Empty, CameraSetup.Empty.Show(7, Range(1_000, 9_000)));
        setup = After(setup, setup.Show(8, Range(3_000, 4_000)));
        Assert.Equal([(7, Range(1_000, 3_000)), (8, Range(3_000, 4_000)), (7, Range(4_000, 9_000))], setup.Locks);
        setup = After(setup, setup.Show(null, Range(2_000, 8_000)));
        Assert.Equal([(7, Range(1_000, 2_000)), (7, Range(8_000, 9_000))], setup.Locks);
        setup = After(setup, setup.Show((7, Range(1_000, 5_000)), (8, Range(5_000, 8_500))));
        Assert.Equal([(7, Range(1_000, 5_000)), (8, Range(5_000, 8_500)), (7, Range(8_500, 9_000))], setup.Locks);
    }

    [Fact]
    public void People_have_their_places_in_each_angle_and_only_within_its_picture()
    {
        var setup = After(CameraSetup.Empty, CameraSetup.Placed(7, "Ada Bo", 30));
        setup = After(setup, CameraSetup.Placed(7, "Cy", 100));
        setup = After(setup, CameraSetup.Placed(77, "Ada Bo", 60));
        Assert.Equal(new Dictionary<string, int> { ["Ada Bo"] = 30, ["Cy"] = 100 }, setup.PlacesOf(7));
        Assert.Equal(["Cy"], After(setup, CameraSetup.Placed(7, "Ada Bo", null)).PlacesOf(7).Keys);
        Assert.Throws<EditRefusedException>(() => CameraSetup.Placed(7, "Cy", 101));
    }

    [Fact]
    public void A_camera_that_goes_to_and_fro_shows_others_from_each_mark_on()
    {
        var setup = After(CameraSetup.Empty, CameraSetup.CoversFrom(7, Ms(9_000), []));
        setup = After(setup, CameraSetup.CoversFrom(7, Ms(-2_000), ["Ada Bo", "Cy"]));
        setup = After(setup, CameraSetup.CoversFrom(77, Ms(1_000), ["Cy"]));
        Assert.Equal([Ms(-2_000), Ms(9_000)], setup.MarksOf(7).Select(m => m.At));
        var changes = CoverMark.Changes(setup.MarksOf(7), Ms(20_000));
        Assert.Equal([Range(-2_000, 9_000), Range(9_000, 20_000)], changes.Select(c => c.Range));
        Assert.Equal(["Ada Bo", "Cy"], changes[0].People);
        Assert.Empty(changes[1].People);
        // A mark behind the end holds for nothing.
        Assert.Single(CoverMark.Changes(setup.MarksOf(7), Ms(9_000)));
        Assert.Single(After(setup, CameraSetup.CoversFrom(7, Ms(9_000), null)).MarksOf(7));
    }

    [Fact]
    public void How_long_an_angle_covers_somebody_agrees_with_asking_each_moment()
    {
        var random = new Random(41);
        string[] people = ["A", "B"];
        for (var n = 0; n < 200; n++)
        {
            IReadOnlyList<string> Some() => [.. people.Where(_ => random.Next(2) == 0)];
            var marks = Enumerable.Range(0, 20).Where(_ => random.Next(5) == 0).Select(i => new CoverMark(Ms(i * 100), Some())).ToList();
            var angle = new PlanAngle("x", Some(), [Range(0, 2_000)]) { Changes = CoverMark.Changes(marks, Ms(2_000)) };
            int from = random.Next(0, 19),
                to = random.Next(from, 21);
            var moments = Enumerable.Range(from, to - from).Count(i => angle.CoversAt(Ms(i * 100)).Contains("A"));
            Assert.Equal(Ms(moments * 100), angle.Covered("A", Range(from * 100, to * 100)));
        }
    }

    [Fact]
    public void Locks_agree_with_painting_each_moment_and_every_change_is_taken_back_exactly()
    {
        var random = new Random(174);
        for (var n = 0; n < 200; n++)
        {
            var setup = CameraSetup.Empty;
            var painted = new long?[50];
            var was = new Stack<(CameraSetup Before, CameraEdit Inverse)>();
            for (var i = 0; i < 20; i++)
            {
                int from = random.Next(0, 49),
                    to = random.Next(from + 1, 50);
                long? angle = random.Next(4) == 0 ? null : random.Next(1, 4);
                var (next, inverse) = setup.Show(angle, Range(from * 100, to * 100)).Apply(setup);
                was.Push((setup, inverse));
                setup = next;
                Array.Fill(painted, angle, from, to - from);
            }
            for (var i = 0; i < 50; i++)
            {
                Assert.Equal(painted[i], setup.Locks.Where(l => l.Range.Has(Ms(i * 100))).Select(l => (long?)l.Angle).SingleOrDefault());
            }
            while (was.TryPop(out var step))
            {
                setup = After(setup, step.Inverse);
                Assert.Equal(step.Before.Choices, setup.Choices);
            }
        }
    }

    [Fact]
    public void Laughter_is_marked_joined_and_taken_away_in_part()
    {
        var setup = After(CameraSetup.Empty, CameraSetup.Empty.MarkCrowd(Range(1_000, 3_000), true));
        setup = After(setup, setup.MarkCrowd(Range(2_000, 5_000), true));
        Assert.Equal([Range(1_000, 5_000)], setup.Crowd);
        setup = After(setup, setup.MarkCrowd(Range(2_000, 3_000), false));
        Assert.Equal([Range(1_000, 2_000), Range(3_000, 5_000)], setup.Crowd);
    }

    [Fact]
    public void Rules_are_of_the_pace_but_for_those_chosen_one_by_one_and_contradictions_are_refused()
    {
        var setup = After(CameraSetup.Empty, CameraSetup.Empty.AtPace("calm"));
        setup = After(
            setup,
            setup.WithRules(
                new Dictionary<string, string>
                {
                    ["shortest"] = "3.2",
                    ["longest"] = "45",
                    ["together"] = "hold",
                }
            )
        );
        Assert.Equal(CameraRules.Calm with { Shortest = Ms(3_200), Together = Meanwhile.Hold }, setup.Rules);
        Assert.Equal(["shortest", "together"], CameraRule.All.Where(setup.IsOwn).Select(r => r.Name));
        Assert.Contains(
            "shortest",
            Assert.Throws<EditRefusedException>(() => setup.WithRules(new Dictionary<string, string> { ["longest"] = "2" })).Message,
            StringComparison.Ordinal
        );
        Assert.Throws<EditRefusedException>(() => setup.WithRules(new Dictionary<string, string> { ["cut"] = "much" }));
        Assert.Throws<EditRefusedException>(() => setup.AtPace("hasty"));
        Assert.Equal(CameraRules.Lively, After(setup, setup.AtPace("lively")).Rules);
    }

    [Theory]
    [InlineData(
        "A001_FERRY_WIDE,B001_CLOSE_MAREN,C001",
        "Maren Oak,Tobias Fenn,Interviewer",
        "Maren Oak+Tobias Fenn,Maren Oak,Tobias Fenn"
    )]
    [InlineData("A,B", "Ilse Varga,Interviewer", "Ilse Varga,Ilse Varga")]
    [InlineData("A,B", "Ada,Bo", ",")]
    [InlineData("ONLY", "Ada,Bo", "Ada+Bo")]
    [InlineData("MAREN AND TOBIAS,B", "Maren Oak,Tobias Fenn,Cy", "Maren Oak+Tobias Fenn,")]
    public void Whom_an_angle_covers_is_guessed_by_its_name(string angles, string people, string covers) =>
        Assert.Equal(
            covers,
            string.Join(
                ',',
                CoverGuess
                    .Of(angles.Split(','), people.Split(','), [.. angles.Split(',').Select(_ => (string[])[])])
                    .Select(c => string.Join('+', c))
            )
        );

    [Fact]
    public void Faces_that_somebody_named_go_before_what_an_angle_is_called_unless_that_is_everybody()
    {
        string[][] faces =
        [
            ["Eve"],
            ["Eve", "somebody else"],
            ["ada bo", "Cy Dorn"],
            [],
            [],
        ];
        var covers = CoverGuess.Of(["A001 WIDE", "B001 ADA", "C001", "D001", "E001"], ["Ada Bo", "Cy Dorn", "Interviewer", "Eve"], faces);
        Assert.Equal(["Ada Bo+Cy Dorn+Eve", "Eve", "Ada Bo+Cy Dorn", "", ""], covers.Select(c => string.Join('+', c)));
    }
}
