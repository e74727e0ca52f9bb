using CsCheck;
using EmberLane.Core.Speech;

namespace EmberLane.Core.Tests.Speech;

/// <summary>Where somebody speaks, by what a network makes likely and by loudness.</summary>
public sealed class VoiceActivityTests
{
    [Fact]
    public void Where_the_room_is_quiet_loudness_says_where_speech_begins_and_ends()
    {
        // Loud from 100 to 200; the network is late at both ends.
        var energy = Row(400, 9, (100, 200, 1_000_000));
        var chances = Row(400, 0.05f, (104, 208, 0.95f));
        Assert.Equal([StepRange.Of(100, 200)], VoiceActivity.Speech(chances, energy));
    }

    [Fact]
    public void In_noise_the_network_decides_alone_but_for_how_late_it_is()
    {
        var energy = Row(400, 500_000, (100, 200, 1_000_000));
        var chances = Row(400, 0.05f, (104, 208, 0.95f));
        Assert.Equal([StepRange.Of(102, 202)], VoiceActivity.Speech(chances, energy));
    }

    [Fact]
    public void What_is_loud_and_no_speech_is_left_out()
    {
        var energy = Row(400, 9, (20, 60, 1_000_000), (100, 200, 1_000_000));
        Assert.Equal([StepRange.Of(100, 200)], VoiceActivity.Speech(Row(400, 0.05f, (104, 208, 0.95f)), energy));
    }

    [Fact]
    public void Speech_goes_on_while_it_is_less_likely_and_over_a_breath_but_does_not_begin_so()
    {
        var energy = Row(400, 500_000);
        var speech = VoiceActivity.Speech(Row(400, 0.05f, (50, 80, 0.9f), (80, 120, 0.15f), (128, 160, 0.9f), (220, 300, 0.15f)), energy);
        Assert.Equal([StepRange.Of(48, 154)], speech);
    }

    [Fact]
    public void Speech_lies_in_order_and_apart_within_the_sound_whatever_is_likely() =>
        Gen.Select(Gen.Float[0, 1].Array[0, 200], Gen.Float[0, 1e7f].Array[200, 200])
            .Sample(
                (chances, energies) =>
                {
                    var energy = energies[..chances.Length];
                    var speech = VoiceActivity.Speech(chances, energy);
                    Assert.All(speech, r => Assert.InRange(r.Count, 1, chances.Length));
                    Assert.All(speech.Zip(speech.Skip(1)), p => Assert.True(p.First.End < p.Second.First, $"{p.First} {p.Second}"));
                    Assert.All(speech, r => Assert.True(r.First.Value >= 0 && r.End.Value <= chances.Length, r.ToString()));
                }
            );

    [Fact]
    public void By_loudness_alone_every_loud_step_is_speech_and_silence_none()
    {
        Assert.Equal(
            [StepRange.Of(100, 200), StepRange.Of(210, 300)],
            VoiceActivity.SpeechByLoudness(Row(400, 9, (100, 200, 1_000_000), (210, 300, 1_000_000)))
        );
        Assert.Empty(VoiceActivity.SpeechByLoudness(new float[100]));
        Assert.Empty(VoiceActivity.SpeechByLoudness([]));
    }

    [Theory]
    [InlineData(20_000, true)]
    [InlineData(200_000, false)]
    [InlineData(5_000_000, false)]
    public void Talk_stands_clear_of_what_else_sounds_when_that_is_much_softer(float others, bool clear) =>
        Assert.Equal(
            clear,
            VoiceActivity.StandsClear([StepRange.Of(300, 900)], Row(1_000, others, (300, 600, 800_000), (600, 900, 1_200_000)))
        );

    [Fact]
    public void A_short_sound_needs_no_pauses_to_be_clear_and_a_long_one_does()
    {
        Assert.True(VoiceActivity.StandsClear([StepRange.Of(0, 300)], Row(300, 1_000)));
        Assert.False(VoiceActivity.StandsClear([StepRange.Of(0, 9_000)], Row(9_000, 1_000)));
        Assert.True(VoiceActivity.StandsClear([], []));
    }

    private static float[] Row(int steps, float usual, params (int First, int End, float Value)[] others)
    {
        var row = new float[steps];
        Array.Fill(row, usual);
        foreach (var (first, end, value) in others)
        {
            row.AsSpan(first, end - first).Fill(value);
        }
        return row;
    }
}
