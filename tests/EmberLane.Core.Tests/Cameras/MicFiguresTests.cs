using EmberLane.Core.Cameras;
using static EmberLane.Core.Tests.Cameras.MadeSittings;

namespace EmberLane.Core.Tests.Cameras;

/// <summary>What opening mics by a plan does, on levels of known truth.</summary>
public sealed class MicFiguresTests
{
    private const float Voice = 1_000_000,
        Room = 100;

    private static readonly string[] People = ["Ada", "Bo", ""];

    // Ten seconds each: Ada, then Bo, then both. Each hears the other so many decibels softer; the room's mic hears all.
    private static MicLevels Levels(double softer, int early = 0)
    {
        var other = Voice * Math.Pow(10, -softer / 10);
        float At(int step, int from, int to) => step >= from && step < to ? Voice : 0;
        var rows = new[] { new float[3_000], new float[3_000], new float[3_000] };
        for (var i = 0; i < 3_000; i++)
        {
            float ada = At(i, 0, 1_000) + At(i, 2_000, 3_000),
                bo = At(i, 1_000 - early, 3_000);
            rows[0][i] = Room + ada + (float)(bo / Voice * other);
            rows[1][i] = Room + bo + (float)(ada / Voice * other);
            rows[2][i] = Voice;
        }
        return new MicLevels(new SittingTime(MediaTime.Zero), rows);
    }

    private static readonly PlanTurn[] Speech =
    [
        new("Ada", Range(0, 10_000)),
        new("Bo", Range(10_000, 20_000)),
        new("Ada", Range(20_000, 30_000)),
        new("Bo", Range(20_000, 30_000)),
    ];

    [Fact]
    public void What_closed_mics_added_is_gone_and_what_is_open_with_a_voice_stays()
    {
        OpenMic[] apart = [new("Ada", Range(0, 10_000)), new("Bo", Range(10_000, 30_000)), new("Ada", Range(20_000, 30_000))];
        Assert.Equal(new MicFigures(2, -200, MicFigures.Gone, 1, 0), MicFigures.Of(Levels(20), People, Speech, apart));
        // Open a tenth of the other's time: ten decibels less.
        OpenMic[] lapping = [new("Ada", Range(0, 11_000)), new("Bo", Range(9_000, 30_000)), new("Ada", Range(20_000, 30_000))];
        Assert.Equal(new MicFigures(2, -120, 100, 1, 0), MicFigures.Of(Levels(12), People, Speech, lapping));
        // Open all along, nothing is lower.
        OpenMic[] all = [new("Ada", Range(0, 30_000)), new("Bo", Range(0, 30_000))];
        Assert.Equal(new MicFigures(2, -120, 0, 0, 0), MicFigures.Of(Levels(12), People, Speech, all));
    }

    [Fact]
    public void A_voice_that_is_there_before_its_mic_opens_is_told()
    {
        OpenMic[] open = [new("Ada", Range(0, 10_000)), new("Bo", Range(0, 1_000)), new("Bo", Range(10_000, 30_000))];
        Assert.Equal(0, MicFigures.Of(Levels(20), People, Speech, open)!.Late);
        var late = MicFigures.Of(Levels(20, early: 3), People, Speech[1..], open)!;
        Assert.Equal((1, 0), (late.Openings, late.Late));
        // Ada's own mic is as loud there: it is her who speaks. Once she is done it is Bo.
        var levels = Levels(20, early: 3);
        Array.Fill(levels.Rows[0], Room, 990, 10);
        Assert.Equal(1, MicFigures.Of(levels, People, Speech, open)!.Late);
    }

    [Fact]
    public void Nothing_is_told_where_no_two_people_have_mics_or_nobody_speaks()
    {
        Assert.Null(MicFigures.Of(Levels(20), ["Ada", "", ""], Speech, []));
        Assert.Null(MicFigures.Of(Levels(20), People, [], []));
        Assert.Null(MicFigures.Of(new MicLevels(default, []), People, Speech, []));
    }
}
