using CsCheck;
using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

/// <summary>Words given to voices, stretches, and the score of who speaks when.</summary>
public sealed class WordVoicesTests
{
    [Fact]
    public void Words_go_to_the_voice_that_speaks_meanwhile_and_the_break_is_where_it_changes()
    {
        var given = WordVoices.Give(Chances(200, (0, 0, 100), (1, 100, 200)), Words(20));
        Assert.Equal([.. Enumerable.Repeat(0, 10), .. Enumerable.Repeat(1, 10)], given.Select(g => g.Voice));
        Assert.All(given.Take(8).Concat(given.Skip(12)), g => Assert.InRange(g.Sure.Value, 980, 1000));
    }

    [Fact]
    public void One_odd_word_between_others_stays_with_its_neighbours_and_is_less_sure()
    {
        var chances = Chances(200, (0, 0, 100), (0, 110, 200));
        Array.Fill(chances.Rows[1], 0.5f, 100, 10);
        Array.Fill(chances.Rows[0], 0.4f, 100, 10);
        var given = WordVoices.Give(chances, Words(20));
        Assert.All(given, g => Assert.Equal(0, g.Voice));
        Assert.True(given[10].Sure < given[5].Sure);
    }

    [Fact]
    public void Words_without_any_voice_are_nobodys() =>
        Assert.All(WordVoices.Give(new VoiceChances([], []), Words(3)), g => Assert.Equal(new WordVoice(-1, new(0)), g));

    [Fact]
    public void Breaths_are_filled_and_clicks_left_out()
    {
        var chances = Chances(400, (0, 10, 60), (0, 90, 150), (0, 300, 305));
        Assert.Equal([new Spoken(0, new(10), new(150))], chances.Spoken());
    }

    [Fact]
    public void The_score_adds_missed_false_and_confused_time_as_usual()
    {
        List<Spoken> truth = [new(0, new(0), new(1000)), new(1, new(1000), new(2000))];
        Assert.Equal(
            new DiarisationError(2000, 0, 0, 0),
            DiarisationError.Between(truth, [new(5, new(0), new(1000)), new(3, new(1000), new(2000))], 0)
        );
        Assert.Equal(
            new DiarisationError(2000, 200, 0, 0),
            DiarisationError.Between(truth, [new(0, new(200), new(1000)), new(1, new(1000), new(2000))], 0)
        );
        Assert.Equal(
            new DiarisationError(2000, 0, 300, 0),
            DiarisationError.Between(truth, [new(0, new(0), new(1000)), new(1, new(1000), new(2300))], 0)
        );
        Assert.Equal(
            new DiarisationError(2000, 0, 0, 400),
            DiarisationError.Between(truth, [new(0, new(0), new(1400)), new(1, new(1400), new(2000))], 0)
        );
        // Two at once count twice, and one found voice for both misses one of them.
        Assert.Equal(
            new DiarisationError(200, 100, 0, 0),
            DiarisationError.Between([new(0, new(0), new(100)), new(1, new(0), new(100))], [new(0, new(0), new(100))], 0)
        );
    }

    [Fact]
    public void Edges_within_the_collar_do_not_count() =>
        Assert.Equal(0, DiarisationError.Between([new(0, new(100), new(1000))], [new(0, new(80), new(1020))], 25).Rate);

    [Fact]
    public void A_perfect_answer_scores_nothing_under_any_names() =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[0, 500], Gen.Int[1, 200])
            .List[1, 12]
            .Sample(
                stretches =>
                {
                    var truth = stretches.Select(s => new Spoken(s.Item1, new(s.Item2), new(s.Item2 + s.Item3))).ToList();
                    Assert.Equal(0, DiarisationError.Between(truth, [.. truth.Select(t => t with { Voice = 7 - t.Voice })], 10).Rate);
                },
                iter: 200
            );

    private static List<StepRange> Words(int count) => [.. Enumerable.Range(0, count).Select(i => StepRange.Of(i * 10, (i * 10) + 9))];

    private static VoiceChances Chances(int steps, params (int Voice, int First, int End)[] spoken)
    {
        float[][] rows = [new float[steps], new float[steps]];
        foreach (var (voice, first, end) in spoken)
        {
            Array.Fill(rows[voice], 1f, first, end - first);
        }
        return new VoiceChances(["a", "b"], rows);
    }
}
