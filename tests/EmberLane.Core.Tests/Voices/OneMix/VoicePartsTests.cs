using EmberLane.Core.Speech;
using EmberLane.Core.Voices;
using EmberLane.Core.Voices.OneMix;

namespace EmberLane.Core.Tests.Voices.OneMix;

public sealed class VoicePartsTests
{
    private static float Normal(Random random) =>
        (float)(Math.Sqrt(-2 * Math.Log(1 - random.NextDouble())) * Math.Cos(2 * Math.PI * random.NextDouble()));

    // Frames around a place; two of these follow one another in a run.
    private static float[][] Frames(params (int Count, float Place, float Spread)[] parts)
    {
        var random = new Random(4);
        return
        [
            .. parts.SelectMany(p =>
                Enumerable
                    .Range(0, p.Count)
                    .Select(_ => Enumerable.Range(0, Mfcc.Coefficients).Select(_ => p.Place + (p.Spread * Normal(random))).ToArray())
            ),
        ];
    }

    [Fact]
    public void A_run_is_cut_where_the_voice_changes_and_nowhere_else()
    {
        var turns = SpeechTurns.Cut(Frames((400, -0.5f, 0.8f), (500, 0.5f, 1f)), [StepRange.Of(0, 900)]);
        Assert.Equal(2, turns.Count);
        Assert.InRange(turns[0].End.Value, 390, 410);
        Assert.Equal([StepRange.Of(0, 900)], SpeechTurns.Cut(Frames((900, 0, 1)), [StepRange.Of(0, 900)]));
    }

    [Fact]
    public void Turns_cover_all_runs_once_and_none_is_cut_too_short()
    {
        var runs = new[] { StepRange.Of(5, 200), StepRange.Of(203, 1411), StepRange.Of(1500, 1503) };
        var turns = SpeechTurns.Cut(Frames((700, -1, 1), (300, 1, 0.5f), (600, 0, 2)), runs);
        Assert.Equal(runs.SelectMany(r => r.Steps), turns.SelectMany(t => t.Steps));
        Assert.True(turns.Count > runs.Length);
        Assert.All(turns.Where(t => !runs.Contains(t)), t => Assert.True(t.Count >= 120));
    }

    [Fact]
    public void The_kinds_near_to_a_frame_are_the_likeliest_of_all()
    {
        var kinds = VoiceSpace.Learned.Kinds;
        foreach (var frame in Frames((50, 0, 1)))
        {
            var near = kinds.Near(frame);
            Assert.Equal(1, near.Sum(n => n.Chance), 1e-4f);
            Assert.Equal(near.OrderByDescending(n => n.Chance), near);
            float Fits(int kind) => kinds.Fits(frame, [(kind, 1)], kinds.Means);
            var least = near.Min(n => Fits(n.Kind));
            Assert.All(Enumerable.Range(0, kinds.Count).Except(near.Select(n => n.Kind)), k => Assert.True(Fits(k) <= least));
        }
    }

    [Fact]
    public void Talk_fits_the_voice_that_it_was_learned_from_best()
    {
        var kinds = VoiceSpace.Learned.Kinds;
        KindCounts Of(float[][] frames)
        {
            var counts = new KindCounts(kinds);
            foreach (var frame in frames)
            {
                counts.Add(frame, kinds.Near(frame));
            }
            return counts;
        }
        KindCounts one = Of(Frames((300, 0.4f, 1))),
            other = Of(Frames((300, -0.4f, 1)));
        Assert.True(one.Fits(one.Moves()) > one.Fits(other.Moves()));
        Assert.True(other.Fits(other.Moves()) > other.Fits(one.Moves()));
        Assert.All(new KindCounts(kinds).Moves(), m => Assert.Equal(0, m));
    }

    // Four turns in three groups, then two, then one; how likely each join is of two people, as a logarithm of the odds, and the seconds of
    // the smaller group.
    private static (int[] Groups, VoiceDoubt? Doubt) Told(double first, double second, double smaller = 30, bool clear = true)
    {
        double[] Signs(double odds) => [odds, .. new double[JoinSigns.Count - 1]];
        List<TurnJoin> joins =
        [
            new([0, 1, 2, 2], (2, 1), Signs(first), smaller),
            new([0, 1, 1, 1], (1, 0), Signs(second), 30),
            new([0, 0, 0, 0], (0, 0), null, 120),
        ];
        double[] none = new double[JoinSigns.Count],
            one = [.. Enumerable.Repeat(1.0, JoinSigns.Count)];
        var space = new VoiceSpace(VoiceSpace.Learned.Kinds, [], none, one, [0, 1, .. none[1..]]);
        StepRange[] turns = [StepRange.Of(0, 100), StepRange.Of(200, 250), StepRange.Of(300, 420), StepRange.Of(500, 530)];
        return (TurnGroups.Found(joins, space), TurnGroups.Doubt(joins, space, turns, clear));
    }

    [Fact]
    public void As_many_people_are_found_as_make_all_joins_likeliest()
    {
        Assert.Equal([0, 1, 1, 1], Told(-5, 5).Groups);
        Assert.Equal([0, 1, 2, 2], Told(5, 5).Groups);
        Assert.Equal([0, 0, 0, 0], Told(-5, -5).Groups);
        // One join alone does not decide: a later one that is surely of one person speaks against more.
        Assert.Equal([0, 0, 0, 0], Told(0.5, -5).Groups);
        Assert.Equal([0, 1, 1, 1], Told(5, 5, smaller: 1).Groups);
    }

    [Fact]
    public void Where_the_number_is_not_sure_turns_of_the_two_groups_in_question_are_told()
    {
        Assert.Null(Told(-5, 5).Doubt);
        var more = Told(-0.3, 5).Doubt!;
        Assert.Equal(3, more.Perhaps);
        Assert.Equal([StepRange.Of(300, 420), StepRange.Of(500, 530)], more.One);
        Assert.Equal([StepRange.Of(200, 250)], more.Other);
        var fewer = Told(-5, 0.3).Doubt!;
        Assert.Equal(1, fewer.Perhaps);
        Assert.Equal([StepRange.Of(0, 100)], fewer.Other);
        Assert.Equal(StepRange.Of(310, 430), more.Moved(10).One[0]);
        Assert.NotNull(Told(-5, 5, clear: false).Doubt);
        Assert.Equal(2, Told(-5, -5, clear: false).Doubt!.Perhaps);
    }

    [Fact]
    public void What_was_learned_reads_as_it_was_written()
    {
        var learned = VoiceSpace.Learned;
        Assert.Equal(learned.ToText(), VoiceSpace.OfText(learned.ToText()).ToText());
        Assert.Equal(JoinSigns.Count, learned.SignMeans.Length);
        Assert.Equal(JoinSigns.Count + 1, learned.SignWeights.Length);
        Assert.All(learned.Directions, d => Assert.Equal(TurnFeatures.Count, d.Length));
    }

    [Fact]
    public void Features_lie_around_the_mean_of_all_turns_and_a_turn_without_pitch_has_that_of_the_others()
    {
        var frames = Frames((200, -1, 1), (200, 1, 0.5f), (100, 0, 1));
        float[] pitch = [.. Enumerable.Repeat(120f, 100), .. Enumerable.Repeat(220f, 100), .. new float[50]];
        StepRange[] turns = [StepRange.Of(0, 200), StepRange.Of(200, 400), StepRange.Of(400, 500)];
        var rows = TurnFeatures.Of(frames, pitch, turns);
        for (var d = 0; d < TurnFeatures.Count; d++)
        {
            Assert.Equal(0, turns.Select((t, i) => TurnFeatures.Seconds(t) * rows[i][d]).Sum(), 1e-6);
        }
        const int pitched = 2 * Mfcc.Coefficients;
        Assert.True(rows[0][pitched] < rows[1][pitched]);
        Assert.Equal((rows[0][pitched] + rows[1][pitched]) / 2, rows[2][pitched], 1e-6);
    }
}
