using EmberLane.Core.Sync;

namespace EmberLane.Core.Tests.Sync;

public sealed class SoundMatchTests
{
    private const int Rate = SoundMatch.SampleRate;

    // Bursts of coloured noise with pauses, as talk has.
    private static float[] Talk(int seconds, int seed)
    {
        var random = new Random(seed);
        var sound = new float[seconds * Rate];
        for (var at = 0; at < sound.Length;)
        {
            var length = random.Next(Rate / 20, Rate / 3);
            double loud = random.NextDouble() * 0.3,
                low = 0,
                colour = 0.2 + (random.NextDouble() * 0.6);
            for (var i = at; i < Math.Min(sound.Length, at + length); i++)
            {
                low += colour * (random.NextDouble() - 0.5 - low);
                sound[i] = (float)(loud * low);
            }
            at += length + random.Next(0, Rate / 2);
        }
        return sound;
    }

    private static float[] Recorded(float[] sound, double from, double seconds, double ppm, double noise, int seed)
    {
        var random = new Random(seed);
        var copy = new float[(int)(seconds * Rate)];
        for (var i = 0; i < copy.Length; i++)
        {
            var at = (from * Rate) + (i * (1 + (ppm / 1e6)));
            var whole = (int)Math.Floor(at);
            float Get(int k) => k >= 0 && k < sound.Length ? sound[k] : 0;
            copy[i] =
                Get(whole)
                + ((float)(at - whole) * (Get(whole + 1) - Get(whole)))
                + (0.3f * Get(whole - 400))
                + (float)(noise * (random.NextDouble() - 0.5));
        }
        return copy;
    }

    [Theory]
    [InlineData(37.25, 60, 0)]
    [InlineData(0, 120, 80)]
    [InlineData(-20.5, 90, -60)]
    [InlineData(100.1, 60, 30)]
    public void A_recording_of_the_same_talk_is_placed_within_half_a_millisecond_and_its_drift_within_3_ppm(
        double from,
        double seconds,
        double ppm
    )
    {
        var talk = Talk(180, 4);
        var found = SoundMatch.Find(new HeldSound(talk), new HeldSound(Recorded(talk, from, seconds, ppm, 0.01, 9)));
        Assert.True(found.Matched);
        Assert.InRange(found.Start.FromZero.ToSecondsInexact() - from, -0.0005, 0.0005);
        Assert.InRange((found.DriftPerBillion / 1000.0) - ppm, -3, 3);
    }

    // A wall that gives back the lows of the talk louder than they come straight, so that the lows agree best on the reflection.
    private static float[] BesideAWall(float[] sound, int late, double louder)
    {
        var heard = new float[sound.Length];
        double low = 0;
        for (var i = 0; i < heard.Length; i++)
        {
            low += 0.25 * ((i >= late ? sound[i - late] : 0) - low);
            heard[i] = (float)((0.7 * sound[i]) + (louder * low));
        }
        return heard;
    }

    [Theory]
    [InlineData(5, 1.3)]
    [InlineData(14, 1.5)]
    [InlineData(31, 1.2)]
    public void A_reflection_that_is_louder_than_the_direct_sound_is_not_where_a_recording_is_placed(int milliseconds, double louder)
    {
        var talk = Talk(180, 4);
        var wall = BesideAWall(talk, milliseconds * Rate / 1000, louder);
        var found = SoundMatch.Find(new HeldSound(talk), new HeldSound(Recorded(wall, 21.5, 90, 40, 0.004, 3)));
        Assert.True(found.Matched);
        Assert.InRange(found.Start.FromZero.ToSecondsInexact() - 21.5, -0.0005, 0.0005);
        Assert.InRange((found.DriftPerBillion / 1000.0) - 40, -3, 3);
    }

    [Theory]
    [InlineData(12.5, 1300, 45)]
    [InlineData(-200, 1150, -90)]
    public void A_long_overlap_with_a_drifting_clock_is_placed_as_exactly(double from, double seconds, double ppm)
    {
        var talk = Talk(1400, 7);
        var found = SoundMatch.Find(new HeldSound(talk), new HeldSound(Recorded(talk, from, seconds, ppm, 0.01, 9)));
        Assert.True(found.Matched, found.ToString());
        Assert.InRange(found.Start.FromZero.ToSecondsInexact() - from, -0.0005, 0.0005);
        Assert.InRange((found.DriftPerBillion / 1000.0) - ppm, -1, 1);
    }

    [Fact]
    public void Two_long_talks_that_share_one_short_passage_are_not_taken_for_one_occasion()
    {
        float[] one = Talk(1200, 21),
            other = Talk(1200, 22);
        Array.Copy(one, 300 * Rate, other, 800 * Rate, 5 * Rate);
        Assert.False(SoundMatch.Find(new HeldSound(one), new HeldSound(other)).Matched);
        Assert.False(
            SoundMatch.Find(new HeldSound(one[(200 * Rate)..(500 * Rate)]), new HeldSound(other[(700 * Rate)..(1000 * Rate)])).Matched
        );
    }

    [Fact]
    public void Another_talk_is_not_matched()
    {
        for (var seed = 0; seed < 8; seed++)
        {
            Assert.False(SoundMatch.Find(new HeldSound(Talk(120, 100 + seed)), new HeldSound(Talk(60, 200 + seed))).Matched);
        }
    }

    [Fact]
    public void Silence_and_sound_too_short_are_not_matched()
    {
        (float[] One, float[] Other)[] pairs =
        [
            (Talk(60, 1), new float[30 * Rate]),
            (new float[30 * Rate], new float[30 * Rate]),
            ([], []),
            (Talk(60, 1), Talk(1, 1)),
        ];
        Assert.All(pairs, p => Assert.False(SoundMatch.Find(new HeldSound(p.One), new HeldSound(p.Other)).Matched));
    }
}
