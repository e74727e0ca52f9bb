using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

/// <summary>Who speaks, from the loudness of mics: made talk with known truth.</summary>
public sealed class MicDiarisationTests
{
    private const int Step = 100;

    [Fact]
    public void People_with_a_mic_each_are_told_apart_whatever_their_levels()
    {
        var truth = Talk(3, 60, seed: 1);
        var chances = MicDiarisation.Of([
            .. Heard(
                truth,
                [
                    [1, 0.016, 0.01],
                    [0.012, 1, 0.02],
                    [0.02, 0.01, 1],
                ],
                [1, 0.05, 8]
            ),
        ])!;
        Assert.Equal(["mic 1", "mic 2", "mic 3"], chances.Labels);
        Assert.InRange(DiarisationError.Between(truth, chances.Spoken(), 25).Rate, 0, 0.03);
    }

    [Fact]
    public void Who_wears_no_mic_is_the_room()
    {
        // The third mic hangs and hears everybody alike; the third person is heard by it best.
        var truth = Talk(3, 60, seed: 2);
        var chances = MicDiarisation.Of([
            .. Heard(
                truth,
                [
                    [1, 0.016, 0.01],
                    [0.012, 1, 0.02],
                    [0.3, 0.3, 0.4],
                ],
                [1, 1, 1]
            ),
        ])!;
        Assert.Equal(["mic 1", "mic 2", "room"], chances.Labels);
        Assert.InRange(DiarisationError.Between(truth, chances.Spoken(), 25).Rate, 0, 0.05);
    }

    [Fact]
    public void Two_who_talk_at_once_are_both_heard()
    {
        List<Spoken> truth = [.. Talk(2, 40, seed: 3), new(0, new(45 * Step), new(53 * Step)), new(1, new(48 * Step), new(56 * Step))];
        var spoken = MicDiarisation.Of(TwoHear(truth))!.Spoken();
        Assert.Contains(spoken, s => s.Voice == 0 && s.First.Value < 49 * Step && s.End.Value > 52 * Step);
        Assert.Contains(spoken, s => s.Voice == 1 && s.First.Value < 49 * Step && s.End.Value > 55 * Step);
    }

    [Fact]
    public void A_rubbed_mic_is_not_taken_for_its_person()
    {
        var truth = Talk(2, 60, seed: 4);
        var mics = TwoHear(truth);
        for (var i = 65 * Step; i < 70 * Step; i++)
        {
            mics[0][i] = 4e6f;
        }
        Assert.DoesNotContain(MicDiarisation.Of(mics)!.Spoken(), s => s.Voice == 0 && s.First.Value >= 64 * Step);
    }

    [Theory]
    [InlineData(20, 15)]
    [InlineData(32, 300)]
    public void A_person_whose_mic_drops_out_or_is_switched_off_is_known_by_the_bleed_and_nobody_is_taken_for_them(int from, int seconds)
    {
        var truth = Talk(3, 60, seed: 5);
        var mics = Heard(
                truth,
                [
                    [1, 0.016, 0.01],
                    [0.012, 1, 0.02],
                    [0.02, 0.01, 1],
                ],
                [1, 1, 1]
            )
            .ToList();
        Array.Clear(mics[1], from * Step, Math.Min(seconds * Step, mics[1].Length - (from * Step)));
        Assert.InRange(DiarisationError.Between(truth, MicDiarisation.Of(mics)!.Spoken(), 25).Rate, 0, 0.06);
    }

    [Fact]
    public void Of_two_people_the_one_whose_mic_stays_on_is_not_taken_for_cloth()
    {
        var truth = Talk(2, 80, seed: 11);
        var mics = TwoHear(truth);
        Array.Clear(mics[0], 40 * Step, mics[0].Length - (40 * Step));
        var chances = MicDiarisation.Of(mics)!;
        Assert.Equal(["mic 1", "mic 2"], chances.Labels);
        Assert.InRange(DiarisationError.Between(truth, chances.Spoken(), 25).Rate, 0, 0.06);
    }

    [Fact]
    public void Loudness_does_not_tell_with_one_mic_with_hung_mics_or_in_silence()
    {
        var truth = Talk(3, 30, seed: 6);
        Assert.Null(MicDiarisation.Of([]));
        Assert.Null(
            MicDiarisation.Of([
                .. Heard(
                    truth,
                    [
                        [1, 0.01, 0.01],
                    ],
                    [1]
                ),
            ])
        );
        Assert.Null(
            MicDiarisation.Of([
                .. Heard(
                    truth,
                    [
                        [0.5, 0.4, 0.6],
                        [0.6, 0.5, 0.4],
                    ],
                    [1, 1]
                ),
            ])
        );
        Assert.Null(MicDiarisation.Of([new float[5000], new float[5000]]));
        Assert.Null(
            MicDiarisation.Of([
                [],
                [],
            ])
        );
    }

    // Turns of two to four seconds with pauses of half a second, each person in turn by chance; and ten seconds of nobody at the end.
    private static List<Spoken> Talk(int people, int seconds, int seed)
    {
        var random = new Random(seed);
        var truth = new List<Spoken>();
        for (int at = 50, who = -1; at < seconds * Step;)
        {
            who = (who + 1 + random.Next(people - 1)) % people;
            var length = random.Next(2 * Step, 4 * Step);
            truth.Add(new Spoken(who, new(at), new(at + length)));
            at += length + 50;
        }
        return truth;
    }

    // A mic each, of one level.
    private static List<float[]> TwoHear(List<Spoken> truth) =>
        [
            .. Heard(
                truth,
                [
                    [1, 0.016],
                    [0.016, 1],
                ],
                [1, 1]
            ),
        ];

    // Mean squares of 10 ms: syllables of a fifth of a second that are louder and softer, over a floor of noise.
    private static IEnumerable<float[]> Heard(List<Spoken> truth, double[][] reach, double[] gains)
    {
        var steps = truth.Max(t => t.End.Value) + (10 * Step);
        var voices = reach[0].Select(_ => new double[steps]).ToArray();
        var random = new Random(9);
        foreach (var s in truth)
        {
            for (var i = s.First.Value; i < s.End.Value; i++)
            {
                voices[s.Voice][i] =
                    i % 20 == 0 || i == s.First.Value ? 1e6 * Math.Pow(10, random.NextDouble() - 0.5) : voices[s.Voice][i - 1];
            }
        }
        return reach.Select(
            (row, m) =>
                Enumerable
                    .Range(0, steps)
                    .Select(i => (float)(gains[m] * (500 + (200 * random.NextDouble()) + row.Select((r, v) => r * voices[v][i]).Sum())))
                    .ToArray()
        );
    }
}
