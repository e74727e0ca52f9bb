using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Speech;

/// <summary>Pauses from how likely somebody speaks and how loud it is.</summary>
public sealed class PauseFinderTests
{
    private const float Quiet = 1e3f,
        Talk = 1e6f;

    // Steps of a row, said run by run: how many, how likely speech, how loud.
    private static (float[] Chances, float[] Energy) Sound(params (int Steps, float Chance, float Energy)[] runs) =>
        ([.. runs.SelectMany(r => Enumerable.Repeat(r.Chance, r.Steps))], [.. runs.SelectMany(r => Enumerable.Repeat(r.Energy, r.Steps))]);

    private static IReadOnlyList<StepRange> Pauses(int least, params (int, float, float)[] runs)
    {
        var (chances, energy) = Sound(runs);
        return PauseFinder.Pauses(chances, energy, least);
    }

    [Fact]
    public void A_pause_begins_and_ends_where_loudness_says_whenever_the_network_is_late()
    {
        // Talk to 200; the network hears it to 215. Then it begins at 300, and the network hears that from 306 on.
        var found = Pauses(40, (200, 0.9f, Talk), (15, 0.9f, Quiet), (85, 0, Quiet), (6, 0, Talk), (194, 0.9f, Talk), (100, 0, Quiet));
        Assert.Equal(2, found.Count);
        Assert.InRange(found[0].First.Value, 199, 202);
        Assert.InRange(found[0].End.Value, 298, 301);
        Assert.Equal(600, found[1].End.Value);
    }

    [Fact]
    public void A_noise_that_nobody_would_take_for_speech_does_not_end_a_pause_and_a_soft_word_does()
    {
        var knock = Pauses(40, (200, 0.9f, Talk), (100, 0, Quiet), (20, 0.01f, Talk), (100, 0, Quiet), (200, 0.9f, Talk));
        Assert.Equal([220], knock.Select(p => (p.Count + 5) / 10 * 10));
        var word = Pauses(40, (200, 0.9f, Talk), (100, 0, Quiet), (20, 0.3f, Talk / 8), (100, 0, Quiet), (200, 0.9f, Talk));
        Assert.Equal(2, word.Count);
    }

    [Fact]
    public void Short_closures_and_pauses_shorter_than_asked_for_are_none()
    {
        Assert.Empty(Pauses(40, (200, 0.9f, Talk), (10, 0, Quiet), (200, 0.9f, Talk), (35, 0, Quiet), (200, 0.9f, Talk)));
        Assert.Single(Pauses(30, (200, 0.9f, Talk), (10, 0, Quiet), (200, 0.9f, Talk), (35, 0, Quiet), (200, 0.9f, Talk)));
    }

    [Fact]
    public void A_room_that_grows_loud_is_measured_by_its_own_quiet()
    {
        var louder = Quiet * 20;
        var before = Enumerable.Range(0, 30).SelectMany(_ => new[] { (200, 0.9f, Talk), (100, 0f, Quiet) });
        var after = Enumerable.Range(0, 60).SelectMany(_ => new[] { (200, 0.9f, Talk), (100, 0.05f, louder) });
        var found = Pauses(40, [.. before, .. after]);
        // Where the noise changes the quiet of both sides is around.
        Assert.InRange(found.Count, 75, 90);
        Assert.All(found, p => Assert.InRange(p.Count, 95, 105));
    }

    [Fact]
    public void Where_nobody_speaks_all_of_it_is_one_pause_and_nothing_has_none()
    {
        Assert.Equal([StepRange.Of(0, 500)], Pauses(40, (500, 0, Quiet)));
        Assert.Equal([StepRange.Of(0, 500)], Pauses(40, (500, 0, 0)));
        Assert.Empty(Pauses(40));
        Assert.Empty(Pauses(1, (500, 0.9f, Talk)));
    }

    [Fact]
    public void Whatever_the_sound_pauses_are_in_order_apart_and_long_enough()
    {
        var random = new Random(4);
        for (var n = 0; n < 50; n++)
        {
            var runs = Enumerable
                .Range(0, random.Next(1, 40))
                .Select(_ => (random.Next(1, 200), (float)random.NextDouble(), (float)Math.Pow(10, random.Next(9))))
                .ToArray();
            var found = Pauses(25, runs);
            Assert.All(found, p => Assert.True(p.Count >= 25 && p.First.Value >= 0 && p.End.Value <= runs.Sum(r => r.Item1)));
            Assert.All(found.Zip(found.Skip(1)), p => Assert.True(p.First.End < p.Second.First));
        }
    }
}
