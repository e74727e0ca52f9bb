using EmberLane.Core.Speech;
using EmberLane.Core.Voices;

namespace EmberLane.Core.Tests.Voices;

/// <summary>Where a mic is off: energies of talk over a room's noise, with stretches of nothing or of hiss.</summary>
public sealed class SwitchedOffTests
{
    private readonly Random draw = new(3);

    // A second of syllables, a second of quiet in turns, in a room whose noise has this power.
    private float[] Talk(int seconds, float room) =>
        [
            .. Enumerable
                .Range(0, seconds * 100)
                .Select(i =>
                    (float)((i / 100 % 2 == 0 && i % 33 < 25 ? 1e5 * draw.NextDouble() : 0) + (room * (0.7 + (0.6 * draw.NextDouble()))))
                ),
        ];

    private float[] With(float[] mic, int first, int end, float hiss)
    {
        for (var i = first; i < end; i++)
        {
            mic[i] = hiss * (float)(0.8 + (0.4 * draw.NextDouble()));
        }
        return mic;
    }

    [Theory]
    [InlineData(0)]
    [InlineData(4)]
    [InlineData(40)]
    public void A_mic_that_is_switched_off_is_off_from_there_to_the_step(float hiss)
    {
        var mic = With(Talk(60, 800), 3_010, 6_000, hiss);
        Assert.Equal([StepRange.Of(3_010, 6_000)], SwitchedOff.Of(mic));
        var silenced = SwitchedOff.Silenced(mic);
        Assert.All(silenced[3_010..], e => Assert.Equal(0, e));
        Assert.Equal(mic[..3_010], silenced[..3_010]);
    }

    [Fact]
    public void Without_signal_half_a_second_is_off_and_less_is_not()
    {
        Assert.Equal([StepRange.Of(1_000, 1_060)], SwitchedOff.Of(With(With(Talk(60, 800), 1_000, 1_060, 0), 2_000, 2_030, 0)));
        Assert.Equal([StepRange.Of(0, 300)], SwitchedOff.Of(new float[300]));
    }

    [Theory]
    [InlineData(0.5f)]
    [InlineData(20)]
    [InlineData(5_000)]
    public void A_live_mic_is_never_off_however_quiet_its_room_and_however_long_its_person_listens(float room)
    {
        Assert.Empty(SwitchedOff.Of(Talk(60, room)));
        var listening = With(Talk(90, room), 3_000, 7_000, room);
        Assert.Empty(SwitchedOff.Of(listening));
        Assert.Same(listening, SwitchedOff.Silenced(listening));
    }

    [Fact]
    public void Nothing_is_off_in_nothing() => Assert.Empty(SwitchedOff.Of([]));
}
